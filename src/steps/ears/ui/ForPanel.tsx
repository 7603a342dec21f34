'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { type ReactNode, useState } from 'react';
import { SKILLS, skillOf, usualChoices } from '@/core/ears/skills';
import { DecimalField } from '@/ui/DecimalField';
import { type Found, FoundPicker } from '@/ui/FoundPicker';
import { ShownOnce } from '@/ui/ShownOnce';
import { token } from '@/ui/tokens';
import { useSend } from '@/ui/useSend';
import { EARS } from '../endpoints';
import { besideOf, type EarsView } from '../schema';

const ROW = { display: 'flex', flexWrap: 'wrap', gap: 1.5, alignItems: 'flex-start', mt: 1.5 };
const USUAL_DB = 1;
const ALONE = 'alone';
/** A clip is told by its comparison, its passage and its chain; the chain stands last. */
const CLIP_PX = 760;

function Lines({
  label,
  lines,
  onDelete,
}: {
  label: string;
  lines: readonly { id: string; text: string }[];
  onDelete: (id: string) => void;
}) {
  if (lines.length === 0) return null;
  return (
    <Box component="ul" aria-label={label} sx={{ listStyle: 'none', p: 0, m: 0 }}>
      {lines.map(({ id, text }) => (
        <Box component="li" key={id} sx={{ display: 'flex', alignItems: 'center', gap: 1 }}>
          <span>{text}</span>
          <Button size="small" aria-label={`Delete ${text}`} onClick={() => onDelete(id)}>
            Delete
          </Button>
        </Box>
      ))}
    </Box>
  );
}

function Select({
  label,
  value,
  onChange,
  options,
  width = 200,
}: {
  label: string;
  value: string;
  onChange: (value: string) => void;
  options: readonly (readonly [value: string, text: string])[];
  width?: number;
}) {
  return (
    <TextField
      select
      size="small"
      label={label}
      value={value}
      onChange={({ target }) => onChange(target.value)}
      sx={{ width, maxWidth: '100%' }}
    >
      {options.map(([own, text]) => (
        <MenuItem key={own} value={own}>
          {text}
        </MenuItem>
      ))}
    </TextField>
  );
}

const Part = ({ title, children }: { title: string; children: ReactNode }) => (
  <>
    <Typography variant="h3" sx={{ mt: 2.5 }}>
      {title}
    </Typography>
    {children}
  </>
);

function Tests({ tests }: Pick<EarsView, 'tests'>) {
  const { send, busy } = useSend();
  const [skillId, setSkill] = useState('band');
  const skill = skillOf(skillId)!;
  const [chosen, setChosen] = useState<Record<string, string>>({});
  const [amount, setAmount] = useState(USUAL_DB);
  const choices = { ...usualChoices(skill), ...chosen };
  const { hardest, easiest } = skill.axis;
  const [least, most] = [Math.min(hardest, easiest), Math.max(hardest, easiest)];
  return (
    <Part title="Short tests">
      <Typography sx={{ color: token('soft'), fontSize: '0.875rem', maxWidth: '72ch' }}>
        Sixteen trials at one size. What they come to stands beside a listener’s answers in results;
        it drops nobody.
      </Typography>
      <Lines
        label="Short tests"
        lines={tests.map(({ id, title }) => ({ id, text: title }))}
        onDelete={(testId) => void send(EARS.removeTest, { testId })}
      />
      <Box sx={ROW}>
        <Select
          label="Test of"
          value={skillId}
          onChange={(id) => {
            setSkill(id);
            setChosen({});
            const { axis } = skillOf(id)!;
            setAmount(
              axis.scale === 'ratio' ? USUAL_DB : Math.round((axis.hardest + axis.easiest) / 2),
            );
          }}
          options={SKILLS.filter(({ clips }) => clips === 1).map(({ id, label }) => [id, label])}
          width={220}
        />
        {Object.entries(skill.choices).map(([key, { label, words }]) => (
          <Select
            key={key}
            label={label}
            value={choices[key]!}
            onChange={(value) => setChosen({ ...chosen, [key]: value })}
            options={Object.entries(words)}
            width={140}
          />
        ))}
        <DecimalField
          key={skillId}
          label={skill.unit}
          value={amount}
          least={least}
          most={most}
          onKeep={(value) => value !== null && setAmount(value)}
          size="small"
          sx={{ width: 130 }}
        />
        <Button
          variant="outlined"
          disabled={busy}
          onClick={() => void send(EARS.addTest, {}, { skill: skillId, choices, amount })}
        >
          Add the test
        </Button>
      </Box>
    </Part>
  );
}

function Sounds({ given, clips }: Pick<EarsView, 'given' | 'clips'>) {
  const { send, busy } = useSend();
  const [at, setAt] = useState('0');
  const [otherOf, setOther] = useState(ALONE);
  const [title, setTitle] = useState('');
  const sound = clips[Number(at)]?.sound;
  const others = besideOf(sound, clips);
  const other = others.find(({ chainId }) => chainId === otherOf);
  const add = async () => {
    if (sound?.kind !== 'clip') return;
    const { comparisonId, clipSetId, chainId } = sound;
    const draft = { comparisonId, clipSetId, chainId, otherId: other?.chainId ?? null, title };
    if (await send(EARS.addSound, {}, draft)) setTitle('');
  };
  return (
    <Part title="Sounds">
      <Typography sx={{ color: token('soft'), fontSize: '0.875rem', maxWidth: '72ch' }}>
        The panel has the made-up sounds, and the clips that you give it here under a title that
        names no chain: one, or one of each of two chains that are to be learned. While a sitting
        over a clip’s comparison is open, the clip rests.
      </Typography>
      <Lines
        label="Sounds"
        lines={given.map(({ id, title: own, pair, shut }) => ({
          id,
          text: `${own}${pair ? ', two chains' : ''}${shut ? ' (rests: a sitting is open)' : ''}`,
        }))}
        onDelete={(soundId) => void send(EARS.removeSound, { soundId })}
      />
      {clips.length > 0 ? (
        <Box sx={ROW}>
          <Select
            label="Clip"
            value={at}
            onChange={setAt}
            options={clips.map((clip, i) => [String(i), clip.title])}
            width={CLIP_PX}
          />
          <Select
            label="and of"
            value={other?.chainId ?? ALONE}
            onChange={setOther}
            options={[
              [ALONE, 'no other chain'],
              ...others.map((one) => [one.chainId, one.title] as const),
            ]}
            width={CLIP_PX}
          />
          <TextField
            size="small"
            label="Title for the panel"
            value={title}
            onChange={({ target }) => setTitle(target.value)}
            sx={{ width: 220 }}
          />
          <Button
            variant="outlined"
            disabled={busy || title.trim() === ''}
            onClick={() => void add()}
          >
            Add the sound
          </Button>
        </Box>
      ) : (
        <Typography sx={{ mt: 1 }}>No clips yet; match a passage of a comparison first.</Typography>
      )}
    </Part>
  );
}

function Links() {
  const { send, busy } = useSend();
  const [chosen, setChosen] = useState<Found[]>([]);
  const [fresh, setFresh] = useState<{ name: string; link: string }[]>([]);
  const make = async () => {
    const made: { name: string; link: string }[] = [];
    for (const { id, name } of chosen) {
      const secret = await send(EARS.link, { panelistId: id });
      if (secret) made.push({ name, link: `${window.location.origin}/train/${secret.token}` });
    }
    setFresh(made);
    setChosen([]);
  };
  return (
    <Part title="Links">
      <Typography sx={{ color: token('soft'), fontSize: '0.875rem', maxWidth: '72ch' }}>
        Each trains by a link of their own. What they hear is seen here only if they agree; tests
        are seen always, and their page says so.
      </Typography>
      <ShownOnce links={fresh} />
      <Box sx={{ ...ROW, maxWidth: 760 }}>
        <FoundPicker
          label="From the panel"
          from={EARS.people}
          ids={{}}
          value={chosen}
          onChange={setChosen}
        />
        <Button
          variant="outlined"
          disabled={busy || chosen.length === 0}
          onClick={() => void make()}
        >
          Make links
        </Button>
      </Box>
    </Part>
  );
}

/** What the panel may train on and is tested by, and the links that lead there. */
export function ForPanel({ view }: { view: EarsView }) {
  return (
    <>
      <Typography variant="h2" sx={{ mt: 4 }}>
        For the panel
      </Typography>
      <Links />
      <Tests tests={view.tests} />
      <Sounds given={view.given} clips={view.clips} />
    </>
  );
}
