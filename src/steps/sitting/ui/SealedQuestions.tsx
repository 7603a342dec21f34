import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import type { SealedQuestion, SealedWith } from '@/steps/sitting/schema';
import { day } from '@/ui/format';
import { Note } from '@/ui/Sheet';

/** What was written down, sentence by sentence. */
function saidOf(
  { decides, contexts, nullHypothesis, smallestSharePct, prediction }: SealedQuestion,
  nameOf: (chainId: string) => string,
): string[] {
  const { favouriteChainId, toldApart, remark } = prediction;
  return [
    ...(decides === '' ? [] : [`“${decides}”`]),
    ...(contexts.length === 0 ? [] : [`Asked for: ${contexts.join('; ')}.`]),
    nullHypothesis === '' ? 'No null hypothesis.' : `Null hypothesis: “${nullHypothesis}”`,
    smallestSharePct === null
      ? 'No smallest difference.'
      : `${smallestSharePct} of 100 would matter.`,
    favouriteChainId === null && toldApart === null
      ? 'No prediction.'
      : `${prediction.by} predicted: ${[
          favouriteChainId !== null && `${nameOf(favouriteChainId)} first`,
          toldApart !== null && `${toldApart} told apart`,
        ]
          .filter(Boolean)
          .join(', ')}${prediction.at ? `, written ${day(prediction.at)}` : ''}.`,
    ...(remark === '' ? [] : [`“${remark}”`]),
  ];
}

/** What of the question was sealed with each sitting: the results are held against it, whatever is written later. */
export function SealedQuestions({
  sealed,
  chains,
}: {
  sealed: readonly SealedWith[];
  chains: readonly { id: string; name: string }[];
}) {
  const shown = sealed.flatMap(({ question, ...sitting }) =>
    question ? [{ ...sitting, question }] : [],
  );
  if (shown.length === 0) return null;
  const nameOf = (id: string) =>
    chains.find((chain) => chain.id === id)?.name ?? 'a chain since removed';
  const open = shown.some((sitting) => sitting.open);
  // What was sealed with several is told once.
  const textOf = ({ question }: (typeof shown)[number]) => JSON.stringify(question);
  const alike = [...new Set(shown.map(textOf))].map((text) =>
    shown.filter((sitting) => textOf(sitting) === text),
  );
  return (
    <Note kind="plain">
      <Typography sx={{ fontWeight: 600, fontSize: '0.875rem' }}>
        {open
          ? 'Sealed: the question, its contexts, what would count as nothing and the prediction stay until the sitting is closed.'
          : 'What you write anew counts for the next sitting. Results are held against what was sealed:'}
      </Typography>
      {alike.map((sittings) => (
        <Box key={sittings[0]!.sittingId} sx={{ mt: 0.75 }}>
          {sittings.map(({ title, openedAt }) => `“${title}”, sealed ${day(openedAt)}`).join('; ')}.{' '}
          {saidOf(sittings[0]!.question, nameOf).join(' ')}
        </Box>
      ))}
    </Note>
  );
}
