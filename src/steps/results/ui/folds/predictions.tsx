import Typography from '@mui/material/Typography';
import type { Prediction } from '@/core/statistics/reading/predictions';
import { DataTable } from '@/ui/DataTable';
import { date } from '@/ui/format';
import { Method } from '../sections/cells';
import type { Fold, FoldProps } from './fold';

const SAID: Record<string, string> = {
  yes: 'They can be told apart.',
  no: 'They can hardly be told apart.',
  perhaps: 'Perhaps they can be told apart.',
};
const CAME: Record<string, string> = { yes: 'They can.', no: 'Hardly anybody can.' };

export const saidOf = ({ about, said }: Prediction) =>
  about === 'winner' ? `${said} first` : (SAID[said] ?? said);

function cameOf({ about, result }: Prediction): string {
  if (result === null) return 'Not shown.';
  return about === 'winner' ? `${result} is best.` : (CAME[result] ?? result);
}

/** What listeners guessed, the commonest first: how many said it, and how it came out. */
function guessesOf(predictions: readonly Prediction[]) {
  const own = predictions.filter(({ role }) => role === 'listener');
  const same = (x: Prediction, y: Prediction) => x.about === y.about && x.said === y.said;
  return own
    .filter((entry, i) => own.findIndex((other) => same(entry, other)) === i)
    .map((entry) => ({
      entry,
      times: own.filter((other) => same(entry, other)).length,
      of: own.filter(({ about }) => about === entry.about).length,
    }))
    .sort((x, y) => y.entry.about.localeCompare(x.entry.about) || y.times - x.times);
}

function Predictions({ across, result }: FoldProps) {
  const { question, answers } = across;
  const { nullHypothesis, predictions } = answers;
  const chains = result.chains.length;
  const byEngineer = predictions.filter(({ role }) => role === 'engineer');
  const guesses = guessesOf(predictions);
  return (
    <>
      {question?.nullHypothesis && (
        <Typography sx={{ maxWidth: '76ch' }}>
          Null hypothesis: “{question.nullHypothesis}”{' '}
          {nullHypothesis?.sentence ?? 'Undecided: nothing was asked that could tell.'}
        </Typography>
      )}
      {byEngineer.length > 0 && (
        <DataTable
          label="Predictions"
          sx={{ maxWidth: 860, mt: 1 }}
          rows={byEngineer}
          keyOf={({ by, about }) => `${by} ${about}`}
          columns={[
            { label: 'Who', cell: ({ by }) => by },
            { label: 'Said', cell: saidOf },
            { label: 'Came of it', cell: cameOf },
            { label: 'Outcome', cell: ({ outcome }) => outcome },
            {
              label: 'By guessing',
              cell: ({ about }) =>
                about === 'winner' ? `1 in ${chains} would be right` : '1 in 2',
            },
          ]}
        />
      )}
      {question?.prediction.remark && (
        <Typography sx={{ mt: 1, maxWidth: '76ch' }}>“{question.prediction.remark}”</Typography>
      )}
      {guesses.length > 0 && (
        <DataTable
          label="What the panel guessed"
          sx={{ maxWidth: 860, mt: 2 }}
          rows={guesses}
          keyOf={({ entry }) => `${entry.about} ${entry.said}`}
          columns={[
            { label: 'The panel guessed', cell: ({ entry }) => saidOf(entry), names: true },
            { label: 'How many', cell: ({ times, of }) => `${times} of ${of}` },
            { label: 'Outcome', cell: ({ entry }) => entry.outcome },
          ]}
        />
      )}
      <Method>
        The engineer’s is as it was sealed before anybody listened
        {question?.prediction.at && `, last changed ${date(question.prediction.at)}`}
        {guesses.length > 0 && '; a listener’s as they joined, before they heard anything'}. Right
        or wrong only where the result may be claimed; open otherwise. How many hear a difference at
        most: exact limits of 95 %; some hear it, the others guess (ISO 4120). So many matter as
        would have to hear it for the smallest share of choices that the question names.
      </Method>
    </>
  );
}

export const predictions: Fold = {
  id: 'predictions',
  title({ across: { question, answers } }) {
    if (!question?.nullHypothesis && answers.predictions.length === 0) return null;
    return 'What was expected';
  },
  View: Predictions,
};
