import type { QuestionForm } from './question-form';

/** Pieces of the question that are folded until they are needed. */
export type QuestionFold =
  'loudness' | 'recording' | 'further' | 'decides' | 'nothing' | 'prediction' | 'working';

const LONGEST = 90;

const cut = (text: string) =>
  text.length <= LONGEST ? text : `${text.slice(0, LONGEST - 1).trimEnd()}…`;

/** Pieces that hold something, or what is said where none does. */
const joined = (pieces: readonly (string | false)[], nothing: string) =>
  pieces.filter(Boolean).join(', ') || nothing;

const counted = (count: number, one: string) => `${count} ${one}${count === 1 ? '' : 's'}`;

/** What a fold holds, in one line: as it is typed, whether it is right or not. */
export const HELD: Record<
  QuestionFold,
  (form: QuestionForm, nameOf: (chainId: string) => string) => string
> = {
  loudness: ({ levelAt1MDb, crestDb, roomNoiseDba }) =>
    joined(
      [
        levelAt1MDb !== '' && `${levelAt1MDb} dB at 1 m`,
        crestDb !== '' && `peaks ${crestDb} dB over average`,
        roomNoiseDba !== '' && `room ${roomNoiseDba} dBA`,
      ],
      'Nothing written; the gain ladder says what it assumes.',
    ),
  recording: ({ capture, temperatureC }) =>
    joined([capture, temperatureC !== '' && `room at ${temperatureC} °C`], ''),
  further: ({ furtherSources, contexts }) =>
    joined(
      [
        furtherSources.length > 0 && furtherSources.map(({ name }) => name || 'unnamed').join(', '),
        contexts.length > 0 && `heard ${contexts.join(', ')}`,
      ],
      'Nobody else; contexts are chosen at Match.',
    ),
  decides: ({ budget, mustHaves, criteria }) => {
    const needed = mustHaves.split('\n').filter((line) => line.trim() !== '').length;
    return joined(
      [
        budget !== '' && `budget ${budget} €`,
        needed > 0 && counted(needed, 'must-have'),
        criteria.length > 0 &&
          counted(criteria.length, 'criterion').replace('criterions', 'criteria'),
      ],
      'Nothing written yet.',
    );
  },
  nothing: ({ nullHypothesis, smallestSharePct }) =>
    joined(
      [
        nullHypothesis.trim() !== '' && cut(nullHypothesis.trim().replace(/[.\s]+$/, '')),
        smallestSharePct !== '' && `${smallestSharePct} of 100 would matter`,
      ],
      'Nothing written yet; without it no result can be called nothing.',
    ),
  prediction: ({ favouriteChainId, toldApart, predictionRemark }, nameOf) =>
    joined(
      [
        favouriteChainId !== '' && `${nameOf(favouriteChainId)} first`,
        toldApart !== '' && `told apart: ${toldApart}`,
        predictionRemark.trim() !== '' && 'with a reason',
      ],
      'No guess yet.',
    ),
  working: ({ headphoneMinutes, overPeople, plosiveTest }) =>
    joined(
      [
        headphoneMinutes !== '' && `${headphoneMinutes} minutes on headphones`,
        overPeople && 'a stand over people',
        plosiveTest && 'plosives are tested',
      ],
      'Nothing that asks for further cautions.',
    ),
};
