'use client';

import Box from '@mui/material/Box';
import Link from '@mui/material/Link';
import MenuItem from '@mui/material/MenuItem';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { type Ground, MUST_HAVE_RULES } from '@/core/decision/must-haves';
import type { Verdict } from '@/core/decision/must-haves/rule';
import type { DecisionView, MustHave } from '@/steps/decision/service';
import { DecimalField } from '@/ui/DecimalField';
import { NextLink } from '@/ui/NextLink';
import { WideTable } from '@/ui/WideTable';
import { token, type TokenName } from '@/ui/tokens';
import { useWeighing } from './useWeighing';

const COLOURS: Record<Verdict, TokenName> = { pass: 'green', fail: 'red', unknown: 'soft' };
const BY_HAND = ['unknown', 'pass', 'fail'] as const;
const USUAL_LIMIT = 0;

/** "noise", "mark build", "by hand": what a must-have is decided by, as the picker names it. */
const keyOf = (ground: Ground) =>
  ground.by === 'hand'
    ? 'hand'
    : ground.by === 'rule'
      ? `rule ${ground.rule}`
      : `mark ${ground.criterion}`;

function groundOf(key: string, before: Ground): Ground {
  const rule = MUST_HAVE_RULES.find(({ id }) => key === `rule ${id}`);
  if (rule) {
    return { by: 'rule', rule: rule.id, limit: before.by === 'rule' ? before.limit : USUAL_LIMIT };
  }
  return key === 'hand'
    ? { by: 'hand' }
    : { by: 'mark', criterion: key.slice('mark '.length), least: 3 };
}

function GroundFields({
  view,
  mustHave: { text, ground, own },
  onChange,
}: {
  view: DecisionView;
  mustHave: MustHave;
  onChange: (ground: Ground) => void;
}) {
  if (own) return <Box sx={{ color: token('soft') }}>the budget of the question</Box>;
  const rule = ground.by === 'rule' ? MUST_HAVE_RULES.find(({ id }) => id === ground.rule) : null;
  return (
    <Box sx={{ display: 'flex', gap: 1, minWidth: 190 }}>
      <TextField
        select
        size="small"
        value={keyOf(ground)}
        onChange={({ target }) => onChange(groundOf(target.value, ground))}
        slotProps={{ htmlInput: { 'aria-label': `What decides “${text}”` } }}
        sx={{ minWidth: 170 }}
      >
        <MenuItem value="hand">said by hand</MenuItem>
        {MUST_HAVE_RULES.map(({ id, label }) => (
          <MenuItem key={id} value={`rule ${id}`}>
            {label}
          </MenuItem>
        ))}
        {view.criteria.map(({ name }) => (
          <MenuItem key={name} value={`mark ${name}`}>
            mark for {name} is at least
          </MenuItem>
        ))}
      </TextField>
      {ground.by === 'rule' && rule?.limit && (
        <DecimalField
          label={rule.limit.unit}
          name={`Limit of “${text}”, ${rule.limit.unit}`}
          value={ground.limit}
          least={rule.limit.least}
          most={rule.limit.most}
          onKeep={(limit) => onChange({ ...ground, limit: limit ?? USUAL_LIMIT })}
        />
      )}
      {ground.by === 'mark' && (
        <TextField
          select
          size="small"
          value={ground.least}
          onChange={({ target }) => onChange({ ...ground, least: Number(target.value) })}
          slotProps={{ htmlInput: { 'aria-label': `Least mark for “${text}”` } }}
        >
          {[1, 2, 3, 4, 5].map((least) => (
            <MenuItem key={least} value={least}>
              {least}
            </MenuItem>
          ))}
        </TextField>
      )}
    </Box>
  );
}

/** Every must-have with what it rests on, and how each chain stands. Unknown is never failed. */
export function MustHavesPanel({ view }: { view: DecisionView }) {
  const { mustHaves, chains, weighing, comparison } = view;
  const { change } = useWeighing(view);
  if (mustHaves.length === 0) {
    return (
      <Typography>
        The question names no must-haves and no budget, so nothing is out.{' '}
        <Link
          underline="always"
          component={NextLink}
          href={`/comparisons/${comparison.id}/question`}
        >
          Go to the question
        </Link>
      </Typography>
    );
  }
  const setGround = ({ text }: MustHave, ground: Ground) =>
    change(
      { grounds: { ...weighing.grounds, [text]: ground } },
      `“${text}” is decided another way.`,
    );
  const say = ({ text }: MustHave, chainId: string, verdict: Verdict) => {
    const others = Object.entries(weighing.byHand[text] ?? {}).filter(([id]) => id !== chainId);
    const own = Object.fromEntries(
      verdict === 'unknown' ? others : [...others, [chainId, verdict] as const],
    );
    return change({ byHand: { ...weighing.byHand, [text]: own } }, `“${text}”: ${verdict}.`);
  };
  return (
    <>
      <Typography sx={{ color: token('soft'), fontSize: '0.875rem', maxWidth: '80ch' }}>
        A chain that fails one is out, however it sounds. What is not known is never failed; what
        data sheets say is what makers say.
      </Typography>
      <WideTable label="Must-haves">
        <Table aria-label="Must-haves" size="small">
          <TableHead>
            <TableRow>
              <TableCell>Chain</TableCell>
              {mustHaves.map((mustHave) => (
                <TableCell key={mustHave.text} sx={{ verticalAlign: 'top', minWidth: 190 }}>
                  {mustHave.text}
                  <Box sx={{ fontWeight: 400, mt: 0.5 }}>
                    <GroundFields
                      view={view}
                      mustHave={mustHave}
                      onChange={(ground) => void setGround(mustHave, ground)}
                    />
                  </Box>
                </TableCell>
              ))}
            </TableRow>
          </TableHead>
          <TableBody>
            {chains.map((chain) => (
              <TableRow key={chain.id}>
                <TableCell component="th" scope="row" sx={{ fontWeight: 600, minWidth: 150 }}>
                  {chain.name}
                </TableCell>
                {chain.mustHaves.map(({ verdict, ground }, i) => {
                  const mustHave = mustHaves[i]!;
                  return (
                    <TableCell key={mustHave.text}>
                      {mustHave.ground.by === 'hand' ? (
                        <TextField
                          select
                          fullWidth={false}
                          size="small"
                          value={verdict}
                          onChange={({ target }) =>
                            void say(mustHave, chain.id, target.value as Verdict)
                          }
                          slotProps={{
                            htmlInput: { 'aria-label': `${mustHave.text}: ${chain.name}` },
                          }}
                          sx={{ '& .MuiSelect-select': { color: token(COLOURS[verdict]) } }}
                        >
                          {BY_HAND.map((one) => (
                            <MenuItem key={one} value={one}>
                              {one}
                            </MenuItem>
                          ))}
                        </TextField>
                      ) : (
                        <>
                          <Box
                            component="span"
                            sx={{ color: token(COLOURS[verdict]), fontWeight: 600 }}
                          >
                            {verdict}
                          </Box>
                          <Box component="span" sx={{ color: token('soft') }}>
                            , {ground}
                          </Box>
                        </>
                      )}
                    </TableCell>
                  );
                })}
              </TableRow>
            ))}
          </TableBody>
        </Table>
      </WideTable>
    </>
  );
}
