import { randomBytes, randomUUID } from 'node:crypto';
import { canonicalJson, sha256Hex } from '@/core/design/seal';
import { ANALYSIS_PLAN } from '@/core/statistics/analysis-plan';
import type { Answer } from '@/core/tasks/task';
import { PROGRAM } from '@/core/version';
import type { Tx } from '@/platform/database';
import {
  MOST_SEATS,
  type PartDraft,
  PLAIN_PLAN,
  type SealedKey,
  type SittingDraft,
} from './schema';
import { insertListener, insertWritten } from './seats';
import { trialRows } from './service';
import {
  type CameFrom,
  chainsOfSet,
  insertAnswered,
  insertTrials,
  type KeyChain,
  markClosed,
  replaceParts,
} from './store';
import { sittingToken } from './token';

/** As of any sitting: its seats, the length of a name, of a remark, and trials of one listener. */
export const MOST = { listeners: MOST_SEATS, name: 40, remark: 200, trials: 200 };

/** One trial that was answered elsewhere: chains by id in the order of the slots, under the words they had. */
export interface ElsewhereTrial {
  /** From 1. */
  part: number;
  slots: { chainId: string; word: string }[];
  right: number | null;
  answer: Answer;
  remark: string;
}

export type ElsewherePart = Pick<
  PartDraft,
  'task' | 'clipSetId' | 'prompt' | 'tiesAllowed' | 'trials' | 'words'
>;

/** What came from elsewhere, and where from. */
export interface Elsewhere {
  title: string;
  parts: ElsewherePart[];
  listeners: { name: string; trials: ElsewhereTrial[] }[];
  from: CameFrom;
  /** When it was given away, or brought in. */
  begun: Date;
}

function draftOf({ title, parts, listeners }: Elsewhere): SittingDraft {
  return {
    title,
    seats: listeners.length,
    ...PLAIN_PLAN,
    codeMode: 'fixed',
    invitedOnly: true,
    reveal: 'never',
    parts: parts.map((part) => ({
      ...part,
      pair: null,
      controls: { self: false, levelCatch: false, repeats: 0 },
      adaptive: false,
    })),
  };
}

/** What was heard and under which words, in the form of every other sitting. */
function keyOf(
  sitting: string,
  draft: SittingDraft,
  { from, listeners }: Elsewhere,
  chainsOfPart: readonly (readonly KeyChain[])[],
): SealedKey {
  const chains = [...new Map(chainsOfPart.flat().map((chain) => [chain.id, chain])).values()];
  const places = new Map(chains.map(({ id }, place) => [id, place]));
  // A file says of no part that it was to be judged by itself.
  const { primaryPart, ...unsaid } = draft;
  return {
    document: 'zeitbank sealed key 3',
    program: PROGRAM,
    sitting,
    plan: 'blindPackId' in from ? { ...unsaid, primaryPart } : unsaid,
    analysis: ANALYSIS_PLAN.text,
    analysisVersion: ANALYSIS_PLAN.version,
    chains: chains.map(({ id, name }) => ({ id, name })),
    clips: chainsOfPart.map((own) =>
      Object.fromEntries(own.map(({ id, clipSha256 }) => [id, clipSha256])),
    ),
    seats: listeners.map(({ trials }) =>
      trials.map(({ part, right, slots }) => ({
        part,
        kind: 'judged',
        right,
        slots: slots.map(({ chainId, word }) => [places.get(chainId)!, 0, word]),
      })),
    ),
    nonce: randomBytes(32).toString('hex'),
  };
}

/** Keeps it as a closed sitting, as if it had been planned so. @returns its id */
export async function keepElsewhere(
  tx: Tx,
  comparisonId: string,
  elsewhere: Elsewhere,
  at: Date,
): Promise<string> {
  const id = randomUUID();
  const draft = draftOf(elsewhere);
  const chainsOfPart = [];
  for (const { clipSetId } of draft.parts) chainsOfPart.push(await chainsOfSet(tx, clipSetId));
  const key = keyOf(id, draft, elsewhere, chainsOfPart);
  const sealedKey = canonicalJson(key);
  await insertAnswered(
    tx,
    { id, comparisonId, token: sittingToken() },
    elsewhere.from,
    draft,
    { seal: await sha256Hex(sealedKey), sealedKey },
    { begun: elsewhere.begun, ended: at },
  );
  await replaceParts(tx, { comparisonId, sittingId: id }, draft.parts);
  await insertTrials(tx, id, trialRows(key, draft.parts, draft.seats));
  const written = [];
  for (const [i, { name, trials }] of elsewhere.listeners.entries()) {
    const seat = i + 1;
    const who = { sittingId: id, seat, alias: name, playback: '', simulated: false };
    const listenerId = await insertListener(tx, who, at);
    written.push(
      ...trials.map(({ answer, remark }, n) => ({
        listenerId,
        seat,
        position: n + 1,
        answer,
        remark,
      })),
    );
  }
  await insertWritten(tx, id, written, at);
  await markClosed(tx, id, at);
  return id;
}
