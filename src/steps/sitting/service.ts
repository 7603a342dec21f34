import { randomBytes, randomInt } from 'node:crypto';
import { codeTrials } from '@/core/design/codes';
import { pairOrders } from '@/core/design/orders';
import { canonicalJson, sha256Hex } from '@/core/design/seal';
import { type Db, db, transaction } from '@/platform/database';
import { notFound, UserError } from '@/platform/errors';
import { enqueue } from '@/platform/jobs';
import { announce } from '@/platform/live';
import type { SignedIn } from '@/platform/sign-in/service';
import type { Comparison } from '@/steps/comparisons/schema';
import { comparisonOf, sourcesOf } from '@/steps/comparisons/service';
import { listPassages } from '@/steps/comparisons/store';
import { type ClipSetFacts, CONTEXT_KINDS, CONTEXT_WORDS } from '@/steps/match/schema';
import { listClips, listClipSets } from '@/steps/match/store';
import { accountOf } from './account';
import type { SealedKey, Sitting, SittingAccount, SittingCounts, SittingDraft } from './schema';
import {
  chainsOfSet,
  countsOf,
  deleteDraft,
  insertSitting,
  insertTrials,
  type KeyChain,
  lacksAnalysis,
  listSittings,
  lockSitting,
  markClosed,
  markOpen,
  type TrialRow,
  updateSitting,
} from './store';

/** Fixed before the first answer and sealed with the key. */
const ANALYSIS_PLAN =
  'All pair judgements enter one Davidson model with ties and order effect. Headline test: net wins ' +
  'per listener, block test, 5 %. Single pairs: exact sign test over listeners, Holm. No look before ' +
  'closing; listeners are left out only if they never answered.';

const DEFAULT_PROMPT = 'Which recording suits this part better?';

export interface SittingView {
  comparison: Comparison;
  /** Whether there is a rendered set to listen to. */
  clipsReady: boolean;
  /** What can be listened to. */
  sets: { id: string; name: string }[];
  sittings: (Sitting & { counts: SittingCounts; account: SittingAccount })[];
  /** What a new sitting would start from. */
  proposal: { draft: SittingDraft; account: SittingAccount } | null;
}

export async function sittingsOf(engineer: SignedIn, comparisonId: string): Promise<SittingView> {
  const comparison = await comparisonOf(engineer, comparisonId);
  const sittings = await listSittings(db(), comparisonId);
  const sets = await readySets(db(), comparisonId);
  const planned = sittings.find(({ state }) => state === 'draft')?.clipSetId;
  const ready = sets.find(({ id }) => id === planned) ?? sets.at(0) ?? null;
  const chains = ready ? (await listClips(db(), ready.id)).length : 0;
  const clipSeconds = ready ? ready.facts.frames / ready.facts.sampleRateHz : 0;
  const draft: SittingDraft = {
    title: ready ? ready.name : comparison.sourceName,
    clipSetId: ready?.id,
    prompt: DEFAULT_PROMPT,
    tiesAllowed: true,
    trialsPerListener: Math.max(1, (chains * (chains - 1)) / 2),
    seats: 12,
    codeMode: 'fresh',
  };
  const views = [];
  for (const sitting of sittings) {
    const set = await latestSetLength(sitting.clipSetId);
    views.push({
      ...sitting,
      counts: await countsOf(db(), sitting.id),
      account: accountOf(sitting, set.chains, set.clipSeconds),
    });
  }
  return {
    comparison,
    clipsReady: ready !== null,
    sets: sets.map(({ id, name }) => ({ id, name })),
    sittings: views,
    proposal:
      ready && chains > 1 ? { draft, account: accountOf(draft, chains, clipSeconds) } : null,
  };
}

interface ReadySet {
  id: string;
  name: string;
  facts: ClipSetFacts;
}

/** Sets that can be listened to: the newest of each passage and context, plain ones first. */
async function readySets(from: Db, comparisonId: string): Promise<ReadySet[]> {
  const passages = await listPassages(from, comparisonId);
  const { sourceName } = await sourcesOf(from, comparisonId);
  const sets = (await listClipSets(from, comparisonId)).filter(({ state }) => state === 'ready');
  return passages.flatMap((passage) =>
    CONTEXT_KINDS.flatMap((kind) => {
      const set = sets.find((one) => one.passageId === passage.id && one.context === kind);
      if (!set?.facts) return [];
      const own = `${passage.sourceName ?? sourceName}, ${passage.name}`;
      const name = kind === 'raw' ? own : `${own}, ${CONTEXT_WORDS[kind]}`;
      return [{ id: set.id, name, facts: set.facts }];
    }),
  );
}

async function latestSetLength(
  clipSetId: string,
): Promise<{ chains: number; clipSeconds: number }> {
  const [row] = await db().rows<{ chains: number; seconds: number }>(
    `SELECT (SELECT count(*)::int FROM clip WHERE clip_set_id = $1) AS chains,
       passage_to_s - passage_from_s AS seconds FROM clip_set WHERE id = $1`,
    [clipSetId],
  );
  return { chains: row.chains, clipSeconds: row.seconds };
}

/** Writes the plan of the sitting in preparation; there is one at a time. */
export async function planSitting(
  engineer: SignedIn,
  comparisonId: string,
  draft: SittingDraft,
  at: Date,
): Promise<string> {
  const comparison = await comparisonOf(engineer, comparisonId);
  return transaction(async (tx) => {
    await tx.rows('SELECT pg_advisory_xact_lock(hashtextextended($1, 3))', [comparisonId]);
    const sets = await readySets(tx, comparisonId);
    const clipSet = draft.clipSetId ? sets.find(({ id }) => id === draft.clipSetId) : sets.at(0);
    if (!clipSet) {
      throw new UserError(422, 'A sitting needs matched clips; make the match first.');
    }
    const open = (await listSittings(tx, comparisonId)).find(({ state }) => state === 'draft');
    if (open) await updateSitting(tx, open.id, draft, clipSet.id);
    const id =
      open?.id ??
      (await insertSitting(
        tx,
        { comparisonId, clipSetId: clipSet.id, token: randomBytes(12).toString('base64url') },
        draft,
        comparison.simulated,
        at,
      ));
    await announce(tx, comparisonId);
    return id;
  });
}

async function ownSitting(
  engineer: SignedIn,
  comparisonId: string,
  sitting: (Sitting & { comparisonId: string }) | null,
): Promise<Sitting> {
  await comparisonOf(engineer, comparisonId);
  if (sitting?.comparisonId !== comparisonId) throw notFound('sitting');
  return sitting;
}

export async function discardDraft(
  engineer: SignedIn,
  comparisonId: string,
  sittingId: string,
): Promise<void> {
  await transaction(async (tx) => {
    const sitting = await ownSitting(engineer, comparisonId, await lockSitting(tx, sittingId));
    if (sitting.state !== 'draft') {
      throw new UserError(409, 'This sitting is sealed; it can be closed, not discarded.');
    }
    await deleteDraft(tx, sittingId);
    await announce(tx, comparisonId);
  });
}

/** Refuses texts for listeners that name a chain. */
function refuseNames(draft: SittingDraft, chains: readonly KeyChain[]): void {
  for (const text of [draft.title, draft.prompt]) {
    const named = chains.find(({ name }) => text.toLowerCase().includes(name.toLowerCase()));
    if (named) {
      throw new UserError(
        422,
        `Listeners would read the name “${named.name}”; take it out of the texts for them, then seal.`,
      );
    }
  }
}

function trialRows(key: SealedKey): TrialRow[] {
  const address = () => randomBytes(15).toString('base64url');
  const seed = () => randomInt(2 ** 47);
  return key.seats.flatMap((trials, seat) =>
    trials.map(([first, second, firstWord, secondWord], position) => ({
      seat: seat + 1,
      position: position + 1,
      firstChainId: key.chains[first].id,
      secondChainId: key.chains[second].id,
      firstWord,
      secondWord,
      firstAddress: address(),
      secondAddress: address(),
      firstSeed: seed(),
      secondSeed: seed(),
    })),
  );
}

/**
 * Draws the key, seals it, and opens the sitting. From here on the plan cannot change.
 * @param draw whole numbers below a limit; cryptographic, except for the demo's simulated panel
 */
export async function openSitting(
  engineer: SignedIn,
  comparisonId: string,
  sittingId: string,
  at: Date,
  draw: (most: number) => number = randomInt,
): Promise<{ seal: string }> {
  return transaction(async (tx) => {
    const sitting = await ownSitting(engineer, comparisonId, await lockSitting(tx, sittingId));
    if (sitting.state !== 'draft' && sitting.seal) return { seal: sitting.seal };
    const chains = await chainsOfSet(tx, sitting.clipSetId);
    const { title, prompt, tiesAllowed, trialsPerListener, seats, codeMode } = sitting;
    const plan = { title, prompt, tiesAllowed, trialsPerListener, seats, codeMode };
    refuseNames(plan, chains);
    const shape = { chains: chains.length, seats, trialsPerSeat: trialsPerListener };
    const orders = pairOrders({ ...shape, seed: draw(2 ** 47) });
    const coded = codeTrials(orders, chains.length, codeMode, draw(2 ** 47));
    const key: SealedKey = {
      document: 'zeitbank sealed key 1',
      sitting: sittingId,
      plan,
      analysis: ANALYSIS_PLAN,
      chains,
      seats: coded.map((slots) =>
        slots.map((slot) => [slot.first, slot.second, slot.firstWord, slot.secondWord]),
      ),
      nonce: randomBytes(32).toString('hex'),
    };
    const text = canonicalJson(key);
    const seal = await sha256Hex(text);
    await markOpen(tx, sittingId, seal, text, at);
    await insertTrials(tx, sitting, trialRows(key));
    await announce(tx, comparisonId);
    return { seal };
  });
}

/**
 * Ends the answering for good; the key is opened and the analysis made. Asked again it changes nothing,
 * but has an analysis that did not come about made anew.
 */
export async function closeSitting(
  engineer: SignedIn,
  comparisonId: string,
  sittingId: string,
  at: Date,
): Promise<void> {
  await transaction(async (tx) => {
    const sitting = await ownSitting(engineer, comparisonId, await lockSitting(tx, sittingId));
    const again = sitting.state === 'closed';
    if (again && !(await lacksAnalysis(tx, sittingId))) return;
    if (sitting.state === 'draft') {
      throw new UserError(409, 'This sitting was not opened yet, so there is nothing to close.');
    }
    if (!again) await markClosed(tx, sittingId, at);
    const label = 'reading the results';
    await enqueue(tx, 'analyse-sitting', { comparisonId, subjectId: sittingId, label }, at);
  });
}
