import { type AskedPair, pairAfter } from '@/core/design/adaptive';
import { canonicalJson, type Json, sha256Hex } from '@/core/design/seal';
import { anySealedKey, type SealedKey } from './schema';
import type { KeyChain, LaidOut, LaidOutTrial } from './store';

type Slot = [chain: string, gainDb: number, word: string];

interface Trial {
  part: number;
  kind: string;
  right: number | null;
  slots: Slot[];
}

const laid = ({ part, kind, right, clips }: LaidOutTrial): Trial => ({
  part,
  kind,
  right,
  slots: clips.map(({ chainId, gainDb, word }) => [chainId, gainDb, word]),
});

/** A seat's trials as the key fixed them; in a room one order is everybody's. */
function sealedTrials(key: SealedKey, seat: number): Trial[] {
  return (key.seats[seat - 1] ?? key.seats[0]!).map(({ part, kind, right, slots }) => ({
    part,
    kind,
    right,
    slots: slots.map(([chain, gainDb, word]): Slot => [key.chains[chain]!.id, gainDb, word]),
  }));
}

/** Puts the pairs in place that the sealed rule and this seat's answers lead to, one answer after the other. */
function replayed(
  key: SealedKey,
  sealed: readonly Trial[],
  { seat, trials, chains }: { seat: number; trials: readonly LaidOutTrial[]; chains: string[][] },
): Trial[] {
  const expected = sealed.map((trial) => ({ ...trial, slots: [...trial.slots] }));
  for (const [part, seed] of Object.entries(key.adaptiveSeeds ?? {})) {
    const number = Number(part);
    const asked = (): AskedPair[] =>
      expected.flatMap((trial, i) =>
        trial.part === number
          ? [
              {
                position: i + 1,
                kind: trial.kind as AskedPair['kind'],
                firstChainId: trial.slots[0]![0],
                secondChainId: trial.slots[1]![0],
                choice: trials.find(({ position }) => position === i + 1)?.choice ?? null,
              },
            ]
          : [],
      );
    for (const { position, part: own, answered } of trials) {
      if (own !== number || !answered) continue;
      const pair = pairAfter(chains[number - 1]!, asked(), position, { seat, seed });
      if (!pair) continue;
      const { slots } = expected[position + 1]!;
      expected[position + 1]!.slots = slots.map(([, gainDb, word], i): Slot => [
        pair[i]!,
        gainDb,
        word,
      ]);
    }
  }
  return expected;
}

/**
 * Whether what was asked is what was sealed: every trial of every seat rebuilt from the key, pairs that followed
 * the answers by replaying them, and every clip by its SHA-256.
 * @param chainsOfPart clips of each part as they lie in the bank now
 * @returns the first difference in words; null when there is none
 */
export async function differenceFromSeal(
  seal: string,
  { sealedKey, trials, parts }: LaidOut,
  chainsOfPart: readonly (readonly KeyChain[])[],
): Promise<string | null> {
  if ((await sha256Hex(sealedKey)) !== seal) return 'the key is not the one whose seal was shown';
  const key = anySealedKey.parse(JSON.parse(sealedKey));
  // The first form sealed pairs of one part; its trials were checked by nothing.
  if (key.document === 'zeitbank sealed key 1') return null;
  const plan = key.plan as { parts?: { task: string; clipSetId: string }[] };
  for (const [i, { task, clipSetId, number }] of parts.entries()) {
    const wanted = plan.parts?.[i];
    if (wanted?.task !== task || wanted.clipSetId !== clipSetId) {
      return `part ${number} asks another task, or over other clips`;
    }
    for (const { id, name, clipSha256 } of chainsOfPart[i]!) {
      const sealed = key.clips[i]![id];
      if (sealed !== clipSha256) return `the clip of ${name} in part ${number} is another`;
    }
    if (Object.keys(key.clips[i]!).length !== chainsOfPart[i]!.length) {
      return `part ${number} has other clips`;
    }
  }
  const chains = chainsOfPart.map((own) => own.map(({ id }) => id).sort());
  const seats = [...new Set(trials.map(({ seat }) => seat))];
  for (const seat of seats) {
    const own = trials.filter((trial) => trial.seat === seat);
    const expected = replayed(key, sealedTrials(key, seat), { seat, trials: own, chains });
    if (own.length !== expected.length) return `seat ${seat} has another number of trials`;
    for (const [i, trial] of own.entries()) {
      const same = (one: Trial) => canonicalJson(one as unknown as Json);
      if (same(laid(trial)) !== same(expected[i]!)) {
        return `trial ${trial.position} of seat ${seat} is not as it was sealed`;
      }
      const clips = parts[trial.part - 1]!.clipSetId;
      if (trial.clips.some(({ clipSetId }) => clipSetId !== clips)) {
        return `trial ${trial.position} of seat ${seat} plays clips of another set`;
      }
    }
  }
  return null;
}
