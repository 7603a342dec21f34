import type { WavMetadata } from '@/core/wav/format';

/**
 * When a take was recorded, by what its file says (BWF, EBU Tech 3285): date, and time of day or samples
 * since midnight. Sorts as text; null when the file says nothing.
 */
export function recordedAt(
  { originationDate, originationTime, timeReferenceSamples }: WavMetadata,
  sampleRateHz: number,
): string | null {
  const date = /^(\d{4})\D(\d{2})\D(\d{2})$/.exec(originationDate ?? '');
  const time = /^(\d{2})\D(\d{2})\D(\d{2})$/.exec(originationTime ?? '');
  if (!date) return null;
  const day = date.slice(1, 4).join('-');
  if (timeReferenceSamples !== undefined && timeReferenceSamples > 0) {
    const seconds = Math.floor(timeReferenceSamples / sampleRateHz) % 86_400;
    const two = (value: number) => String(value).padStart(2, '0');
    return `${day} ${two(Math.floor(seconds / 3600))}:${two(Math.floor(seconds / 60) % 60)}:${two(seconds % 60)}`;
  }
  return time ? `${day} ${time.slice(1, 4).join(':')}` : day;
}

/** Takes as they were recorded, where every file says when; else as they came. */
export function inOrder<T>(takes: readonly T[], recorded: (take: T) => string | null): T[] {
  const timed = takes.map((take) => ({ take, at: recorded(take) }));
  if (timed.some(({ at }) => at === null)) return [...takes];
  return timed.sort((a, b) => a.at!.localeCompare(b.at!)).map(({ take }) => take);
}

/**
 * From when to when a take was recorded, by what its file says, in seconds of one clock that all files share as far
 * as their recorders did. @returns null where the file names no time of day
 */
export function recordedSpan(
  metadata: WavMetadata,
  sampleRateHz: number,
  durationS: number,
): [number, number] | null {
  const at = recordedAt(metadata, sampleRateHz);
  if (at === null || !at.includes(' ')) return null;
  const from = Date.parse(`${at.replace(' ', 'T')}Z`) / 1000;
  return Number.isFinite(from) ? [from, from + durationS] : null;
}

/** Names of passages that descriptions in files speak of and nobody has written down yet. */
export function proposedPassages(
  descriptions: readonly (string | undefined)[],
  known: readonly string[],
): string[] {
  const names = descriptions.flatMap((text) => {
    // "Contralto: quiet verse, take 2" speaks of the quiet verse.
    const own = text
      ?.split(':')
      .pop()
      ?.replace(/[,;]?\s*\btake\s*\d+.*$/i, '')
      .trim();
    return own && own.length <= 60 ? [own] : [];
  });
  const seen = new Set(known.map((name) => name.toLowerCase()));
  return names.filter((name) => {
    if (seen.has(name.toLowerCase())) return false;
    seen.add(name.toLowerCase());
    return true;
  });
}
