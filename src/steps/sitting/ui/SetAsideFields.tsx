import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import { FEWEST_CONTROLS, ruleWords, type SetAsideRule } from '@/core/design/set-aside-rule';
import { DecimalField } from '@/ui/DecimalField';
import { token } from '@/ui/tokens';

const FIELDS: { of: keyof SetAsideRule; label: string; helperText: string }[] = [
  { of: 'answeredPct', label: 'Answered less than, %', helperText: 'Of their own trials.' },
  {
    of: 'hastyPct',
    label: 'Hasty in more than, %',
    helperText: 'Of their answers: given before all could be heard.',
  },
  {
    of: 'alikePct',
    label: 'Repeats alike in less than, %',
    helperText: `From ${FEWEST_CONTROLS} repeats of one listener on; fewer say nothing.`,
  },
  {
    of: 'louderPct',
    label: 'Louder chosen in more than, %',
    helperText: `From ${FEWEST_CONTROLS} louder twins of one listener on.`,
  },
];

/** Whom a second reading leaves out, said before anybody listens. */
export function SetAsideFields({
  rule,
  onChange,
}: {
  rule: SetAsideRule;
  onChange: (rule: SetAsideRule) => void;
}) {
  const words = ruleWords(rule);
  return (
    <>
      <Typography variant="h2" sx={{ mt: 3 }}>
        Whom a second reading leaves out
      </Typography>
      <Typography sx={{ color: token('soft'), maxWidth: '76ch', mb: 2 }}>
        The result is of everybody who answered. Where a rule stands here it is sealed, and all of
        it is read once more without{' '}
        {words === '' ? 'those it names, beside the first: nothing yet.' : `whoever ${words}.`} A
        rule made after the answers are in could be chosen for what it brings, so there is none.
      </Typography>
      <Box
        sx={{
          display: 'grid',
          gridTemplateColumns: { sm: '1fr 1fr' },
          maxWidth: 620,
          gap: 2,
        }}
      >
        {FIELDS.map(({ of, label, helperText }) => (
          <DecimalField
            key={of}
            label={label}
            helperText={helperText}
            value={rule[of]}
            least={1}
            most={99}
            empty
            onKeep={(value) =>
              onChange({ ...rule, [of]: value === null ? null : Math.round(value) })
            }
          />
        ))}
      </Box>
    </>
  );
}
