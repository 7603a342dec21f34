'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import FormGroup from '@mui/material/FormGroup';
import LinearProgress from '@mui/material/LinearProgress';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import dynamic from 'next/dynamic';
import { useRouter } from 'next/navigation';
import { type ReactNode, useRef, useState } from 'react';
import { PATTERNS } from '@/core/chain/specs';
import { recordingAngleDeg } from '@/core/chain/stereo';
import { SAME_GAIN_MOST_LUFS } from '@/core/matching/methods';
import { quietPlace } from '@/core/signal/quiet-place';
import { PASSAGE_S } from '@/steps/comparisons/schema';
import { COMPARISONS } from '@/steps/comparisons/endpoints';
import { MATCH } from '@/steps/match/endpoints';

import { type Chain, isVariant } from '@/steps/chains/schema';
import {
  type ClipSet,
  CONTEXT_WORDS,
  type ContextOrder,
  type MatchOrder,
} from '@/steps/match/schema';
import type { BlindPack } from '@/steps/match/pack-store';
import type { MatchView } from '@/steps/match/service';
import { PEAKS_PER_S } from '@/steps/takes/schema';
import { day, level } from '@/ui/format';
import { Note, PageHeading } from '@/ui/Sheet';
import { DecimalField } from '@/ui/DecimalField';
import { token } from '@/ui/tokens';
import { INSIST, NamedListening } from '@/ui/NamedListening';
import { NextLink } from '@/ui/NextLink';
import { useSend } from '@/ui/useSend';
import { AlignmentChoices } from './AlignmentChoices';
import { ClipListening } from './ClipListening';
import { ClipTable } from './ClipTable';
import { type ContextChoices, choicesFrom, completed, wantedKinds } from './context-choices';
import { ContextPanel } from './ContextPanel';
import { MethodsNote } from './MethodsNote';
import { PackPanel } from './PackPanel';
import { PassagePicker } from './PassagePicker';
import { PassageSound } from './PassageSound';
import { SpectrumPanel } from './SpectrumPanel';
import { TakeChoices } from './TakeChoices';
import { VariantsPanel } from './VariantsPanel';
import { findingOf } from './finding';
import { usePeaks } from './usePeaks';

const Waveform = dynamic(() => import('./Waveform'), {
  ssr: false,
  loading: () => <Box sx={{ height: 145 }} />,
});

const METHODS: Record<MatchOrder['method'], string> = {
  loudness: 'programme loudness (default)',
  rms: 'average power (RMS)',
  tone: 'a printed 1 kHz tone',
  hand: 'loudness with offsets by ear',
  test: 'a test sound in a take of its own',
  gain: 'nothing but the gain (same gain)',
};
const PROPOSED_S = 12;
/** How far the silence may lie from where the passage is cut now. */
const SILENCE_REACH_S = 1;

/** Without a passage yet: the middle of the take. */
function proposedPassage(durationS: number): [number, number] {
  const length = Math.min(PROPOSED_S, durationS);
  const from = Math.max(0, (durationS - length) / 2);
  return [Math.round(from * 100) / 100, Math.round((from + length) * 100) / 100];
}

function PassageFields({
  passage,
  durationS,
  peaks,
  onPassage,
}: {
  passage: readonly [number, number];
  durationS: number;
  peaks: number[] | null;
  onPassage: (fromS: number, toS: number) => void;
}) {
  const [from, to] = passage;
  const quiet = (atS: number) => quietPlace(peaks ?? [], PEAKS_PER_S, atS, SILENCE_REACH_S);
  const field = (label: string, value: number, put: (seconds: number) => void) => (
    <DecimalField
      label={label}
      value={value}
      decimals={2}
      least={0}
      most={Math.ceil(durationS)}
      onKeep={(seconds) => {
        if (seconds !== null && Math.abs(seconds - value) > 0.004) put(seconds);
      }}
      sx={{ width: 130 }}
    />
  );
  return (
    <>
      {field('Passage from, s', from, (seconds) =>
        onPassage(seconds, Math.max(to, seconds + PASSAGE_S.least)),
      )}
      {field('to, s', to, (seconds) =>
        onPassage(Math.min(from, seconds - PASSAGE_S.least), seconds),
      )}
      <Button disabled={!peaks} onClick={() => onPassage(quiet(from), quiet(to))}>
        Cut in silence
      </Button>
    </>
  );
}

/** What a stereo pair was planned to be, and how wide it takes the sources in. */
function arrayPlan(chain: Chain | undefined): string | null {
  if (chain?.shape.kind !== 'pair') return null;
  const { spacingM, openingDeg } = chain.shape;
  const p = PATTERNS[chain.gear.at(0)?.settings.pattern ?? 'cardioid'];
  const angle = recordingAngleDeg({ p, spacingM, openingDeg });
  const wide =
    angle === null ? 'never as wide as the loudspeakers' : `recording angle ${Math.round(angle)}°`;
  return `planned ${Math.round(100 * spacingM)} cm, ${openingDeg}°: ${wide}`;
}

/** Which gains clips would be brought to one from, and which of them nobody wrote down. */
function GainNote({ chains }: { chains: { name: string; gainDb: number | null }[] }) {
  const known = chains.filter(({ gainDb }) => gainDb !== null);
  const missing = chains.filter(({ gainDb }) => gainDb === null).map(({ name }) => name);
  return (
    <Typography sx={{ fontSize: '0.875rem', mb: 2, maxWidth: '76ch' }}>
      As side by side at the desk, every chain at one gain: clips will not be equally loud, and the
      louder of two is liked better for that alone. For hearing noise, distance, pattern and
      switches; for preference between chains match by loudness.{' '}
      {known.length > 0 &&
        `Recorded at ${known.map(({ name, gainDb }) => `${gainDb} dB (${name})`).join(', ')}. `}
      {missing.length > 0 && (
        <Box component="span" sx={{ color: token('ochre') }}>
          Nothing says at which gain {missing.join(', ')} {missing.length === 1 ? 'was' : 'were'}{' '}
          recorded: write it on the run sheet, or into the chain.
        </Box>
      )}
    </Typography>
  );
}

/** One offset for each chain, set by ear. */
function OffsetFields({
  chains,
  offsets,
  onChange,
}: {
  chains: { id: string; name: string }[];
  offsets: Record<string, number>;
  onChange: (offsets: Record<string, number>) => void;
}) {
  return (
    <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 1.5, mb: 2 }}>
      {chains.map(({ id, name }) => (
        <DecimalField
          key={id}
          size="small"
          label={`${name}, dB`}
          value={offsets[id] ?? 0}
          least={-24}
          most={24}
          onKeep={(db) => onChange({ ...offsets, [id]: db ?? 0 })}
          sx={{ width: 180 }}
        />
      ))}
    </Box>
  );
}

/** At which level a set lies, and why there. */
function targetWords(
  method: MatchOrder['method'],
  { targetLufs, limitedBy }: NonNullable<ClipSet['facts']>,
): string {
  if (method === 'gain') {
    const kept = `no clip is louder than ${level(SAME_GAIN_MOST_LUFS, 0, 'LUFS')}, no peak over −1 dBTP`;
    return `As if every chain had been set to ${level(targetLufs, 1, 'dB')} of gain: ${kept}.`;
  }
  const unit = method === 'loudness' || method === 'hand' ? 'LUFS' : 'dB';
  return `Target ${level(targetLufs, 1, unit)}, the highest that keeps every peak under −1 dBTP; ${limitedBy} sets it.`;
}

function setLabel({ context, createdAt, state, sittings, method }: ClipSet): string {
  const parts = [CONTEXT_WORDS[context], day(createdAt)];
  if (method !== 'loudness') parts.push(METHODS[method]);
  if (state !== 'ready') parts.push(state === 'waiting' ? 'being made' : 'not possible');
  if (sittings > 0) parts.push(`used in ${sittings === 1 ? 'a sitting' : `${sittings} sittings`}`);
  return parts.join(' · ');
}

export function MatchScreen({
  view,
  packs,
  guarded,
  work,
  testing,
  packAnswers,
}: {
  view: MatchView;
  packs: BlindPack[];
  /** The way to test one's own ears on the clips that are shown. */
  testing: ReactNode;
  /** What takes in the answers to each pack. */
  packAnswers: Record<string, ReactNode>;
  /** Sets that open sittings ask about. */
  guarded: readonly string[];
  work: { subjectId: string; progress: number }[];
}) {
  const [insists, setInsists] = useState(false);
  const { comparison, chains, takes, alignments, sets, clipSet, clips, passages, sources, rooms } =
    view;
  const router = useRouter();
  const { send, busy } = useSend();
  const withTake = chains.filter((chain) => alignments.some(({ chainId }) => chainId === chain.id));
  const [leftOut, setLeftOut] = useState<readonly string[]>(clipSet?.recipe.leftOut ?? []);
  const usable = withTake.filter(({ id }) => !leftOut.includes(id));
  const [chosen, setChosen] = useState<string | null>(null);
  /**
   * How a passage was marked here last; the next change starts from it. What is read back may be older: of a change
   * before it, which came to the same.
   */
  const [asked, setAsked] = useState<{ id: string; passage: readonly [number, number] } | null>(
    null,
  );
  const keeping = useRef<Promise<unknown>>(Promise.resolve());
  const [method, setMethod] = useState<MatchOrder['method']>(clipSet?.method ?? 'loudness');
  const [offsets, setOffsets] = useState<Record<string, number>>(clipSet?.recipe.offsets ?? {});
  const [ticked, setKinds] = useState<ContextOrder['kind'][] | null>(null);
  const kinds = ticked ?? wantedKinds(comparison.brief.contexts, view.hasBacking, view.passage);
  const [refused, setRefused] = useState<{ passage: string; reason: string }[]>([]);
  const [choices, setChoices] = useState<ContextChoices>(() => choicesFrom(sets));
  const fallback = clipSet?.referenceChainId ?? usable[0]?.id;
  const reference =
    usable.find(({ id }) => id === chosen) ?? usable.find(({ id }) => id === fallback);
  const placed = alignments.find(({ chainId }) => chainId === reference?.id);
  const take = takes.find(({ id }) => id === placed?.takeId);
  const base = `/api/comparisons/${comparison.id}`;
  const takesUrl = `${base}/takes`;
  const peaks = usePeaks(comparison.id, take?.id);
  const page = `/comparisons/${comparison.id}/match`;
  const placedTake = (chainId: string) => alignments.find((one) => one.chainId === chainId)?.takeId;
  const nameOf = (chainId: string) => chains.find(({ id }) => id === chainId)?.name ?? '';
  const picker = (
    <PassagePicker
      comparisonId={comparison.id}
      page={page}
      sources={sources}
      passages={passages}
      takes={takes}
      passage={view.passage}
    />
  );
  if (withTake.length < 2 || !take?.facts) {
    return (
      <>
        <PageHeading
          finding={
            passages.length > 1
              ? `“${view.passage.name}” needs two takes`
              : 'A match needs two takes'
          }
        />
        {picker}
        <Typography sx={{ mb: 2, maxWidth: '60ch' }}>
          Give at least two chains a take{' '}
          {sources.length > 1 ? `of ${view.passage.sourceName}` : 'each'}. Then mark the passage
          here, and Zeitbank cuts, aligns and level-matches the clips.
        </Typography>
        <Button
          component={NextLink}
          href={`/comparisons/${comparison.id}/takes`}
          variant="contained"
        >
          Go to the takes
        </Button>
      </>
    );
  }
  const { durationS } = take.facts;
  const { fromS: markedFrom, toS: markedTo, id: passageId } = view.passage;
  const marked: readonly [number, number] =
    markedFrom !== null && markedTo !== null ? [markedFrom, markedTo] : proposedPassage(durationS);
  const own = asked?.id === passageId ? asked.passage : null;
  const passage = own ?? marked;
  const keepPassage = async (from: number, to: number) => {
    const fromS = Math.max(0, Math.round(from * 1000) / 1000);
    const toS = Math.min(durationS, Math.round(to * 1000) / 1000);
    const mine = { id: passageId, passage: [fromS, toS] as const };
    setAsked(mine);
    // One after another: an earlier one that arrives later would undo it.
    const kept = keeping.current.then(() =>
      send(COMPARISONS.changePassage, { id: comparison.id, passageId }, { fromS, toS }),
    );
    keeping.current = kept;
    if ((await kept) === null) setAsked((now) => (now === mine ? null : now));
  };
  const order = (referenceChainId: string, without: readonly string[] = leftOut) => ({
    method,
    referenceChainId,
    contexts: kinds.map((kind) =>
      completed(
        choices[kind],
        usable.filter(({ id }) => !without.includes(id)),
      ),
    ),
    offsets,
    leftOut: [...without],
  });
  const start = async (without: readonly string[] = leftOut) => {
    if (!reference) return;
    if (markedFrom === null) await keepPassage(...(passage as [number, number]));
    await keeping.current;
    const ordered = { passageId, ...order(reference.id, without) };
    const made = await send(MATCH.match, { id: comparison.id }, ordered);
    if (made) router.push(`${page}?passage=${passageId}&clips=${made.ids[0]}`);
  };
  const leaveOut = (chainId: string) => {
    const without = [...leftOut, chainId];
    setLeftOut(without);
    void start(without);
  };
  const startAll = async () => {
    if (!reference) return;
    await keeping.current;
    const made = await send(MATCH.matchAll, { id: comparison.id }, order(reference.id));
    if (made) setRefused(made.refused);
  };
  const askOnlyEq = async (chainId: string, asChainId: string) => {
    const asked = { passageId, chainId, asChainId };
    const made = await send(MATCH.onlyEq, { id: comparison.id }, asked);
    if (made) router.push(`${page}?passage=${passageId}&clips=${made.setId}`);
  };
  const markedPassages = passages.filter(({ fromS }) => fromS !== null).length;
  const being = sets.filter(({ state }) => state === 'waiting').map(({ id }) => id);
  const running = being.length > 0;
  const progress = work.find(({ subjectId }) => being.includes(subjectId))?.progress ?? 0;
  const { finding, aside } = findingOf(clipSet, clips);
  const ready = clipSet?.state === 'ready' && clipSet.facts;
  const raw = sets.find(({ context, state }) => context === 'raw' && state === 'ready');
  const clipUrl = (setId: string, chainId: string) =>
    `${base}/clips/${setId}/${chainId}${guarded.includes(setId) ? INSIST : ''}`;
  const rawUrl = (chainId: string) =>
    raw && (insists || !guarded.includes(raw.id)) ? clipUrl(raw.id, chainId) : null;
  const shut = clipSet !== null && guarded.includes(clipSet.id) && !insists;
  const moved =
    clipSet?.state === 'ready' &&
    (Math.abs(clipSet.passageFromS - passage[0]) > 0.001 ||
      Math.abs(clipSet.passageToS - passage[1]) > 0.001 ||
      clips.length !== usable.length ||
      clips.some((clip) => placedTake(clip.chainId) !== clip.takeId) ||
      view.outdated);
  const again =
    moved || (ready && (method !== clipSet.method || reference?.id !== clipSet.referenceChainId));
  // Only a marker by hand is known to be late before anything is matched.
  const heardTakes = [...usable]
    .sort((a, b) => Number(b.id === reference?.id) - Number(a.id === reference?.id))
    .flatMap(({ id, name }) => {
      const at = alignments.find(({ chainId }) => chainId === id);
      if (!at || at.borrowed) return [];
      return [{ id: at.takeId, name, lateS: at.alignment === 'hand' ? at.delayMs / 1000 : 0 }];
    });
  const roomOf = (chainId: string) => (chainId in rooms ? rooms[chainId] : null);
  const noiseOf = (chainId: string) => roomOf(chainId)?.thirdsDb ?? null;
  return (
    <>
      <PageHeading
        finding={finding}
        aside={aside}
        action={
          <>
            {ready && !again && (
              <Button
                component={NextLink}
                href={`/comparisons/${comparison.id}/sitting`}
                variant="contained"
              >
                Use in a sitting
              </Button>
            )}
            <Button
              variant={ready && !again ? 'outlined' : 'contained'}
              disabled={busy || running}
              onClick={() => void start()}
            >
              {clipSet ? 'Match again' : 'Match the clips'}
            </Button>
            {markedPassages > 1 && (
              <Button disabled={busy || running} onClick={() => void startAll()}>
                Match all {markedPassages} passages
              </Button>
            )}
          </>
        }
      />
      {clipSet?.state === 'failed' && (
        <Note kind="problem">
          {clipSet.remark}{' '}
          <Button
            disabled={busy}
            onClick={() => void send(MATCH.removeFailed, { id: comparison.id, setId: clipSet.id })}
          >
            Remove this match
          </Button>
        </Note>
      )}
      {running && (
        <LinearProgress
          variant="determinate"
          value={100 * progress}
          aria-label="Match"
          sx={{ mb: 2 }}
        />
      )}
      {refused.map(({ passage: name, reason }) => (
        <Note key={name} kind="problem">
          {name}: {reason}
        </Note>
      ))}
      {moved && (
        <Note kind="caution">
          The passage, the takes, a variant or the chains that take part changed since this match;
          match again to use them.
        </Note>
      )}
      {picker}
      {peaks && (
        <Waveform
          key={passageId}
          peaks={peaks}
          durationS={durationS}
          passage={passage}
          onPassage={(fromS, toS) => void keepPassage(fromS, toS)}
        />
      )}
      <PassageSound
        key={`sound ${passageId}`}
        takesUrl={takesUrl}
        takes={heardTakes}
        passage={passage}
      />
      <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 2, my: 2 }}>
        <PassageFields
          passage={passage}
          durationS={durationS}
          peaks={peaks}
          onPassage={(fromS, toS) => void keepPassage(fromS, toS)}
        />
        <TextField
          select
          label="Reference (sets the time)"
          value={reference?.id ?? ''}
          onChange={({ target }) => setChosen(target.value)}
          sx={{ width: 230 }}
        >
          {usable.map(({ id, name }) => (
            <MenuItem key={id} value={id}>
              {name}
            </MenuItem>
          ))}
        </TextField>
        <TextField
          select
          label="Made equal by"
          value={method}
          onChange={({ target }) => setMethod(target.value as MatchOrder['method'])}
          sx={{ width: 290 }}
        >
          {Object.entries(METHODS).map(([name, text]) => (
            <MenuItem key={name} value={name}>
              {text}
            </MenuItem>
          ))}
        </TextField>
      </Box>
      <FormGroup
        row
        aria-label="Chains that take part"
        sx={{ columnGap: 1, mb: 2, alignItems: 'center' }}
      >
        <Typography sx={{ fontSize: '0.875rem', color: token('soft'), mr: 1 }}>
          Take part:
        </Typography>
        {withTake.map(({ id, name }) => (
          <FormControlLabel
            key={id}
            label={name}
            control={
              <Checkbox
                size="small"
                checked={!leftOut.includes(id)}
                disabled={id === reference?.id || (usable.length < 3 && !leftOut.includes(id))}
                onChange={({ target }) =>
                  setLeftOut(
                    target.checked ? leftOut.filter((one) => one !== id) : [...leftOut, id],
                  )
                }
              />
            }
          />
        ))}
      </FormGroup>
      {method === 'gain' && (
        <GainNote
          chains={usable.map(({ id, name }) => ({
            name,
            gainDb: alignments.find(({ chainId }) => chainId === id)?.recordedGainDb ?? null,
          }))}
        />
      )}
      {method === 'test' && (
        <Typography sx={{ fontSize: '0.875rem', mb: 2, maxWidth: '76ch' }}>
          By the loudness of each chain’s take of the test sound (noise or a tone from one place),
          which was recorded at the gain of the performance, or at one that is written down. The
          music itself need not come equally loud then: for preference match by loudness.
        </Typography>
      )}
      {method === 'hand' && (
        <OffsetFields chains={usable} offsets={offsets} onChange={setOffsets} />
      )}
      <TakeChoices
        comparisonId={comparison.id}
        passage={view.passage}
        chains={usable}
        takes={takes}
        alignments={alignments}
        capture={sources.find(({ id }) => id === view.passage.sourceId)?.capture ?? 'at once'}
      />
      <AlignmentChoices
        comparisonId={comparison.id}
        passage={{ id: passageId, fromS: passage[0] }}
        alignments={alignments.filter(({ borrowed }) => !borrowed)}
        takes={takes}
        referenceChainId={reference?.id ?? ''}
        nameOf={nameOf}
        perS={PEAKS_PER_S}
        takesUrl={takesUrl}
        onChange={(change) => void send(MATCH.setAlignment, { id: comparison.id }, change)}
      />
      <VariantsPanel
        comparisonId={comparison.id}
        chains={chains}
        takes={takes.filter(
          ({ programme, state, sourceId }) =>
            programme !== 'backing' && state === 'ready' && sourceId === view.passage.sourceId,
        )}
        without={(chainId) => !alignments.some((one) => one.chainId === chainId)}
        urlOf={rawUrl}
      />
      <ContextPanel
        chains={usable}
        chosen={kinds}
        choices={choices}
        hasBacking={view.hasBacking}
        urlOf={rawUrl}
        onChosen={setKinds}
        onChoices={setChoices}
      />
      {sets.length > 1 && (
        <TextField
          select
          label="Clips to look at"
          value={clipSet?.id ?? ''}
          onChange={({ target }) =>
            router.push(`${page}?passage=${passageId}&clips=${target.value}`)
          }
          sx={{ minWidth: 340, mb: 2 }}
        >
          {sets.map((set) => (
            <MenuItem key={set.id} value={set.id}>
              {setLabel(set)}
            </MenuItem>
          ))}
        </TextField>
      )}
      {ready && (
        <>
          <ClipTable
            clipSet={clipSet}
            clips={clips}
            nameOf={nameOf}
            planOf={(chainId) => arrayPlan(chains.find(({ id }) => id === chainId))}
            noiseDbOf={(chainId) => roomOf(chainId)?.aWeightedDbfs ?? null}
            temperatureC={view.temperatureC}
            onLeaveOut={
              // Two have to stay, and the one that sets the time among them.
              usable.length > 2 && !busy && !running ? leaveOut : undefined
            }
          />
          <Typography sx={{ fontSize: '0.875rem', mt: 1.5 }}>
            {clipSet.context !== 'raw' && `Clips ${CONTEXT_WORDS[clipSet.context]}. `}
            {targetWords(clipSet.method, ready)} No limiter is ever used.
            {clipSet.recipe.leftOut.length > 0 &&
              ` Left out: ${clipSet.recipe.leftOut.map(nameOf).join(', ')}.`}
            {(ready.resampled ?? []).map(
              ({ chain, fromHz }) =>
                ` ${chain} was recorded at ${fromHz / 1000} kHz and resampled to ${ready.sampleRateHz / 1000} kHz.`,
            )}
          </Typography>
          <MethodsNote
            key={clipSet.id}
            clipSet={clipSet}
            clips={clips}
            nameOf={nameOf}
            mayHear={!shut}
            urlOf={(chainId) => clipUrl(clipSet.id, chainId)}
          />
          <Typography variant="h2" sx={{ mt: 3, mb: 1 }}>
            Hear them
          </Typography>
          {shut ? (
            <NamedListening onInsist={() => setInsists(true)} />
          ) : (
            <ClipListening
              key={clipSet.id}
              ids={{ id: comparison.id, setId: clipSet.id }}
              clips={clips.map(({ chainId }) => ({
                chainId,
                name: nameOf(chainId),
                url: clipUrl(clipSet.id, chainId),
              }))}
              notes={view.notes}
              lookerId={view.lookerId}
            />
          )}
          {testing}
          <PackPanel
            comparisonId={comparison.id}
            clipSetId={clipSet.id}
            packs={packs}
            answers={packAnswers}
          />
          <SpectrumPanel
            comparisonId={comparison.id}
            clipSet={clipSet}
            clips={clips}
            nameOf={nameOf}
            noiseOf={noiseOf}
            mayAskOnlyEq={(chainId) =>
              chains.some((chain) => chain.id === chainId && !isVariant(chain))
            }
            onOnlyEq={(chainId, asChainId) => void askOnlyEq(chainId, asChainId)}
          />
        </>
      )}
    </>
  );
}
