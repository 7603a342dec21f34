import { Fragment, type ReactNode } from 'react';
import type { Answer, TaskId } from '@/core/tasks/task';
import type { ListenerView } from '../../schema';

type Part = ListenerView['part'];

function keys(...entries: [string[], string][]): ReactNode {
  return entries.map(([names, does], i) => (
    <Fragment key={does}>
      {i > 0 && ' · '}
      {names.map((name) => (
        <Fragment key={name}>
          <kbd>{name}</kbd>{' '}
        </Fragment>
      ))}
      {does}
    </Fragment>
  ));
}

const numbers = (clips: number) => Array.from({ length: clips }, (_, i) => String(i + 1));

function choosing(clips: number, ties: boolean): ReactNode {
  return keys(
    [numbers(clips), 'hear'],
    [['space'], 'pause'],
    [['←', '→'], 'choose'],
    ...(ties ? ([[['↓'], 'no preference']] as [string[], string][]) : []),
    [['Enter'], 'confirm'],
  );
}

function placing(clips: number): ReactNode {
  return keys(
    [clips > 3 ? ['1', '…', String(clips)] : numbers(clips), 'hear'],
    [['space'], 'pause'],
    [['←', '→'], 'move the one heard'],
    [['Enter'], 'confirm'],
  );
}

/** The keys of each kind of trial. */
export const KEYS: Record<TaskId, (clips: number, ties: boolean) => ReactNode> = {
  pair: choosing,
  'two-interval': (clips) => choosing(clips, false),
  'duo-trio': (clips) => choosing(clips, false),
  triangle: (clips) => choosing(clips, false),
  memory: (clips) => choosing(clips, false),
  line: placing,
  reference: placing,
  words: () =>
    keys([['1'], 'hear'], [['Tab'], 'next word'], [['space'], 'tick'], [['Enter'], 'confirm']),
};

const PRACTICE: Record<TaskId, string> = {
  pair: 'Two versions of the cello phrase. Tap a slip to hear it; both run in step. Then choose either.',
  'two-interval':
    'Two versions of the cello phrase. Tap a slip to hear it; both run in step. Then choose either.',
  'duo-trio':
    'The first is given; one of the other two is the same. Tap a slip to hear it; all run in step. Then choose.',
  triangle:
    'Three versions of the cello phrase, two of them the same. Tap a slip to hear it; all run in step. Then choose.',
  line: 'Tap a slip to hear it; all run in step. Then drag each slip onto the line, or tap the line: the one heard last goes there.',
  reference:
    'Hear the reference and the other; both run in step. Then drag the other onto the line, or tap the line.',
  memory: 'Tap each slip to hear it. In the sitting you learn two like this, then hear one alone.',
  words: 'Tap the slip to hear it. Then tick whatever fits.',
};

/** What is practised, in a sentence or two. */
export function practiceLead({ task }: Part): string {
  return PRACTICE[task];
}

function answerText(part: Part, words: readonly string[], answer: Answer): string {
  if ('choice' in answer) {
    const named = { first: words[0], second: words[1], tie: 'no preference' }[answer.choice];
    return `You choose: ${named}. There is no way back.`;
  }
  if ('slot' in answer) {
    const named = part.task === 'memory' ? part.learned[answer.slot] : words[answer.slot];
    return `You choose: ${named}. There is no way back.`;
  }
  if ('places' in answer) return 'All are placed. There is no way back.';
  if ('words' in answer) {
    const count = answer.words.length;
    return `${count === 0 ? 'No word' : count === 1 ? '1 word' : `${count} words`} ticked. There is no way back.`;
  }
  return 'Hear them as often as you like; afterwards one comes at a time.';
}

/** What is missing before the trial can be confirmed, or what will be kept. */
export function hintOf(
  part: Part,
  words: readonly string[],
  heard: readonly boolean[],
  answer: Answer | null,
): string {
  const unheard = words.filter((_, i) => !heard[i]);
  if (unheard.length > 3) {
    return unheard.length === words.length
      ? `Hear all ${unheard.length} first.`
      : `Hear the other ${unheard.length} first.`;
  }
  if (unheard.length > 0) return `Hear ${unheard.join(' and ')} first.`;
  if (answer) return answerText(part, words, answer);
  if (part.task === 'line' || part.task === 'reference') return 'Now place each slip on the line.';
  if (part.task === 'words') return 'Now tick what fits.';
  return 'Now choose.';
}
