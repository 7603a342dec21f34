import type { OpenedAnswer, TaskId } from '@/core/tasks/task';

type Choice = 'first' | 'second' | 'tie';

const choiceOf = ({ answer }: OpenedAnswer): Choice | null =>
  'choice' in answer ? answer.choice : null;
const placesOf = ({ answer }: OpenedAnswer): readonly number[] =>
  'places' in answer ? answer.places : [];

function selfPairs(answers: readonly OpenedAnswer[]): string[] {
  const choices = answers.filter(({ kind }) => kind === 'self').map(choiceOf);
  if (choices.length === 0) return [];
  const of = (choice: Choice) => choices.filter((one) => one === choice).length;
  return [
    `A recording against itself, ${choices.length} times: the first was chosen ${of('first')} times, the second ${of('second')}, neither ${of('tie')}.`,
  ];
}

function louderPairs(answers: readonly OpenedAnswer[]): string[] {
  const asked = answers.filter(({ kind }) => kind === 'louder');
  if (asked.length === 0) return [];
  const sides = asked.map((one) => {
    const choice = choiceOf(one);
    if (choice === null || choice === 'tie') return 'neither';
    const at = choice === 'first' ? 0 : 1;
    return one.gainsDb[at] > 0 ? 'louder' : 'softer';
  });
  const of = (side: string) => sides.filter((one) => one === side).length;
  return [
    `The same recording 1 dB louder, ${asked.length} times: the louder was chosen ${of('louder')} times, the softer ${of('softer')}, neither ${of('neither')}. Many choices of the louder mean that loudness is followed.`,
  ];
}

/** The chain that was chosen, or "tie". */
function chosen(one: OpenedAnswer): string | null {
  const choice = choiceOf(one);
  if (choice === null) return null;
  return choice === 'tie' ? 'tie' : one.chains[choice === 'first' ? 0 : 1];
}

const sameSet = (x: OpenedAnswer, y: OpenedAnswer) =>
  x.listener === y.listener && [...x.chains].sort().join('\n') === [...y.chains].sort().join('\n');

/** The same two, the other way round; as a pair is asked again. */
const mirrored = (x: OpenedAnswer, y: OpenedAnswer) =>
  x.listener === y.listener && x.chains.join('\n') === [...y.chains].reverse().join('\n');

function repeatedPairs(answers: readonly OpenedAnswer[]): string[] {
  const repeats = answers.flatMap((one) => {
    if (one.kind !== 'repeat') return [];
    const earlier = answers.find((other) => other.kind === 'judged' && mirrored(one, other));
    return earlier ? [chosen(one) === chosen(earlier)] : [];
  });
  if (repeats.length === 0) return [];
  return [
    `Pairs asked twice: ${repeats.filter(Boolean).length} of ${repeats.length} were answered alike the other way round.`,
  ];
}

const meanOf = (values: readonly number[]) => values.reduce((a, b) => a + b, 0) / values.length;

function repeatedPlaces(answers: readonly OpenedAnswer[]): string[] {
  const gaps = answers.flatMap((one) => {
    const places = placesOf(one);
    const within = one.chains.flatMap((chain, slot) => {
      const again = one.chains.indexOf(chain, slot + 1);
      return again < 0 || places.length !== one.chains.length
        ? []
        : [Math.abs(places[slot] - places[again])];
    });
    if (one.kind !== 'repeat') return within;
    const earlier = answers.find((other) => other.kind === 'judged' && sameSet(one, other));
    return earlier ? [Math.abs(places[0] - placesOf(earlier)[0])] : [];
  });
  if (gaps.length === 0) return [];
  // Of two places of one recording: half the mean square of their distance is the variance of one.
  const scatter = Math.sqrt(meanOf(gaps.map((gap) => gap * gap)) / 2);
  return [
    `Recordings placed twice lay ${meanOf(gaps).toFixed(0)} of 100 points apart on average (${gaps.length} times): one listener’s repeats scatter by ${scatter.toFixed(0)} points.`,
  ];
}

function hiddenReference(answers: readonly OpenedAnswer[]): string[] {
  const places = answers.filter(({ kind }) => kind === 'self').flatMap(placesOf);
  if (places.length === 0) return [];
  return [
    `The reference against itself was placed at ${meanOf(places).toFixed(0)} on average (50 is “as good as it”, ${places.length} times).`,
  ];
}

/** What the controls of a part show, in sentences; empty without controls. */
export function controlFindings(task: TaskId, answers: readonly OpenedAnswer[]): string[] {
  switch (task) {
    case 'pair':
      return [...selfPairs(answers), ...louderPairs(answers), ...repeatedPairs(answers)];
    case 'line':
      return repeatedPlaces(answers);
    case 'reference':
      return [...hiddenReference(answers), ...repeatedPlaces(answers)];
    default:
      return [];
  }
}
