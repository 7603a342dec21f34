import { phantomStop } from '@/core/chain/stops';
import { stagesWords } from '@/core/processing/stages';
import { cautionsFor } from '@/core/chain/cautions';
import type { ChainMake } from '@/core/statistics/chains-file';
import type { Caution } from '@/core/chain/cautions/caution';
import {
  bracketOf,
  chainCost,
  type ChainCost,
  EQUAL_COST,
  equalCostPairs,
  type SetCost,
  setCost,
} from '@/core/chain/cost';
import { type Fairness, fairness, type PlannedChain } from '@/core/chain/fairness';
import { type Remedy, remedies } from '@/core/chain/remedies';
import type { ChainItem, GearItem } from '@/core/chain/item';
import type { SourceAtMic } from '@/core/chain/kinds/microphone';
import { feasible, type Ladder, ladderFinding, loadingNotes, walkChain } from '@/core/chain/walk';
import { type Db, db, transaction, violatesUnique, type Tx } from '@/platform/database';
import { notFound, UserError } from '@/platform/errors';
import { announce } from '@/platform/live';
import type { SignedIn } from '@/platform/sign-in/service';
import { showTo } from '@/platform/sign-in/store';
import { copyQuestion } from '@/steps/comparisons/store';
import { CHANGED_ELSEWHERE, comparisonOf } from '@/steps/comparisons/service';
import type { Comparison } from '@/steps/comparisons/schema';
import { gearItem } from '@/steps/gear/schema';
import { allGearOf, gearOf } from '@/steps/gear/service';
import { countOwn, findGear } from '@/steps/gear/store';
import { cellDraft, cellName, gridCells, isCell } from './grid';
import {
  type Chain,
  chainDraft,
  type ChainDraft,
  type ChainInput,
  type GridInput,
  gridOrder,
  isVariant,
  pairWords,
  type ReferenceChange,
  type Variant,
} from './schema';
import {
  copyChains,
  hasClips,
  insertCautionRead,
  insertChain,
  listChains,
  listRecordedChains,
  readCautions,
  referenceHistory,
  referenceOf,
  restoreChain,
  setReference,
  updateChain,
} from './store';

const MOST_CHAINS = 24;
/** Where the question says nothing: a quiet voice, close. */
const USUAL_SOURCE = { levelAt1MDb: 74, crestDb: 14, distanceM: 0.3 };

/** Says of a chain that was not kept that its name is another's; any other error goes on. */
export function nameTaken(error: unknown, name: string): never {
  if (violatesUnique(error, 'chain_name')) {
    throw new UserError(409, `There is a chain “${name}” already; choose another name.`);
  }
  throw error;
}

export async function chainsOf(engineer: SignedIn, comparisonId: string): Promise<Chain[]> {
  await comparisonOf(engineer, comparisonId);
  return listChains(db(), comparisonId);
}

/** Chains that can be recorded, which variants of them cannot. */
export async function recordedChainsOf(engineer: SignedIn, comparisonId: string): Promise<Chain[]> {
  await comparisonOf(engineer, comparisonId);
  return listRecordedChains(db(), comparisonId);
}

/** What a chain is played through: itself, or the chain that it is a variant of. */
function playedThrough(chain: Chain, chains: readonly Chain[]): Chain {
  const { shape } = chain;
  if (shape.kind !== 'variant') return chain;
  return chains.find(({ id }) => id === shape.ofChainId) ?? chain;
}

/** A chain with what can be worked out of it before anybody touches a stand. */
export interface PlannedChainView {
  chain: Chain;
  /** Null for a chain that is written in words only. */
  ladder: Ladder | null;
  feasible: boolean;
  finding: string | null;
  remedies: Remedy[];
  /** The microphone's load, with and without what stands between. */
  loading: string[];
  cost: ChainCost | null;
  totalCents: number | null;
  bracket: string | null;
  isReference: boolean;
  /** What must not be plugged in as it is planned; null where nothing is in the way. */
  stop: string | null;
}

export interface ChainsView {
  chains: PlannedChainView[];
  gear: GearItem[];
  /** What the source is taken to be, and which of it is assumed. */
  source: Omit<SourceAtMic, 'distanceM' | 'angleDeg'>;
  sourceAssumed: string[];
  fairness: Fairness;
  setCost: SetCost;
  equalCost: { a: string; b: string; differenceCents: number }[];
  budgetCents: number | null;
  cautions: { caution: Pick<Caution, 'id' | 'title' | 'text' | 'defersTo'>; read: boolean }[];
  references: ReferenceChange[];
}

function itemsFrom(all: ReadonlyMap<string, GearItem>, chain: Chain): ChainItem[] {
  return chain.gear.flatMap(({ gearId, settings }) => {
    const item = all.get(gearId);
    return item ? [{ gear: item, settings }] : [];
  });
}

/** What a chain is made of, for work that no engineer waits for. */
export async function itemsOfChain(from: Db, chain: Chain): Promise<ChainItem[]> {
  const gear = await findGear(
    from,
    chain.gear.map(({ gearId }) => gearId),
  );
  return itemsFrom(new Map(gear.map((item) => [item.id, gearItem(item)])), chain);
}

/** A blend is made of two chains, and costs both; a variant costs what its chain does. */
function paidItems(
  chain: Chain,
  chains: readonly Chain[],
  itemsOf: (chain: Chain) => ChainItem[],
): ChainItem[] {
  const played = playedThrough(chain, chains);
  const { shape } = played;
  const blended =
    shape.kind === 'blend'
      ? [shape.firstChainId, shape.otherChainId].map((id) => chains.find((one) => one.id === id))
      : [];
  return [played, ...blended].flatMap((one) => (one ? itemsOf(one) : []));
}

/** Null for a chain that is written in words only. */
function costOf(
  { shape }: Chain,
  paid: readonly ChainItem[],
  all: ReadonlyMap<string, GearItem>,
): ChainCost | null {
  const [first] = paid;
  if (!first) return null;
  const twice = shape.kind === 'pair' ? first.gear.id : null;
  return chainCost(
    paid.map(({ gear: { id } }) => id),
    all,
    twice,
  );
}

/** Gear by its ids, and all that it needs beside it. */
async function gearWithAccessories(
  from: Db,
  ids: readonly string[],
): Promise<Map<string, GearItem>> {
  const all = new Map<string, GearItem>();
  let open = [...new Set(ids)];
  while (open.length > 0) {
    const found = (await findGear(from, open)).map(gearItem);
    for (const item of found) all.set(item.id, item);
    open = [...new Set(found.flatMap(({ accessoryIds }) => accessoryIds))].filter(
      (id) => !all.has(id),
    );
  }
  return all;
}

/**
 * What each chain is made of and costs, for work that no engineer waits for: the first microphone, the first preamp or
 * strip, '' where there is none; the whole price in cents, null where some of it is not known.
 */
export async function madeOf(from: Db, comparisonId: string): Promise<Map<string, ChainMake>> {
  const chains = await listChains(from, comparisonId);
  const all = await gearWithAccessories(
    from,
    chains.flatMap(({ gear }) => gear.map(({ gearId }) => gearId)),
  );
  const itemsOf = (chain: Chain) => itemsFrom(all, chain);
  return new Map(
    chains.map((chain) => {
      const played = playedThrough(chain, chains);
      // What was processed tells nothing about the links of its chain.
      const items = processingOf(chain, chains) === null ? itemsOf(played) : [];
      const named = (...kinds: GearItem['kind'][]) =>
        items.find(({ gear }) => kinds.includes(gear.kind))?.gear.name ?? '';
      const cost = costOf(played, paidItems(chain, chains, itemsOf), all);
      const known = cost && cost.unpriced.length === 0 ? cost.totalCents : null;
      return [
        chain.id,
        {
          microphone: named('microphone'),
          preamp: named('preamp', 'strip'),
          price: cost ? known : played.priceCents,
        },
      ];
    }),
  );
}

interface ChainsRead {
  comparison: Comparison;
  chains: Chain[];
  /** All gear there ever was, by id: chains still hold what was deleted. */
  all: ReadonlyMap<string, GearItem>;
  itemsOf: (chain: Chain) => ChainItem[];
}

async function readChains(engineer: SignedIn, comparisonId: string): Promise<ChainsRead> {
  const comparison = await comparisonOf(engineer, comparisonId);
  const chains = await listChains(db(), comparisonId);
  const all = new Map((await allGearOf(engineer)).map((item) => [item.id, gearItem(item)]));
  const itemsOf = (chain: Chain) => itemsFrom(all, playedThrough(chain, chains));
  return { comparison, chains, all, itemsOf };
}

/** Cautions that the gear, the source and the plan call for, and which of them were read. */
async function cautionsOf(
  comparison: Comparison,
  chains: readonly Chain[],
  itemsOf: ChainsRead['itemsOf'],
): Promise<ChainsView['cautions']> {
  const { brief } = comparison;
  const read = new Set(await readCautions(db(), comparison.id));
  const { source } = sourceOf(comparison);
  return cautionsFor({
    items: chains.flatMap(itemsOf),
    loudestDb: loudestDb(source, chains),
    overPeople: brief.overPeople,
    plosiveTest: brief.plosiveTest,
    headphoneMinutes: brief.headphoneMinutes,
  }).map(({ id, title, text, defersTo }) => ({
    caution: { id, title, text, defersTo },
    read: read.has(id),
  }));
}

/** Chains with their items and the cautions of the plan: what is needed at the stand, without ladders. */
export async function chainsAtStand(
  engineer: SignedIn,
  comparisonId: string,
): Promise<{ chains: { chain: Chain; items: ChainItem[] }[]; cautions: ChainsView['cautions'] }> {
  const { comparison, chains, itemsOf } = await readChains(engineer, comparisonId);
  const recorded = chains.filter((chain) => !isVariant(chain));
  return {
    chains: recorded.map((chain) => ({ chain, items: itemsOf(chain) })),
    cautions: await cautionsOf(comparison, chains, itemsOf),
  };
}

/** Ladders and costs of all chains. */
function plannedChains(
  { comparison, chains, all, itemsOf }: ChainsRead,
  /** What could mend a chain that does not reach level. */
  gear: readonly GearItem[],
  reference: string | null,
): PlannedChainView[] {
  const { source } = sourceOf(comparison);
  return chains.map((chain): PlannedChainView => {
    const items = itemsOf(chain);
    const played = playedThrough(chain, chains);
    const cost = costOf(played, paidItems(chain, chains, itemsOf), all);
    const totalCents = cost?.totalCents ?? played.priceCents;
    const common = {
      chain,
      cost,
      totalCents,
      bracket: totalCents === null ? null : bracketOf(totalCents),
      isReference: chain.id === reference,
    };
    if (items.length === 0) {
      return {
        ...common,
        ladder: null,
        feasible: true,
        finding: null,
        remedies: [],
        loading: [],
        stop: null,
      };
    }
    const at: SourceAtMic = {
      ...source,
      distanceM: played.distanceM ?? USUAL_SOURCE.distanceM,
      angleDeg: played.angleDeg ?? 0,
    };
    const ladder = walkChain(items, at);
    if (played.distanceM === null)
      ladder.assumed.push(`${100 * USUAL_SOURCE.distanceM} cm from the source`);
    return {
      ...common,
      ladder,
      feasible: feasible(ladder),
      finding: ladderFinding(ladder),
      remedies: remedies(items, at, gear),
      loading: loadingNotes(items, at),
      stop: phantomStop(chain.name, items),
    };
  });
}

/** Ladders and costs alone, without remedies. */
export async function chainFigures(
  engineer: SignedIn,
  comparisonId: string,
): Promise<PlannedChainView[]> {
  const parts = await readChains(engineer, comparisonId);
  return plannedChains(parts, [], await referenceOf(db(), comparisonId));
}

/** Everything that the step shows: ladders, remedies, cost, fairness, cautions. */
export async function chainPlan(engineer: SignedIn, comparisonId: string): Promise<ChainsView> {
  const parts = await readChains(engineer, comparisonId);
  const { comparison, chains, itemsOf } = parts;
  const gear = (await gearOf(engineer)).map(gearItem);
  const { source, assumed } = sourceOf(comparison);
  const paidOf = (chain: Chain) => paidItems(chain, chains, itemsOf);
  const planned = plannedChains(parts, gear, await referenceOf(db(), comparisonId));
  // A variant is bought with its chain.
  const bought = planned.filter(({ chain }) => !isVariant(chain));
  const priced = bought.filter(({ totalCents }) => totalCents !== null);
  const madeOfGear = chains.filter((chain) => paidOf(chain).length > 0);
  return {
    chains: planned,
    gear,
    source,
    sourceAssumed: assumed,
    fairness: fairness(
      madeOfGear.map((chain): PlannedChain => ({
        id: chain.id,
        name: chain.name,
        items: paidOf(chain),
        distanceM: playedThrough(chain, chains).distanceM,
        angleDeg: playedThrough(chain, chains).angleDeg,
        capture: captureWords(playedThrough(chain, chains), chains),
        take: chain.shape.kind === 'variant' && chain.shape.takeId !== null ? 'another' : 'its own',
        processing: processingOf(chain, chains) ?? 'none',
      })),
    ),
    setCost: setCost(
      bought.flatMap(({ cost }) => cost ?? []),
      bought.flatMap(({ cost, totalCents }) => (cost ? [] : (totalCents ?? []))),
    ),
    equalCost: equalCostPairs(
      priced.map(({ totalCents }) => totalCents ?? 0),
      EQUAL_COST,
    ).map(({ a, b, differenceCents }) => ({
      a: priced[a]!.chain.name,
      b: priced[b]!.chain.name,
      differenceCents,
    })),
    budgetCents: comparison.brief.budgetCents,
    cautions: await cautionsOf(comparison, chains, itemsOf),
    references: await referenceHistory(db(), engineer.accountId),
  };
}

/** What a variant goes through, in words; null for a chain that is heard as it was recorded. */
function processingOf({ shape }: Chain, chains: readonly Chain[]): string | null {
  if (shape.kind !== 'variant' || shape.stages.length === 0) return null;
  return stagesWords(
    shape.stages,
    (chainId) => chains.find(({ id }) => id === chainId)?.name ?? 'a chain that was removed',
  );
}

function captureWords({ shape }: Chain, chains: readonly Chain[]): string {
  if (shape.kind === 'pair') return pairWords(shape);
  if (shape.kind !== 'blend') return 'one microphone';
  const nameOf = (id: string | null) => chains.find((one) => one.id === id)?.name ?? 'its own';
  return `blend of ${nameOf(shape.firstChainId)} and ${nameOf(shape.otherChainId)}, ${shape.otherDb} dB`;
}

function sourceOf({ brief }: Comparison) {
  const assumed: string[] = [];
  if (brief.levelAt1MDb === null) assumed.push(`${USUAL_SOURCE.levelAt1MDb} dB at 1 m`);
  if (brief.crestDb === null) assumed.push(`peaks ${USUAL_SOURCE.crestDb} dB over the average`);
  return {
    source: {
      levelAt1MDb: brief.levelAt1MDb ?? USUAL_SOURCE.levelAt1MDb,
      crestDb: brief.crestDb ?? USUAL_SOURCE.crestDb,
      roomNoiseDba: brief.roomNoiseDba,
    },
    assumed,
  };
}

function loudestDb(
  source: { levelAt1MDb: number; crestDb: number },
  chains: readonly Chain[],
): number {
  const nearest = Math.min(1, ...chains.flatMap(({ distanceM }) => distanceM ?? []));
  return source.levelAt1MDb - 20 * Math.log10(nearest) + source.crestDb;
}

/** Refuses gear of others, and blends and variants of what is not there. */
async function checkParts(
  tx: Tx,
  engineer: SignedIn,
  comparisonId: string,
  draft: ChainDraft,
  ownId: string | null,
): Promise<void> {
  const ids = [...new Set(draft.gear.map(({ gearId }) => gearId))];
  if ((await countOwn(tx, engineer.studioId, ids)) < ids.length) throw notFound('item of gear');
  if (draft.shape.kind !== 'blend' && draft.shape.kind !== 'variant') return;
  const chains = await listChains(tx, comparisonId);
  if (draft.shape.kind === 'variant') {
    checkVariant(draft.shape, draft.name, chains, ownId);
    return;
  }
  const { otherChainId, firstChainId } = draft.shape;
  const other = chains.find(({ id }) => id === otherChainId);
  const first = chains.find(({ id }) => id === firstChainId);
  const derived = ({ shape: { kind } }: Chain) => kind === 'blend' || kind === 'variant';
  if (firstChainId !== null && (!first || derived(first) || first.id === ownId)) {
    throw new UserError(
      422,
      'A blend begins with the takes of a chain that is no blend or variant itself.',
    );
  }
  if (!other || other.id === ownId)
    throw new UserError(422, 'A blend needs another chain of this comparison.');
  if (derived(other)) {
    throw new UserError(422, 'The other chain of a blend cannot be a blend or variant itself.');
  }
}

/** @throws UserError for a variant of nothing, of itself, or of another variant */
function checkVariant(
  { ofChainId, stages }: Variant,
  name: string,
  chains: readonly Chain[],
  ownId: string | null,
): void {
  const of = chains.find(({ id }) => id === ofChainId);
  if (!of || of.id === ownId) {
    throw new UserError(422, 'A variant needs another chain of this comparison to be made of.');
  }
  if (of.shape.kind === 'variant') {
    throw new UserError(
      422,
      `“${of.name}” is a variant itself; make “${name}” of the chain behind it, and add its stages.`,
    );
  }
  const own = chains.find(({ id }) => id === ownId);
  if (own && own.shape.kind !== 'variant') {
    throw new UserError(422, `“${own.name}” has takes of its own; add a variant beside it.`);
  }
  for (const stage of stages) {
    if (!('chainId' in stage)) continue;
    const towards = chains.find(({ id }) => id === stage.chainId);
    if (!towards || towards.id === ownId || towards.shape.kind === 'variant') {
      throw new UserError(422, 'A tone match takes its tone from a chain that is no variant.');
    }
  }
}

/** @throws UserError where so many more would be too many for a comparison */
export async function refuseTooMany(tx: Tx, comparisonId: string, more: number): Promise<void> {
  const have = (await listChains(tx, comparisonId)).length;
  if (have + more <= MOST_CHAINS) return;
  throw new UserError(
    422,
    more === 1
      ? `A comparison can have ${MOST_CHAINS} chains; start another for more.`
      : `That would make ${have + more} chains; a comparison holds ${MOST_CHAINS}. Nothing was added.`,
  );
}

export async function addChain(
  engineer: SignedIn,
  comparisonId: string,
  input: ChainInput,
): Promise<string> {
  const draft = chainDraft.parse(input);
  await comparisonOf(engineer, comparisonId);
  return transaction(async (tx) => {
    await checkParts(tx, engineer, comparisonId, draft, null);
    await refuseTooMany(tx, comparisonId, 1);
    const id = await insertChain(tx, comparisonId, draft).catch((error: unknown) =>
      nameTaken(error, draft.name),
    );
    await announce(tx, comparisonId);
    return id;
  });
}

export async function changeChain(
  engineer: SignedIn,
  comparisonId: string,
  chainId: string,
  { version, ...input }: ChainInput & { version: number },
): Promise<void> {
  const draft = chainDraft.parse(input);
  await comparisonOf(engineer, comparisonId);
  await transaction(async (tx) => {
    await checkParts(tx, engineer, comparisonId, draft, chainId);
    const kept = await updateChain(tx, comparisonId, chainId, draft, version).catch(
      (error: unknown) => nameTaken(error, draft.name),
    );
    if (!kept) throw new UserError(409, CHANGED_ELSEWHERE);
    await announce(tx, comparisonId);
  });
}

/** @throws UserError once clips were made of it, or while another one blends it in */
export async function refuseUsedChain(
  tx: Tx,
  comparisonId: string,
  chainId: string,
): Promise<void> {
  if (await hasClips(tx, chainId)) {
    throw new UserError(
      409,
      'This chain has clips in a match, and perhaps answers; it stays. Leave its take out of the next match instead.',
    );
  }
  const chains = await listChains(tx, comparisonId);
  const variant = chains.find(
    ({ shape }) =>
      shape.kind === 'variant' &&
      (shape.ofChainId === chainId ||
        shape.stages.some((stage) => 'chainId' in stage && stage.chainId === chainId)),
  );
  if (variant) {
    throw new UserError(
      409,
      `“${variant.name}” is a variant made with this chain; remove that first.`,
    );
  }
  const blend = chains.find(
    ({ shape }) =>
      shape.kind === 'blend' && (shape.otherChainId === chainId || shape.firstChainId === chainId),
  );
  if (blend) throw new UserError(409, `“${blend.name}” blends this chain in; change that first.`);
}

/** Takes the deletion of a chain back. */
export async function restoreOwnChain(
  tx: Tx,
  comparisonId: string,
  chainId: string,
): Promise<void> {
  const done = await restoreChain(tx, comparisonId, chainId).catch((error: unknown) =>
    nameTaken(error, 'of this name'),
  );
  if (!done) throw notFound('chain');
}

const MOST_TITLE = 120;

/** A new comparison with the same question and chains: for another day, another voice. */
export async function copyOf(engineer: SignedIn, id: string, at: Date): Promise<string> {
  const comparison = await comparisonOf(engineer, id);
  return transaction(async (tx) => (await copyInto(tx, engineer, comparison, at)).copy);
}

/** The same for a step that copies more. @returns the copy, and its chains beside those that they are copies of */
export async function copyInto(
  tx: Tx,
  { accountId }: SignedIn,
  { id, title }: Pick<Comparison, 'id' | 'title'>,
  at: Date,
): Promise<{ copy: string; chains: { old: string; new: string }[] }> {
  const tail = ' (copy)';
  const name = `${title.slice(0, MOST_TITLE - tail.length)}${tail}`;
  const copy = await copyQuestion(tx, id, name, at);
  const chains = await copyChains(tx, id, copy);
  await showTo(tx, accountId, [copy]);
  return { copy, chains };
}

/**
 * Every microphone with every preamp, and with whatever else is to vary; combinations that are there already are
 * passed over.
 */
export async function addGrid(
  engineer: SignedIn,
  comparisonId: string,
  input: GridInput,
): Promise<number> {
  const order = gridOrder.parse(input);
  const gear = new Map((await gearOf(engineer)).map((item) => [item.id, item]));
  const have = await chainsOf(engineer, comparisonId);
  const itemOf = (id: string) => {
    const item = gear.get(id);
    if (!item) throw notFound('item of gear');
    return { name: item.name, patterns: item.specs.patterns };
  };
  order.sharedIds.forEach(itemOf);
  const { cells } = gridCells(order, itemOf);
  const wanted = cells
    .map((cell) => ({ cell, name: cellName(cell, order, itemOf) }))
    .filter(
      ({ cell, name }) =>
        !have.some(
          (chain) =>
            chain.name.toLowerCase() === name.toLowerCase() || isCell(chain, cell, order, itemOf),
        ),
    );
  if (have.length + wanted.length > MOST_CHAINS) {
    throw new UserError(
      422,
      `That would make ${have.length + wanted.length} chains; a comparison holds ${MOST_CHAINS}. Nothing was added.`,
    );
  }
  const drafts = wanted.map(({ cell, name }) => cellDraft(cell, order, name));
  for (const draft of drafts) {
    const { error } = chainDraft.safeParse(draft);
    if (error) {
      throw new UserError(422, `${draft.name}: ${error.issues[0]!.message} Nothing was added.`);
    }
  }
  for (const draft of drafts) await addChain(engineer, comparisonId, draft);
  return wanted.length;
}

/** Names the chain that bridges sittings; each change is written down with its reason. */
export async function chooseReference(
  engineer: SignedIn,
  comparisonId: string,
  { chainId, reason }: { chainId: string | null; reason: string },
  at: Date,
): Promise<void> {
  const chains = await chainsOf(engineer, comparisonId);
  const chain = chains.find(({ id }) => id === chainId);
  if (chainId !== null && !chain) throw notFound('chain');
  await transaction(async (tx) => {
    if ((await referenceOf(tx, comparisonId)) === chainId) return;
    await setReference(tx, comparisonId, chainId, chain?.name ?? 'none', reason, at);
    await announce(tx, comparisonId);
  });
}

/** Notes that a caution was read; it stays on the page. */
export async function acknowledgeCaution(
  engineer: SignedIn,
  comparisonId: string,
  caution: string,
  at: Date,
): Promise<void> {
  await comparisonOf(engineer, comparisonId);
  await transaction(async (tx) => {
    await insertCautionRead(tx, comparisonId, caution, engineer.accountId, at);
    await announce(tx, comparisonId);
  });
}
