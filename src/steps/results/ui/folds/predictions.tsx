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

function Predictions({ across, result }: FoldProps) {
  const { question, answers } = across;
  const { nullHypothesis, predictions } = answers;
  const chains = result.chains.length;
  return (
    <>
      {question?.nullHypothesis && (
        <Typography sx={{ maxWidth: '76ch' }}>
          Null hypothesis: “{question.nullHypothesis}”{' '}
          {nullHypothesis?.sentence ?? 'Undecided: nothing was asked that could tell.'}
        </Typography>
      )}
      {predictions.length > 0 && (
        <DataTable
          label="Predictions"
          sx={{ maxWidth: 860, mt: 1 }}
          rows={predictions}
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
      <Method>
        As it was written down and sealed before anybody listened
        {question?.prediction.at && `, last changed ${date(question.prediction.at)}`}. Right or
        wrong only where the result may be claimed; open otherwise. How many hear a difference at
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
