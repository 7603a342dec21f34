import Typography from '@mui/material/Typography';
import type { Balance } from '@/core/design/balance';
import { percent } from '@/core/statistics/words';
import { TASKS } from '@/core/tasks';
import type { TaskId } from '@/core/tasks';
import { token } from '@/ui/tokens';

/** Rounding apart. */
const COMPLETE = 0.9995;

const times = ([least, most]: [number, number]) =>
  least === most ? `${least} times` : `${least} to ${most} times`;

function sentence(
  { shown, met, firstAgainstLast, sameRunning, efficiency }: Balance,
  { one, line }: { one: boolean; line: boolean },
): string {
  const parts = [`each recording is heard ${times(shown)}`];
  if (!one) {
    parts.push(`every two meet ${times(met)}`);
    parts.push(
      firstAgainstLast === 0
        ? 'each is first as often as last'
        : `first and last places differ by ${firstAgainstLast} at most`,
    );
  }
  parts.push(sameRunning === 0 ? 'nothing is asked twice running' : `${sameRunning} times running`);
  const worth =
    line && efficiency !== null && efficiency < COMPLETE
      ? ` Not all lie on one line: a comparison of two is worth ${percent(efficiency)} of one on lines that hold all.`
      : '';
  return `${parts.join(', ')}.${worth}`;
}

/** How evenly the sealed orders came out, counted on them; it names no chain. */
export function BalanceNote({
  parts,
  balances,
}: {
  parts: readonly { task: TaskId }[];
  balances: readonly (Balance | null)[];
}) {
  return (
    <>
      <Typography variant="h2" sx={{ mt: 4 }}>
        Balance of the sealed orders
      </Typography>
      {balances.map((balance, i) => (
        <Typography key={i} sx={{ color: token('soft'), fontSize: '0.875rem', maxWidth: '86ch' }}>
          {TASKS[parts[i]!.task].name}:{' '}
          {balance
            ? sentence(balance, {
                one: TASKS[parts[i]!.task].clips(9) === 1,
                line: TASKS[parts[i]!.task].line !== null,
              })
            : 'chosen as each listener answers, by the sealed rule.'}
        </Typography>
      ))}
    </>
  );
}
