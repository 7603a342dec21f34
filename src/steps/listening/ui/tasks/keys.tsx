import { Fragment, type ReactNode } from 'react';

/** Keys and what they do, in a line. */
export function keys(...entries: [string[], string][]): ReactNode {
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

/** Of tasks in which one is chosen. */
export function choosing(clips: number, ties: boolean): ReactNode {
  return keys(
    [numbers(clips), 'hear'],
    [['space'], 'pause'],
    [['←', '→'], 'choose'],
    ...(ties ? ([[['↓'], 'no preference']] as [string[], string][]) : []),
    [['Enter'], 'confirm'],
  );
}

/** Of tasks in which slips are placed. */
export function placing(clips: number): ReactNode {
  return keys(
    [clips > 3 ? ['1', '…', String(clips)] : numbers(clips), 'hear'],
    [['space'], 'pause'],
    [['←', '→'], 'move the one heard'],
    [['Enter'], 'confirm'],
  );
}
