import { TASKS } from '@/core/tasks';
import type { Db, Tx } from '@/platform/database';
import { notFound, UserError } from '@/platform/errors';
import { madeOf } from '@/steps/chains/service';
import { namesPairs } from '@/steps/sitting/schema';
import { insertSighted } from '@/steps/sitting/seats';
import { money } from '@/ui/format';
import type { Answering } from './schema';
import {
  type HeardPart,
  type HeardSitting,
  type ListenerRow,
  sightedKeyAt,
  type SightedTrial,
  sightedTrialsOf,
} from './store';
import type { ListenerView } from './views';

type SightedSitting = Pick<HeardSitting, 'id' | 'comparisonId' | 'purpose' | 'sightedTrials'>;

/** The pairs that a seat hears again with names, once everything blind was answered. */
export async function sightedOf(
  from: Db,
  sitting: SightedSitting,
  seat: number,
  parts: readonly HeardPart[],
): Promise<SightedTrial[]> {
  if (sitting.sightedTrials === 0) return [];
  const pairs = parts.filter(namesPairs).map(({ number }) => number);
  return sightedTrialsOf(from, sitting.id, seat, pairs, sitting.sightedTrials);
}

/** What stands on a clip where names are shown. */
interface Label {
  name: string;
  /** Null where it is not known. */
  priceCents: number | null;
}

/** Names and prices of a pair as they stand now; a rehearsal, which anybody may walk, tells neither. */
export async function labelsOf(
  from: Db,
  { comparisonId, purpose }: SightedSitting,
  { clips }: SightedTrial,
): Promise<Label[]> {
  if (purpose === 'rehearsal') {
    return clips.map((_, i) => ({
      name: `Name of the ${i ? 'second' : 'first'}`,
      priceCents: null,
    }));
  }
  const made = await madeOf(from, comparisonId);
  return clips.map(({ chainId, name }) => ({
    name,
    priceCents: made.get(chainId)?.price ?? null,
  }));
}

/** What a listener reads of a pair with names: the same clips in the same order. */
export async function sightedClips(
  from: Db,
  sitting: SightedSitting,
  trial: SightedTrial,
): Promise<ListenerView['clips']> {
  const labels = await labelsOf(from, sitting, trial);
  return trial.clips.map(({ address }, slot) => {
    const { name, priceCents } = labels[slot]!;
    return {
      word: name,
      note: priceCents === null ? 'price not known' : money(priceCents),
      address,
    };
  });
}

/** What the last part asks, in words. */
export function sightedPart(
  asked: ListenerView['part'],
  again: readonly SightedTrial[],
  answered: number,
): ListenerView['part'] {
  return {
    ...asked,
    number: asked.of,
    name: 'Names shown',
    shows: 'Some of your own pairs once more, the same recordings in the same order.',
    trials: again.length,
    answered,
    words: [],
    learning: false,
    learned: [],
    sighted: true,
  };
}

/**
 * Keeps an answer that was given with names in view, once; it stands beside the blind one.
 * @param blind how many trials were blind: positions go on from there
 */
export async function answerSighted(
  tx: Tx,
  sitting: SightedSitting,
  listener: Pick<ListenerRow, 'id' | 'seat' | 'sighted' | 'partsBegun'>,
  parts: readonly HeardPart[],
  given: Answering,
  { blind, open, leastS }: { blind: number; open: boolean; leastS: (part: HeardPart) => number },
  at: Date,
): Promise<void> {
  const number = given.position - blind;
  const there = await sightedKeyAt(tx, listener.id, number);
  if (there !== null) {
    if (there === given.key) return;
    throw new UserError(409, 'This pair is answered already; the first answer stands.');
  }
  if (!open) {
    throw new UserError(
      409,
      'This sitting is closed; answers given before are kept. Thank you for listening.',
    );
  }
  const trial = (await sightedOf(tx, sitting, listener.seat, parts))[number - 1];
  if (!trial || number !== listener.sighted + 1 || listener.partsBegun <= parts.length) {
    throw new UserError(409, 'This is not the pair to answer now; reload to see the right one.');
  }
  const part = parts.find((one) => one.number === trial.part);
  if (!part) throw notFound('part');
  const slots = trial.clips.length;
  const { tiesAllowed, words } = part;
  const asked = { kind: 'judged' as const, slots, tiesAllowed, words };
  const refused = TASKS[part.task].refusal(given.answer, asked);
  if (refused) throw new UserError(422, refused);
  const least = leastS(part);
  if (given.heardS.length !== slots || given.heardS.some((heard) => heard < least)) {
    throw new UserError(422, 'Hear both recordings before you answer.');
  }
  const place = { listenerId: listener.id, sittingId: sitting.id, seat: listener.seat, number };
  const shown = await labelsOf(tx, sitting, trial);
  const { answer, key, heardS, switches, durationS } = given;
  const kept = { position: trial.position, answer, key, heardS, switches, durationS, shown };
  if (await insertSighted(tx, place, kept, at)) return;
  if ((await sightedKeyAt(tx, listener.id, number)) === given.key) return;
  throw new UserError(409, 'This answer was not kept; reload and answer again.');
}
