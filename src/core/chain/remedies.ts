import type { ChainItem, GearItem } from './item';
import type { SourceAtMic } from './kinds/microphone';
import { feasible, type Ladder, walkChain } from './walk';

export interface Remedy {
  text: string;
  /** What it leaves, at matched loudness, dBA. */
  noiseDba: number;
  /** Against the chain as it is, dB; positive is noisier. Null when the chain had no noise figure. */
  noiseChangeDb: number | null;
}

const NEAREST_M = 0.03;
const MOST_REMEDIES = 6;

/**
 * What would make a chain feasible that is not, tried out one change at a time with the same walk: a
 * booster or pad of the list, a pad of an item, another preamp of the list, another distance. Quietest first.
 * @param gear the studio's list; items already in the chain are passed over
 */
export function remedies(
  chain: readonly ChainItem[],
  source: SourceAtMic,
  gear: readonly GearItem[],
): Remedy[] {
  const ladder = walkChain(chain, source);
  if (ladder.incomplete || feasible(ladder)) return [];
  const found: Remedy[] = [];
  const tried = (text: string, items: readonly ChainItem[], from = source) => {
    const after = walkChain(items, from);
    if (!feasible(after) || after.matchedNoiseDba === null) return;
    const before = ladder.matchedNoiseDba;
    found.push({
      text,
      noiseDba: after.matchedNoiseDba,
      noiseChangeDb: before === null ? null : after.matchedNoiseDba - before,
    });
  };
  const used = new Set(chain.map((item) => item.gear.id));
  const others = gear.filter(({ id }) => !used.has(id));
  const of = (kind: GearItem['kind']) => others.filter((item) => item.kind === kind);
  const insertAt = (index: number, item: GearItem) => [
    ...chain.slice(0, index),
    { gear: item, settings: {} },
    ...chain.slice(index),
  ];
  const afterMic = chain.findIndex((item) => item.gear.kind === 'microphone') + 1;
  if (ladder.shortDb >= 1) {
    for (const booster of of('booster')) {
      tried(`Put ${booster.name} after the microphone.`, insertAt(afterMic, booster));
    }
    const distanceM = source.distanceM * 10 ** (-ladder.shortDb / 20);
    if (distanceM >= NEAREST_M) {
      const cm = Math.floor(100 * distanceM);
      tried(`Go closer, to ${cm} cm; the low end and the balance change with it.`, chain, {
        ...source,
        distanceM: cm / 100,
      });
    }
  }
  if (ladder.overloads.length > 0) {
    chain.forEach((item, i) => {
      for (const padDb of item.gear.specs.padsDb ?? []) {
        if (padDb === item.settings.padDb) continue;
        tried(
          `Switch the ${padDb} dB pad of ${item.gear.name} on.`,
          withItem(chain, i, {
            ...item,
            settings: { ...item.settings, padDb },
          }),
        );
      }
      const { gainDb } = item.settings;
      if (gainDb !== undefined) {
        tried(
          `Leave the gain of ${item.gear.name} to what is needed.`,
          withItem(chain, i, {
            ...item,
            settings: { ...item.settings, gainDb: undefined },
          }),
        );
      }
    });
    for (const pad of of('pad'))
      tried(`Put ${pad.name} after the microphone.`, insertAt(afterMic, pad));
    const over = Math.max(...ladder.overloads.map(({ byDb }) => byDb));
    const distanceM = source.distanceM * 10 ** (over / 20);
    const cm = Math.ceil(100 * distanceM);
    tried(`Go farther, to ${cm} cm; more room comes with it.`, chain, {
      ...source,
      distanceM: cm / 100,
    });
  }
  const preampAt = chain.findIndex((item) => item.gear.kind === 'preamp');
  if (preampAt >= 0) {
    for (const preamp of of('preamp')) {
      const swapped = { gear: preamp, settings: {} };
      tried(
        `Take ${preamp.name} instead of ${chain[preampAt]!.gear.name}.`,
        withItem(chain, preampAt, swapped),
      );
    }
  }
  return found.sort((a, b) => a.noiseDba - b.noiseDba).slice(0, MOST_REMEDIES);
}

function withItem(chain: readonly ChainItem[], index: number, item: ChainItem): ChainItem[] {
  return chain.map((old, i) => (i === index ? item : old));
}

/** Noise of a chain as it is and with each remedy, for a sentence when nothing helps. */
export function remedySentence(ladder: Ladder, found: readonly Remedy[]): string | null {
  if (ladder.incomplete || feasible(ladder)) return null;
  return found.length === 0
    ? 'Nothing of the gear list makes it feasible by one change.'
    : `${found[0]!.text} It leaves ${found[0]!.noiseDba.toFixed(1)} dBA at matched loudness.`;
}
