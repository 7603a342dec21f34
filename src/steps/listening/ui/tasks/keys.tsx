'use client';

import { Fragment } from 'react';
import { useTranslations } from 'use-intl';

type Does = 'hear' | 'pause' | 'choose' | 'noPreference' | 'confirm' | 'move' | 'nextWord' | 'tick';
export interface KeysProps {
  clips: number;
  tiesAllowed: boolean;
}

/** Keys and what they do, in a line. */
export function KeyLine({ entries }: { entries: readonly (readonly [readonly string[], Does])[] }) {
  const t = useTranslations('listening.keys');
  return entries.map(([names, does], i) => (
    <Fragment key={does}>
      {i > 0 && ' · '}
      {names.map((name) => (
        <Fragment key={name}>
          <kbd>{name === 'space' ? t('space') : name}</kbd>{' '}
        </Fragment>
      ))}
      {t(does)}
    </Fragment>
  ));
}

const numbers = (clips: number) => Array.from({ length: clips }, (_, i) => String(i + 1));

/** Of tasks in which one is chosen, or neither. */
export function LikingKeys({ clips, tiesAllowed }: KeysProps) {
  return (
    <KeyLine
      entries={[
        [numbers(clips), 'hear'],
        [['space'], 'pause'],
        [['←', '→'], 'choose'],
        ...(tiesAllowed ? ([[['↓'], 'noPreference']] as const) : []),
        [['Enter'], 'confirm'],
      ]}
    />
  );
}

/** Of tasks in which one is chosen. */
export function ChoosingKeys({ clips }: KeysProps) {
  return <LikingKeys clips={clips} tiesAllowed={false} />;
}

/** Of tasks in which slips are placed. */
export function PlacingKeys({ clips }: KeysProps) {
  return (
    <KeyLine
      entries={[
        [clips > 3 ? ['1', '…', String(clips)] : numbers(clips), 'hear'],
        [['space'], 'pause'],
        [['←', '→'], 'move'],
        [['Enter'], 'confirm'],
      ]}
    />
  );
}
