import type { MatchMethod } from './methods';

/** Differences that are worth a word, dB. */
export const WORTH_SAYING_DB = 0.3;
/** The bands that weigh differently in loudness and in mean square. */
const LOW_HZ = 200;
const PRESENCE_HZ = [2000, 6300] as const;

export interface MethodLevels {
  name: string;
  gainDb: number;
  beforeLufs: number | null;
  beforeRmsDbfs: number | null;
  /** Against the reference, third by third; empty when not known. */
  bands: readonly { centerHz: number; differenceDb: number | null }[];
}

export interface Disagreement {
  name: string;
  /** The method that was not used. */
  by: 'loudness' | 'rms';
  /** Louder than the reference by that method, though equal by the one used, dB. */
  differenceDb: number;
  reason: string;
}

/**
 * Where clips that were made equal by one method differ by another: each clip's level by that method
 * after its gain, against the reference's.
 */
export function disagreements(
  used: MatchMethod,
  clips: readonly MethodLevels[],
  reference: number,
): Disagreement[] {
  const found: Disagreement[] = [];
  const ways: [Disagreement['by'], (clip: MethodLevels) => number | null][] = [
    ['loudness', (clip) => clip.beforeLufs],
    ['rms', (clip) => clip.beforeRmsDbfs],
  ];
  for (const [by, levelOf] of ways) {
    if (by === used) continue;
    const at = levelOf(clips[reference]!);
    if (at === null) continue;
    for (const clip of clips) {
      const level = levelOf(clip);
      if (level === null) continue;
      const differenceDb = level + clip.gainDb - (at + clips[reference]!.gainDb);
      if (Math.abs(differenceDb) <= WORTH_SAYING_DB) continue;
      found.push({
        name: clip.name,
        by,
        differenceDb,
        reason: reasonFor(used, by, differenceDb, clip),
      });
    }
  }
  return found;
}

function mean(bands: MethodLevels['bands'], from: number, to: number): number | null {
  const inside = bands
    .filter(({ centerHz }) => centerHz >= from && centerHz <= to)
    .flatMap(({ differenceDb }) => differenceDb ?? []);
  return inside.length === 0 ? null : inside.reduce((sum, x) => sum + x, 0) / inside.length;
}

function reasonFor(
  used: MatchMethod,
  by: Disagreement['by'],
  differenceDb: number,
  { bands }: MethodLevels,
): string {
  if (used === 'hand') return 'The offsets were set by ear, so the levels differ by them.';
  if (used === 'gain') return 'Nothing was made equal but the gain: so loud does each chain come.';
  if (used === 'tone') {
    return 'A tone makes equal at its own pitch only; what the microphone does elsewhere is left.';
  }
  if (used === 'test') {
    return 'A test sound makes equal what the chains do to it; the performance has another spectrum.';
  }
  const low = mean(bands, 0, LOW_HZ);
  const presence = mean(bands, ...PRESENCE_HZ);
  const more = (by === 'rms') === differenceDb > 0;
  const shown = (value: number | null) =>
    value === null ? '' : `${value < 0 ? '−' : '+'}${Math.abs(value).toFixed(1)} dB`;
  const measured =
    low !== null && presence !== null
      ? ` (${shown(low)} below ${LOW_HZ} Hz, ${shown(presence)} from 2 to 6 kHz, against the reference)`
      : '';
  return more
    ? `It has more low end for its presence${measured}; RMS counts that in full, loudness does not.`
    : `It has more presence for its low end${measured}; loudness counts that more than RMS does.`;
}
