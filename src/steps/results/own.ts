import type { Observation } from '@/core/statistics/observation';
import { ownFindings, readOwn } from '@/core/statistics/self-test';
import { TASKS } from '@/core/tasks';
import { db } from '@/platform/database';
import { UserError } from '@/platform/errors';
import { seatRevealed } from '@/steps/listening/service';
import { ownAnswers, type OwnAnswers, type SaidLine } from '@/steps/listening/views';
import { readStored, type StoredAnalysis } from './schema';
import { contextOf, namesOf, observationsOf } from './service';
import {
  type AnswerRow,
  findClosed,
  type HeardPart,
  listAnswers,
  listToldAnswers,
  partsOfSitting,
  toldNames,
} from './store';

/** One thing that was said, with the names. */
function lineOf(said: Observation, nameOf: (id: string) => string): SaidLine {
  const a = nameOf(said.chain);
  switch (said.kind) {
    case 'pair': {
      const b = nameOf(said.chainB);
      if (said.response === 'tie') return { kind: 'tie', a, b };
      return said.response === 'a' ? { kind: 'rather', a, b } : { kind: 'rather', a: b, b: a };
    }
    case 'rating':
      return { kind: 'place', a, value: said.value };
    case 'ticks':
      return { kind: 'ticks', a, words: [...said.words] };
    case 'forced':
    case 'recall':
      return { kind: 'told', a, b: nameOf(said.chainB), right: said.correct };
  }
}

/** Right answers of a listener, beside those of the panel where there is one. */
function rightOf(judged: readonly Observation[], listenerId: string) {
  const right = new Map<string, number>();
  let of = 0;
  for (const said of judged) {
    if (!('correct' in said)) continue;
    if (said.listener === listenerId) of++;
    right.set(said.listener, (right.get(said.listener) ?? 0) + Number(said.correct));
  }
  if (of === 0) return null;
  const all = [...right.values()].sort((x, y) => x - y);
  const mean = all.reduce((sum, one) => sum + one, 0) / all.length;
  return {
    own: right.get(listenerId)!,
    of,
    panel: all.length > 1 ? { mean, from: all[0]!, to: all[all.length - 1]! } : null,
  };
}

/** What was judged, also where it came too late to count for the panel. */
function judgedIn(
  sittingId: string,
  parts: readonly HeardPart[],
  answers: readonly AnswerRow[],
): Observation[] {
  return observationsOf(sittingId, parts, answers).flatMap(({ answer, observation }) =>
    answer.kind === 'judged' ? [observation] : [],
  );
}

/** What somebody said in a part, with the names. */
function partOf(
  part: HeardPart,
  judged: readonly Observation[],
  listenerId: string,
  nameOf: (id: string) => string,
): OwnAnswers['parts'][number] {
  const ofPart = judged.filter((said) => said.part === `${part.number}`);
  const own = ofPart.filter((said) => said.listener === listenerId);
  // On a line the best stands first, as the listener placed them.
  const sorted = TASKS[part.task].line
    ? [...own].sort(
        (x, y) => (y.kind === 'rating' ? y.value : 0) - (x.kind === 'rating' ? x.value : 0),
      )
    : own;
  return {
    prompt: part.prompt,
    heard: `${part.sourceName}, ${part.passageName}, ${contextOf(part)}`,
    said: sorted.map((said) => lineOf(said, nameOf)),
    right: rightOf(ofPart, listenerId),
  };
}

/** Own answers of the parts whose names are told while the sitting goes on; nothing of the others'. */
async function toldOf(
  sittingId: string,
  { id, seat }: { id: string; seat: number },
  told: number,
): Promise<OwnAnswers> {
  const parts = (await partsOfSitting(db(), sittingId)).slice(0, told);
  const judged = judgedIn(sittingId, parts, await listToldAnswers(db(), sittingId, id, told));
  const names = await toldNames(db(), sittingId, seat, told);
  return ownAnswers.parse({
    parts: parts.map((part) => partOf(part, judged, id, (chain) => names.get(chain) ?? chain)),
    findings: [],
    expected: [],
    agreement: null,
    circles: null,
  });
}

/** What is the same for all who listened in a closed sitting. */
interface Opened {
  parts: HeardPart[];
  judged: Observation[];
  names: ReadonlyMap<string, string>;
  analysis: StoredAnalysis | null;
}

async function open(sittingId: string): Promise<Opened | null> {
  const closed = await findClosed(db(), sittingId);
  if (!closed) return null;
  const parts = await partsOfSitting(db(), sittingId);
  const judged = judgedIn(sittingId, parts, await listAnswers(db(), sittingId));
  return { parts, judged, names: namesOf(closed), analysis: readStored(closed.analysis) };
}

/** A large panel comes all at once when it is told: what is read for one serves the next. */
const opened = new Map<string, { untilMs: number; made: Opened }>();
const opening = new Map<string, Promise<Opened | null>>();
const MOST_OPENED = 4;
const KEPT_MS = 60_000;

async function openedOf(sittingId: string): Promise<Opened | null> {
  const kept = opened.get(sittingId);
  if (kept && kept.untilMs > Date.now()) return kept.made;
  const going = opening.get(sittingId) ?? open(sittingId).finally(() => opening.delete(sittingId));
  opening.set(sittingId, going);
  const made = await going;
  // Until the answers are read everybody asks anew.
  if (made?.analysis) {
    if (opened.size >= MOST_OPENED) opened.clear();
    opened.set(sittingId, { untilMs: Date.now() + KEPT_MS, made });
  }
  return made;
}

/**
 * What whoever sits behind a link answered, with the names: of a closed sitting that gives them out, or of the parts
 * that are told before.
 */
export async function ownAnswersOf(
  token: string,
  listenerToken: string | undefined,
): Promise<OwnAnswers> {
  const { sitting, listener, told } = await seatRevealed(token, listenerToken);
  const all = await openedOf(sitting.id);
  if (!all) {
    if (told > 0) return toldOf(sitting.id, listener, told);
    throw new UserError(409, 'The key is shut until the sitting is closed.');
  }
  const { parts, judged, names, analysis } = all;
  const nameOf = (id: string) => names.get(id) ?? id;
  const across = analysis?.across.listeners.find((one) => one.listener === listener.id);
  const triads = across?.pair?.triads;
  return ownAnswers.parse({
    parts: parts.map((part) => partOf(part, judged, listener.id, nameOf)),
    findings: sitting.purpose === 'self-test' ? ownFindings(readOwn(judged), nameOf) : [],
    expected: (analysis?.across.predictions.entries ?? []).flatMap((entry) =>
      entry.role === 'listener' && entry.by === listener.id
        ? [{ about: entry.about, said: nameOf(entry.said), outcome: entry.outcome }]
        : [],
    ),
    agreement: across?.pair?.agreement ?? across?.rating?.agreement ?? null,
    circles: triads ? { times: triads.triads, of: triads.decidedTriads } : null,
  });
}
