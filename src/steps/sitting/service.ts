import { randomBytes, randomInt } from 'node:crypto';
import { ADAPTIVE_RULE } from '@/core/design/adaptive';
import { type Balance, balanceOf } from '@/core/design/balance';
import { codeTrials } from '@/core/design/codes';
import { canonicalJson, sha256Hex } from '@/core/design/seal';
import { type Telling, tellings } from '@/core/design/telling';
import type { Random } from '@/core/signal/random';
import { closestPair } from '@/core/spectrum/closest';
import type { ContextKind } from '@/core/matching/contexts';
import { ANALYSIS_PLAN } from '@/core/statistics/analysis-plan';
import { TASKS } from '@/core/tasks';
import { needsFreshWords } from '@/core/tasks/shared/controls';
import type { TrialDesign } from '@/core/tasks/task';
import { PROGRAM } from '@/core/version';
import { type Db, db, transaction, type Tx } from '@/platform/database';
import { notFound, UserError } from '@/platform/errors';
import { enqueue } from '@/platform/jobs';
import { record } from '@/platform/events/service';
import { announce } from '@/platform/live';
import { freshToken, hashOfToken } from '@/platform/secret-link';
import { freshSeed, systemRandom } from '@/platform/system-random';
import type { SignedIn } from '@/platform/sign-in/service';
import { gearNamesOf } from '@/steps/chains/store';
import type { Comparison, Written } from '@/steps/comparisons/schema';
import { comparisonOf } from '@/steps/comparisons/service';
import { listPassages, writtenOf } from '@/steps/comparisons/store';
import { CONTEXT_KINDS, CONTEXT_WORDS } from '@/steps/match/schema';
import type { ClipSetFacts } from '@/steps/match/stored';
import { listClipSets } from '@/steps/match/store';
import { deletePanelist, namesOfPanel, panelSize } from '@/steps/panel/store';
import { accountOf, type ClipFacts } from './account';
import {
  ASKED_NOW,
  type FreshLink,
  type LinkQuery,
  type ListenerQuery,
  type NamedListening,
  type PartDraft,
  type PersonalLink,
  PLAIN_PLAN,
  planOf,
  type SealBreaking,
  type SealedKey,
  type SealedQuestion,
  sealedQuestion,
  type SealedWith,
  type ShownListener,
  type Sitting,
  type SittingAccount,
  type SittingCounts,
  type SittingDraft,
} from './schema';
import {
  askedNow,
  chainsOfSet,
  clipFactsOf,
  colouredChains,
  countSeats,
  countsOf,
  deleteDraft,
  deleteRehearsals,
  dropAnalysis,
  forgetListener,
  heardByName,
  insertHeardByName,
  insertSitting,
  insertLinks,
  insertNamedListening,
  insertTrials,
  judgedTrials,
  type KeyChain,
  lacksAnalysis,
  laidOut,
  linkedPanelists,
  listNamedListening,
  listSealed,
  listSittings,
  lockSitting,
  markBroken,
  markClosed,
  markOpen,
  type Meant,
  openSittingsOver,
  pageOfLinks,
  pageOfListeners,
  releaseSeat,
  seatsOf,
  replaceParts,
  setAdaptiveSeed,
  setLinkToken,
  setLinkWithdrawn,
  setSharedLink,
  type TrialRow,
  updateSitting,
} from './store';
import { differenceFromSeal } from './verify';
import { sittingToken } from './token';

/** Signs of a short code; none that is easily taken for another. */
const CODE_SIGNS = 'ABCDEFGHJKLMNPQRSTUVWXYZ23456789';
const CODE_LENGTH = 6;

export interface SittingView {
  comparison: Comparison;
  /** What can be listened to, plain sets first. */
  sets: ListenableSet[];
  sittings: (Sitting & {
    counts: SittingCounts;
    account: SittingAccount;
    /** How evenly the orders of each part came out; empty unless it is open, null where answers lead them. */
    balances: (Balance | null)[];
    /** Who listened by name while it was open. */
    namedListening: NamedListening[];
    /** Texts for listeners that may give something away, while it is planned. */
    tellings: Telling[];
  })[];
  /** Who can be asked. */
  /** How many people are on the panel. */
  panel: number;
  /** What a new sitting would start from. */
  proposal: SittingDraft | null;
}

/** A set of clips as the plan of a sitting needs it. */
export interface ListenableSet extends ClipFacts {
  id: string;
  name: string;
  chainNames: { id: string; name: string }[];
  referenceChainId: string;
  stereo: boolean;
  /** The two chains whose spectra lie nearest; null where that is not known. */
  closest: { pair: [string, string]; distanceDb: number } | null;
}

const NOTHING_PAID: SittingCounts = { joined: 0, finished: 0, answers: 0, trialsEach: 0 };
const NO_CLIPS: ClipFacts = { chains: 0, clipSeconds: 0 };

/** What was sealed of the question with each sitting, latest first. */
export async function sealedQuestionsOf(
  engineer: SignedIn,
  comparisonId: string,
): Promise<SealedWith[]> {
  await comparisonOf(engineer, comparisonId);
  return (await listSealed(db(), comparisonId)).map((one) => ({
    ...one,
    question: sealedQuestion.safeParse(one.question).data ?? null,
  }));
}

export async function sittingsOf(engineer: SignedIn, comparisonId: string): Promise<SittingView> {
  const comparison = await comparisonOf(engineer, comparisonId);
  const sittings = await listSittings(db(), comparisonId);
  const ready = await readySets(db(), comparisonId);
  const clipsOf = await colouredChains(
    db(),
    ready.map(({ id }) => id),
  );
  const sets = ready.map(({ id, name, facts, referenceChainId }) => {
    const clips = clipsOf.get(id) ?? [];
    const chainNames = clips.map((chain) => ({ id: chain.id, name: chain.name }));
    const closest = closestPair(clips.map(({ against }) => against));
    return {
      id,
      name,
      chainNames,
      chains: chainNames.length,
      clipSeconds: facts.frames / facts.sampleRateHz,
      referenceChainId,
      stereo: facts.channels > 1,
      closest: closest && {
        pair: [chainNames[closest.pair[0]]!.id, chainNames[closest.pair[1]]!.id] as [
          string,
          string,
        ],
        distanceDb: closest.distanceDb,
      },
    };
  });
  const ids = sittings.map(({ id }) => id);
  const facts = await clipFactsOf(db(), comparisonId);
  const counts = await countsOf(db(), ids);
  const named = await listNamedListening(db(), ids);
  const views = [];
  for (const sitting of sittings) {
    const clips = sitting.parts.map(({ clipSetId }) => facts.get(clipSetId) ?? NO_CLIPS);
    views.push({
      ...sitting,
      counts: counts.get(sitting.id) ?? NOTHING_PAID,
      account: accountOf(sitting, clips),
      balances: sitting.state === 'open' ? await balancesOf(sitting) : [],
      namedListening: named.get(sitting.id) ?? [],
      tellings:
        sitting.state === 'draft'
          ? await tellingsOf(
              db(),
              sitting,
              sets.flatMap(({ chainNames }) => chainNames),
            )
          : [],
    });
  }
  const first = sets.find(({ chains }) => chains > 1);
  return {
    comparison,
    sets,
    sittings: views,
    panel: await panelSize(db(), engineer.studioId),
    proposal: first ? proposalFor(first) : null,
  };
}

/** Orders never change once they were drawn, and the page is looked at again with every answer. */
const balances = new Map<string, (Balance | null)[]>();
const MOST_BALANCES = 200;

async function balancesOf(sitting: Sitting): Promise<(Balance | null)[]> {
  const kept = balances.get(sitting.id);
  if (kept) return kept;
  const found = await countBalances(sitting);
  if (balances.size >= MOST_BALANCES) balances.clear();
  balances.set(sitting.id, found);
  return found;
}

/** Counts over all seats, which tell nothing of any chain; in a room one seat stands for all. */
async function countBalances({ id, parts, room }: Sitting): Promise<(Balance | null)[]> {
  const trials = await judgedTrials(db(), id);
  return parts.map(({ adaptive }, i) => {
    // Orders that follow the answers would tell of them.
    if (adaptive) return null;
    const own = trials.filter(({ part, seat }) => part === i + 1 && (room === 'own' || seat === 1));
    const seats = [...new Set(own.map(({ seat }) => seat))].map((seat) =>
      own.filter((trial) => trial.seat === seat).map(({ slots }) => slots),
    );
    return balanceOf(seats, 1 + Math.max(0, ...own.flatMap(({ slots }) => slots)));
  });
}

/** Pairs over everything: each listener hears every pair once. */
function proposalFor(set: ListenableSet): SittingDraft {
  return {
    title: set.name,
    seats: 12,
    ...PLAIN_PLAN,
    parts: [
      {
        task: 'pair',
        clipSetId: set.id,
        prompt: TASKS.pair.prompt,
        tiesAllowed: true,
        trials: TASKS.pair.round(set.chains),
        pair: null,
        controls: { self: true, levelCatch: true, repeats: 1 },
        adaptive: false,
        words: [],
      },
    ],
  };
}

export interface ReadySet {
  id: string;
  name: string;
  source: string;
  context: ContextKind;
  /** Its clips stand at one gain, not at one level. */
  sameGain: boolean;
  facts: ClipSetFacts;
  referenceChainId: string;
}

/**
 * Sets that can be listened to: the newest of each passage and context, plain ones first; those at one gain stand
 * beside those whose level was matched.
 */
export async function readySets(from: Db, comparisonId: string): Promise<ReadySet[]> {
  const passages = await listPassages(from, comparisonId);
  const sets = (await listClipSets(from, comparisonId)).filter(({ state }) => state === 'ready');
  return passages.flatMap((passage) =>
    CONTEXT_KINDS.flatMap((kind) =>
      [false, true].flatMap((sameGain) => {
        const set = sets.find(
          ({ passageId, context, method }) =>
            passageId === passage.id && context === kind && (method === 'gain') === sameGain,
        );
        if (!set?.facts) return [];
        const { id, facts, referenceChainId } = set;
        const name = [
          `${passage.sourceName}, ${passage.name}`,
          ...(kind === 'raw' ? [] : [CONTEXT_WORDS[kind]]),
          ...(sameGain ? ['at the same gain'] : []),
        ].join(', ');
        return [
          {
            id,
            name,
            source: passage.sourceName,
            context: kind,
            sameGain,
            facts,
            referenceChainId,
          },
        ];
      }),
    ),
  );
}

/** Refuses parts that cannot be asked over their clips. */
function refuseImpossible(parts: readonly PartDraft[], chains: readonly KeyChain[][]): void {
  parts.forEach(({ pair, adaptive }, i) => {
    const ids = chains[i]!.map(({ id }) => id);
    const say = (sentence: string) => {
      throw new UserError(422, parts.length > 1 ? `Part ${i + 1}: ${sentence}` : sentence);
    };
    if (ids.length < 2) say('there is only one recording to hear; match at least two.');
    if (adaptive && ids.length < 3) say('adaptive pairs need at least three recordings.');
    if (pair && !pair.every((id) => ids.includes(id))) {
      say('a chain that it names is not among its clips; choose again.');
    }
  });
}

/** Refuses a plan over clips that are gone or were made anew since. */
async function refuseOldSets(tx: Tx, comparisonId: string, { parts }: SittingDraft): Promise<void> {
  const sets = await readySets(tx, comparisonId);
  if (parts.every(({ clipSetId }) => sets.some(({ id }) => id === clipSetId))) return;
  throw new UserError(
    422,
    'A sitting needs matched clips, and the newest of their kind; make the match, or choose again.',
  );
}

/** Refuses a plan that cannot be asked over the clips it names. */
async function refuseUnplayable(tx: Tx, comparisonId: string, draft: SittingDraft): Promise<void> {
  await refuseOldSets(tx, comparisonId, draft);
  const chains = [];
  for (const { clipSetId } of draft.parts) chains.push(await chainsOfSet(tx, clipSetId));
  refuseImpossible(draft.parts, chains);
}

/** Until the transaction ends nobody else writes or seals a plan of this comparison. */
async function onePlanAtATime(tx: Tx, comparisonId: string): Promise<void> {
  await tx.rows('SELECT pg_advisory_xact_lock(hashtextextended($1, 3))', [comparisonId]);
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
    await onePlanAtATime(tx, comparisonId);
    await refuseUnplayable(tx, comparisonId, draft);
    const open = (await listSittings(tx, comparisonId)).find(({ state }) => state === 'draft');
    const token = sittingToken();
    const id =
      open?.id ??
      (await insertSitting(
        tx,
        { comparisonId, token, purpose: 'panel' },
        draft,
        comparison.simulated,
        at,
      ));
    await writePlan(tx, { comparisonId, sittingId: id }, draft);
    await announce(tx, comparisonId);
    return id;
  });
}

async function writePlan(
  tx: Tx,
  ids: { comparisonId: string; sittingId: string },
  draft: SittingDraft,
): Promise<void> {
  await updateSitting(tx, ids.sittingId, draft);
  await replaceParts(tx, ids, draft.parts);
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

/** What in the texts for listeners gives a chain away, or may. */
async function tellingsOf(
  from: Db,
  { title, parts }: Pick<SittingDraft, 'title' | 'parts'>,
  chains: readonly { id: string; name: string }[],
): Promise<Telling[]> {
  const gear = await gearNamesOf(
    from,
    chains.map(({ id }) => id),
  );
  const names = [...chains.map(({ name }) => name), ...gear];
  const texts = [title, ...parts.flatMap(({ prompt, words }) => [prompt, ...words])];
  return texts.flatMap((text) => tellings(text, names));
}

/** Refuses texts for listeners that name a chain, or gear in it. */
async function refuseNames(
  tx: Tx,
  plan: SittingDraft,
  chains: readonly { id: string; name: string }[],
): Promise<void> {
  const told = (await tellingsOf(tx, plan, chains)).find(({ certain }) => certain);
  if (!told) return;
  throw new UserError(
    422,
    `Listeners would read “${told.words}”, which stands for “${told.name}”; take it out of the texts for them, then seal.`,
  );
}

/** The trials of every seat, part after part; chains by their index in the whole sitting. */
function drawTrials(
  sitting: SittingDraft,
  chains: readonly KeyChain[],
  chainsOfPart: readonly (readonly KeyChain[])[],
  references: readonly string[],
  random: Random,
): (TrialDesign & { part: number })[][] {
  const seats: (TrialDesign & { part: number })[][] = Array.from(
    { length: sitting.seats },
    () => [],
  );
  sitting.parts.forEach((part, i) => {
    const ids = chainsOfPart[i]!.map(({ id }) => id);
    const [a, b] = part.pair ?? [];
    const orders = TASKS[part.task].orders({
      chains: ids.length,
      seats: sitting.seats,
      trialsPerSeat: part.trials,
      together: sitting.room === 'together',
      pair: a && b ? [ids.indexOf(a), ids.indexOf(b)] : null,
      reference: Math.max(0, ids.indexOf(references[i]!)),
      controls: part.controls,
      random,
    });
    const inSitting = ids.map((id) => chains.findIndex((chain) => chain.id === id));
    orders.forEach((trials, seat) => {
      for (const { kind, right, slots } of trials) {
        const placed = slots.map(({ chain, gainDb }) => ({ chain: inSitting[chain]!, gainDb }));
        seats[seat]!.push({ part: i + 1, kind, right, slots: placed });
      }
    });
  });
  return seats;
}

/** In a room all seats hear what the first one hears. */
export function trialRows(key: SealedKey, parts: readonly PartDraft[], seats: number): TrialRow[] {
  return Array.from({ length: seats }, (_, seat) => seat).flatMap((seat) =>
    (key.seats[seat] ?? key.seats[0]!).map(({ part, kind, right, slots }, position) => ({
      seat: seat + 1,
      position: position + 1,
      part,
      kind: kind as TrialRow['kind'],
      rightSlot: right,
      seed: freshSeed(),
      slots: slots.map(([chain, gainDb, word]) => ({
        clipSetId: parts[part - 1]!.clipSetId,
        chainId: key.chains[chain]!.id,
        gainDb,
        word,
        address: randomBytes(15).toString('base64url'),
        seed: freshSeed(),
      })),
    })),
  );
}

/** What of the question the results are held against. */
function questionOf({ question: decides, brief }: Written, by: string): SealedQuestion {
  const { contexts, nullHypothesis, smallestSharePct, predictedAt: at } = brief;
  const prediction = { by, ...brief.prediction, at };
  return { decides, contexts, nullHypothesis, smallestSharePct, prediction };
}

/** Draws the key of a sitting in preparation, seals it, and opens it. @returns the seal */
async function sealAndOpen(
  tx: Tx,
  engineer: SignedIn,
  comparisonId: string,
  sitting: Sitting,
  random: Random,
  at: Date,
): Promise<string> {
  const plan = planOf(sitting);
  const { seats, codeMode, room, parts } = plan;
  const question = questionOf(await writtenOf(tx, comparisonId), engineer.name);
  const sets = await listClipSets(tx, comparisonId);
  const chainsOfPart = [];
  const references = [];
  for (const { clipSetId } of parts) {
    chainsOfPart.push(await chainsOfSet(tx, clipSetId));
    references.push(sets.find(({ id }) => id === clipSetId)?.referenceChainId ?? '');
  }
  refuseImpossible(parts, chainsOfPart);
  const byId = new Map(chainsOfPart.flat().map((chain) => [chain.id, chain]));
  const chains = [...byId.values()];
  await refuseNames(tx, plan, chains);
  const ordered = room === 'together' ? { ...plan, seats: 1 } : plan;
  const drawn = drawTrials(ordered, chains, chainsOfPart, references, random);
  const words = codeTrials(
    drawn.map((trials) =>
      trials.map(({ part, slots }) => ({
        slots,
        freshWords: needsFreshWords(TASKS[parts[part - 1]!.task], parts[part - 1]!.controls),
      })),
    ),
    chains.length,
    codeMode,
    random,
  );
  const seeds = parts.flatMap(({ adaptive }, i) =>
    adaptive ? [[i + 1, randomInt(2 ** 47)] as const] : [],
  );
  const key: SealedKey = {
    document: 'zeitbank sealed key 3',
    program: PROGRAM,
    sitting: sitting.id,
    plan: { ...plan, question },
    analysis: seeds.length > 0 ? `${ANALYSIS_PLAN.text} ${ADAPTIVE_RULE}` : ANALYSIS_PLAN.text,
    analysisVersion: ANALYSIS_PLAN.version,
    chains: chains.map(({ id, name }) => ({ id, name })),
    clips: chainsOfPart.map((own) =>
      Object.fromEntries(own.map(({ id, clipSha256 }) => [id, clipSha256])),
    ),
    seats: drawn.map((trials, seat) =>
      trials.map(({ part, kind, right, slots }, trial) => ({
        part,
        kind,
        right,
        slots: slots.map(({ chain, gainDb }, slot) => [chain, gainDb, words[seat]![trial]![slot]!]),
      })),
    ),
    ...(seeds.length > 0 && { adaptiveSeeds: Object.fromEntries(seeds) }),
    nonce: randomBytes(32).toString('hex'),
  };
  const text = canonicalJson(key);
  const seal = await sha256Hex(text);
  const code = Array.from({ length: CODE_LENGTH }, () => CODE_SIGNS[randomInt(CODE_SIGNS.length)]);
  const sealed = { seal, sealedKey: text, code: code.join('') };
  await markOpen(tx, sitting.id, sealed, at);
  for (const [part, seed] of seeds) await setAdaptiveSeed(tx, sitting.id, part, seed);
  await insertTrials(tx, sitting.id, trialRows(key, parts, seats));
  return seal;
}

/**
 * Writes the plan, draws the key, seals it, and opens the sitting. From here on the plan cannot change.
 * @param draft the plan as whoever seals it sees it; what somebody else saved meanwhile is not sealed unseen
 * @param random cryptographic, except for the demo's simulated panel
 * @throws UserError (409) where somebody else sealed another plan
 */
export async function openSitting(
  engineer: SignedIn,
  comparisonId: string,
  sittingId: string,
  draft: SittingDraft,
  at: Date,
  random: Random = systemRandom(),
): Promise<{ seal: string }> {
  return transaction(async (tx) => {
    await onePlanAtATime(tx, comparisonId);
    const found = await ownSitting(engineer, comparisonId, await lockSitting(tx, sittingId));
    if (found.state !== 'draft' && found.seal) {
      if (canonicalJson(planOf(found)) === canonicalJson(draft)) return { seal: found.seal };
      throw new UserError(
        409,
        'Somebody sealed another plan just now; yours was not sealed. Look at theirs, then plan a further sitting.',
      );
    }
    await refuseUnplayable(tx, comparisonId, draft);
    await writePlan(tx, { comparisonId, sittingId }, draft);
    const sitting = await ownSitting(engineer, comparisonId, await lockSitting(tx, sittingId));
    const seal = await sealAndOpen(tx, engineer, comparisonId, sitting, random, at);
    await announce(tx, comparisonId);
    const about = `“${sitting.title}”, seal ${seal}`;
    await record(tx, engineer, 'sealed', { about, comparisonId }, at);
    return { seal };
  });
}

/**
 * A whole sitting for one, to walk as a listener would. It stands beside the real ones, is never
 * listed, closed or read, and goes when the next one comes or after a day.
 */
export async function rehearse(
  engineer: SignedIn,
  comparisonId: string,
  draft: SittingDraft,
  at: Date,
): Promise<{ token: string }> {
  const { simulated } = await comparisonOf(engineer, comparisonId);
  return transaction(async (tx) => {
    await deleteRehearsals(tx, { comparisonId });
    const where = { comparisonId, simulated };
    return openForOne(tx, engineer, where, { purpose: 'rehearsal' }, draft, at);
  });
}

/** Seals and opens a sitting of one seat beside those of the panel. */
async function openForOne(
  tx: Tx,
  engineer: SignedIn,
  { comparisonId, simulated }: { comparisonId: string; simulated: boolean },
  meant: Meant,
  draft: SittingDraft,
  at: Date,
): Promise<{ token: string }> {
  await refuseUnplayable(tx, comparisonId, draft);
  const token = sittingToken();
  const plan: SittingDraft = { ...draft, seats: 1, room: 'own' };
  const id = await insertSitting(tx, { comparisonId, token, ...meant }, plan, simulated, at);
  await replaceParts(tx, { comparisonId, sittingId: id }, plan.parts);
  const sitting = await ownSitting(engineer, comparisonId, await lockSitting(tx, id));
  await sealAndOpen(tx, engineer, comparisonId, sitting, systemRandom(), at);
  return { token };
}

/**
 * A sitting for whoever asks for it, sealed by the machine: kept, told to nobody else, and closed by its last answer.
 * Whether its clips had been heard by name before is written down with it.
 * @throws UserError (409) while the panel is asked about the clips
 */
export async function openSelfTest(
  engineer: SignedIn,
  comparisonId: string,
  draft: SittingDraft,
  at: Date,
): Promise<{ token: string }> {
  const { simulated } = await comparisonOf(engineer, comparisonId);
  return transaction(async (tx) => {
    const { clipSetId, pair } = draft.parts[0]!;
    if ((await openSittingsOver(tx, comparisonId, { clipSetId })).length > 0) {
      throw new UserError(409, ASKED_NOW);
    }
    const heardBefore = await heardByName(tx, engineer.accountId, clipSetId, pair);
    const meant = { purpose: 'self-test', testerId: engineer.accountId, heardBefore } as const;
    const made = await openForOne(tx, engineer, { comparisonId, simulated }, meant, draft, at);
    await announce(tx, comparisonId);
    return made;
  });
}

/** What the last answer of a self-test does: it shuts the answering and opens the key. */
export async function endSelfTest(tx: Tx, sittingId: string, at: Date): Promise<void> {
  await markClosed(tx, sittingId, at);
}

/** Rehearsals that nobody ended. */
export async function tidyRehearsals(before: Date): Promise<void> {
  await transaction((tx) => deleteRehearsals(tx, { before }));
}

/**
 * Opens the key before closing. It can be done, but not in secret: when and why is kept for good, and
 * every later report says so.
 */
export async function breakSeal(
  engineer: SignedIn,
  comparisonId: string,
  sittingId: string,
  { reason, title }: SealBreaking,
  at: Date,
): Promise<void> {
  await transaction(async (tx) => {
    const sitting = await ownSitting(engineer, comparisonId, await lockSitting(tx, sittingId));
    if (sitting.state !== 'open') {
      throw new UserError(409, 'Only the seal of an open sitting can be broken.');
    }
    if (title.trim() !== sitting.title) {
      throw new UserError(422, 'The title typed is not that of this sitting; the seal is whole.');
    }
    await markBroken(tx, sittingId, reason, at);
    await announce(tx, comparisonId);
    const about = `“${sitting.title}”: ${reason}`;
    await record(tx, engineer, 'seal broken', { about, comparisonId }, at);
  });
}

/**
 * On a person's request: their name and device go, their answers stay without them. Where the results were
 * read already they are read anew, so that the name goes from them, too.
 */
export async function forget(
  engineer: SignedIn,
  comparisonId: string,
  sittingId: string,
  seat: number,
  at: Date,
): Promise<void> {
  await transaction(async (tx) => {
    const sitting = await ownSitting(engineer, comparisonId, await lockSitting(tx, sittingId));
    if (!(await forgetSeat(tx, comparisonId, sitting, seat, at))) throw notFound('listener');
    // Nobody's name stands in the log: it would be kept for ever.
    const about = `seat ${seat} of “${sitting.title}”`;
    await record(tx, engineer, 'forgotten', { about, comparisonId }, at);
  });
}

/** Frees a seat on which nothing was answered, for somebody else. */
export async function release(
  engineer: SignedIn,
  comparisonId: string,
  sittingId: string,
  seat: number,
): Promise<void> {
  await transaction(async (tx) => {
    await openOne(tx, engineer, comparisonId, sittingId);
    if (!(await releaseSeat(tx, sittingId, seat))) {
      throw new UserError(409, 'On this seat something was answered, so it stays taken.');
    }
    await announce(tx, comparisonId);
  });
}

/** @returns whether somebody had this seat */
async function forgetSeat(
  tx: Tx,
  comparisonId: string,
  { id, state }: Pick<Sitting, 'id' | 'state'>,
  seat: number,
  at: Date,
): Promise<boolean> {
  if (!(await forgetListener(tx, id, seat, at))) return false;
  if (state === 'closed') {
    await dropAnalysis(tx, id);
    await orderAnalysis(tx, comparisonId, id, at);
  }
  await announce(tx, comparisonId);
  return true;
}

/** On a person's request: they leave the panel, and every sitting they took part in forgets them. */
export async function forgetPanelist(
  engineer: SignedIn,
  panelistId: string,
  at: Date,
): Promise<void> {
  await transaction(async (tx) => {
    for (const { sittingId, seat } of await seatsOf(tx, engineer.studioId, panelistId)) {
      const sitting = await lockSitting(tx, sittingId);
      if (sitting) await forgetSeat(tx, sitting.comparisonId, sitting, seat, at);
    }
    if (!(await deletePanelist(tx, engineer.studioId, panelistId))) throw notFound('person');
    await record(tx, engineer, 'forgotten', { about: 'somebody of the panel' }, at);
  });
}

/** An open sitting of the engineer's, locked. */
async function openOne(
  tx: Tx,
  engineer: SignedIn,
  comparisonId: string,
  sittingId: string,
): Promise<Sitting> {
  const sitting = await ownSitting(engineer, comparisonId, await lockSitting(tx, sittingId));
  if (sitting.state !== 'open') {
    throw new UserError(409, 'Links are for open sittings; seal and open this one first.');
  }
  return sitting;
}

async function refuseForeign(
  engineer: SignedIn,
  comparisonId: string,
  sittingId: string,
): Promise<void> {
  await comparisonOf(engineer, comparisonId);
  const sittings = await listSittings(db(), comparisonId);
  if (!sittings.some(({ id }) => id === sittingId)) throw notFound('sitting');
}

/** One page of who came to a sitting; nothing of what they answered. */
export async function listenersOf(
  engineer: SignedIn,
  comparisonId: string,
  sittingId: string,
  query: ListenerQuery,
): Promise<{ rows: ShownListener[]; found: number }> {
  await refuseForeign(engineer, comparisonId, sittingId);
  const { rows, found } = await pageOfListeners(db(), sittingId, query);
  const shown = rows.map(({ devices, ...listener }) => ({
    ...listener,
    devices: devices.map((at) => at.toISOString()),
  }));
  return { rows: shown, found };
}

/** One page of the links of single people to a sitting. */
export async function linksOf(
  engineer: SignedIn,
  comparisonId: string,
  sittingId: string,
  query: LinkQuery,
): Promise<{ rows: PersonalLink[]; found: number }> {
  await refuseForeign(engineer, comparisonId, sittingId);
  return pageOfLinks(db(), sittingId, query);
}

/** People of the panel who have no link to a sitting yet, the first whose name fits what is typed. */
export async function askableOf(
  engineer: SignedIn,
  comparisonId: string,
  sittingId: string,
  q: string,
): Promise<{ id: string; name: string }[]> {
  await refuseForeign(engineer, comparisonId, sittingId);
  return namesOfPanel(db(), engineer.studioId, q, await linkedPanelists(db(), sittingId));
}

/** Gives people of the panel a link of their own, and keeps a seat for each; whoever has one keeps it. */
export async function addLinks(
  engineer: SignedIn,
  comparisonId: string,
  sittingId: string,
  panelistIds: readonly string[],
  at: Date,
): Promise<FreshLink[]> {
  return transaction(async (tx) => {
    const { seats } = await openOne(tx, engineer, comparisonId, sittingId);
    const tokens = new Map(panelistIds.map((id) => [id, freshToken()]));
    const links = [...tokens].map(([panelistId, token]) => ({
      panelistId,
      tokenHash: hashOfToken(token),
    }));
    const made = await insertLinks(tx, { sittingId, ownerId: engineer.studioId }, links, at);
    const { taken, reserved } = await countSeats(tx, sittingId);
    if (taken + reserved > seats) {
      throw new UserError(
        409,
        `This sitting has ${seats} seats: ${taken} are taken, and ${reserved - made.length} kept for others. No link was made.`,
      );
    }
    await announce(tx, comparisonId);
    return made.map(({ panelistId, alias }) => ({ alias, token: tokens.get(panelistId) ?? '' }));
  });
}

/** Makes a new secret for somebody's link; the old one opens nothing any more, their seat stays theirs. */
export async function renewLink(
  engineer: SignedIn,
  comparisonId: string,
  sittingId: string,
  linkId: string,
): Promise<{ token: string }> {
  const token = freshToken();
  await transaction(async (tx) => {
    await openOne(tx, engineer, comparisonId, sittingId);
    if (!(await setLinkToken(tx, sittingId, linkId, hashOfToken(token)))) throw notFound('link');
    await announce(tx, comparisonId);
  });
  return { token };
}

/** What is better not heard by name now: open sittings ask about it. */
export async function guardedOf(
  engineer: SignedIn,
  comparisonId: string,
): Promise<{ clipSetIds: string[]; takeIds: string[] }> {
  await comparisonOf(engineer, comparisonId);
  return askedNow(db(), comparisonId);
}

/**
 * Whether somebody may listen by name: while a sitting asks about it, only who insists, and that is written down
 * for every report.
 * @throws UserError (409) while a sitting over it is open and nobody insists
 */
export async function listenByName(
  engineer: SignedIn,
  comparisonId: string,
  what: { clipSetId: string } | { takeId: string },
  insists: boolean,
  at: Date,
): Promise<void> {
  const open = await openSittingsOver(db(), comparisonId, what);
  if (open.length === 0) {
    await insertHeardByName(db(), engineer.accountId, what, at);
    return;
  }
  if (!insists) {
    throw new UserError(
      409,
      'A sitting over these recordings is open: whoever hears them by name now can recognise what the panel hears blind.',
    );
  }
  await transaction(async (tx) => {
    await insertNamedListening(tx, open, engineer.name, at);
    await insertHeardByName(tx, engineer.accountId, what, at);
    await record(tx, engineer, 'heard by name', { comparisonId }, at);
  });
}

/** Withdraws somebody's link, or gives it back; what they answered stays. */
export async function changeLink(
  engineer: SignedIn,
  comparisonId: string,
  sittingId: string,
  linkId: string,
  withdrawn: boolean,
  at: Date,
): Promise<void> {
  await transaction(async (tx) => {
    await openOne(tx, engineer, comparisonId, sittingId);
    const done = await setLinkWithdrawn(tx, sittingId, linkId, withdrawn ? at : null);
    if (!done) throw notFound('link');
    await announce(tx, comparisonId);
  });
}

/** Whether the shared link and its code take new listeners; whoever has a seat keeps it. */
export async function changeSharedLink(
  engineer: SignedIn,
  comparisonId: string,
  sittingId: string,
  open: boolean,
): Promise<void> {
  await transaction(async (tx) => {
    const { invitedOnly } = await openOne(tx, engineer, comparisonId, sittingId);
    if (open && invitedOnly) {
      throw new UserError(
        409,
        'It was sealed for invited people only; give them links of their own.',
      );
    }
    await setSharedLink(tx, sittingId, open);
    await announce(tx, comparisonId);
  });
}

export const orderAnalysis = (tx: Tx, comparisonId: string, sittingId: string, at: Date) =>
  enqueue(
    tx,
    'analyse-sitting',
    { comparisonId, subjectId: sittingId, label: 'reading the results' },
    at,
  );

/** Has a closed sitting read anew: what was made of its answers is dropped, the answers are not. */
export async function readAgain(comparisonId: string, sittingId: string, at: Date): Promise<void> {
  await transaction(async (tx) => {
    const sitting = await lockSitting(tx, sittingId);
    if (sitting?.state !== 'closed' || sitting.comparisonId !== comparisonId) return;
    await dropAnalysis(tx, sittingId);
    if (await lacksAnalysis(tx, sittingId)) await orderAnalysis(tx, comparisonId, sittingId, at);
  });
}

/**
 * Refuses to close what is not as it was sealed. Where the seal was broken, openly and with a reason, it is closed
 * all the same, and every report says so.
 */
async function refuseUnsealed(tx: Tx, { id, seal, sealBrokenAt, parts }: Sitting): Promise<void> {
  if (sealBrokenAt) return;
  const chains = [];
  for (const { clipSetId } of parts) chains.push(await chainsOfSet(tx, clipSetId));
  const difference = await differenceFromSeal(seal ?? '', await laidOut(tx, id), chains);
  if (difference === null) return;
  throw new UserError(
    409,
    `This is not what was sealed: ${difference}. Nothing was closed and all answers are kept; bring the bank back from a copy, or break the seal with a reason and close it so.`,
  );
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
    if (!again) {
      await refuseUnsealed(tx, sitting);
      await markClosed(tx, sittingId, at);
    }
    await orderAnalysis(tx, comparisonId, sittingId, at);
    if (again) return;
    const about = `“${sitting.title}”`;
    await record(tx, engineer, 'closed', { about, comparisonId }, at);
  });
}
