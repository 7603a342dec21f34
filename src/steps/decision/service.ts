import { programmeLabel } from '@/core/checks/programme';
import { EQUAL_COST, equalCostPairs } from '@/core/chain/cost';
import { costForms } from '@/core/chain/cost-forms';
import type { GearItem } from '@/core/chain/item';
import type { ChainFacts } from '@/core/decision/facts';
import { cheapestOf, decisionFinding, type Regret, regretOf } from '@/core/decision/finding';
import { explainingErrorDb } from '@/core/decision/level-error';
import { type LinkWorth, linkWorth } from '@/core/decision/link-worth';
import { type ChainMark, chainMark } from '@/core/decision/marks';
import { type Ground, judgeMustHave } from '@/core/decision/must-haves';
import type { Judged } from '@/core/decision/must-haves/rule';
import { practicalScore, soundOf, type Weighted } from '@/core/decision/score';
import { type ToneShare, toneShare } from '@/core/decision/tone-share';
import { canonicalJson, sha256Hex } from '@/core/design/seal';
import { onFrontier } from '@/core/statistics/frontier';
import { changedShare, type Forecast, scatterAmong } from '@/core/statistics/forecast';
import { LOUDER_DB } from '@/core/tasks/task';
import { db, transaction, violatesUnique } from '@/platform/database';
import { notFound, UserError } from '@/platform/errors';
import { record } from '@/platform/events/service';
import { enqueue } from '@/platform/jobs';
import { pageWithin } from '@/platform/list-query';
import { announce } from '@/platform/live';
import type { SignedIn } from '@/platform/sign-in/service';
import { isVariant, tonedAs } from '@/steps/chains/schema';
import { chainFigures, chainsOf, type PlannedChainView } from '@/steps/chains/service';
import { CHANGED_ELSEWHERE, comparisonOf } from '@/steps/comparisons/service';
import type { Comparison } from '@/steps/comparisons/schema';
import type { Gear } from '@/steps/gear/schema';
import { allGearOf } from '@/steps/gear/service';
import type { Across, PicturePlace, PlacedChain } from '@/steps/results/across';
import { type AnalysisOrder, answersToRead, type Result, resultsOf } from '@/steps/results/service';
import { findClosed } from '@/steps/results/store';
import { type JointView, newestJoint } from '@/steps/results/together';
import { listSittings } from '@/steps/sitting/store';
import { measuredNumbers } from '@/steps/takes/takes-view';
import { money } from '@/ui/format';
import {
  type DecisionOrder,
  type Evidence,
  type GivenMark,
  type LockedRecord,
  lockedRecord,
  type MarkDraft,
  type MemoryQuery,
  NO_WEIGHING,
  storedForecast,
  type StoredForecast,
  weighing as weighingShape,
  type Weighing,
} from './schema';
import {
  countDecided,
  findForecast,
  findWeighing,
  insertDecision,
  insertForecast,
  insertMarks,
  insertWeighing,
  type DecidedRow,
  listDecided,
  listDecidedWith,
  listDecisions,
  listEveryMark,
  listMarks,
  type MarkRow,
  storeForecast,
} from './store';

/** A place in which chains were heard, and how much it counts. */
export interface WeighedPlace extends Pick<PicturePlace, 'place' | 'part' | 'unit' | 'claimed'> {
  weight: number;
}

export interface MustHave {
  text: string;
  ground: Ground;
  /** The budget of the question, which nobody has to write down as a must-have. */
  own: boolean;
}

/** A chain as it lies on the table. */
export interface DecisionChain {
  id: string;
  name: string;
  /** What it was called when it was sealed; null where it was not heard. */
  sealed: string | null;
  isReference: boolean;
  /** By place, in their order; null where it was not heard there. */
  heard: (PlacedChain | null)[];
  /** Weighed over the places that count, 0 to 1. */
  sound: number | null;
  /** Share of panels drawn anew in which it leads those left, in the place that counts most; null before that is known. */
  bestShare: number | null;
  facts: ChainFacts;
  /** By criterion, in their order. */
  marks: (ChainMark<GivenMark> | null)[];
  /** Its own, as they can be written: by criterion. */
  own: GivenMark[][];
  score: number | null;
  coverage: number;
  mustHaves: Judged[];
  out: boolean;
  /** What speaks against an item of it, in somebody's words. */
  complaints: string[];
}

/** An item that chains hold, with its marks by criterion. */
export interface DecisionItem {
  id: string;
  name: string;
  kind: GearItem['kind'];
  marks: GivenMark[][];
}

export interface MoreListeners {
  listeners: number;
  minutes: number;
  /** Share of draws in which another choice would be made. */
  changed: number | null;
}

/** From a chain to the next dearer one that is liked more: what it costs, and what it buys. */
export interface StepUp {
  from: string;
  to: string;
  moreCents: number;
  /** Log odds or points of the line. */
  gain: number;
  task: Forecast['task'];
  /** Whether the cheaper of the two may be the best as well. */
  open: boolean;
}

export interface MeasuredChain {
  chain: string;
  /** Noise of the chain alone and of the room, A-weighted, at the gain that makes all performances equally loud, dBFS. */
  ownNoiseDb: number | null;
  roomNoiseDb: number | null;
  /** By how much the level changes with each step, switch or pattern that was recorded, dB. */
  changes: { what: string; db: number }[];
  /** As it was written of its items. */
  weights: string[];
}

/** Two chains whose prices lie within the tolerance; by name. */
export interface EqualCost {
  a: string;
  b: string;
  differenceCents: number;
  verdict: Across['verdicts'][number]['verdict'];
  preferred: string | null;
}

/** How much of a preference was EQ; chains by name. */
export interface TonedLead extends ToneShare {
  plain: string;
  target: string;
}

export interface LockedVersion {
  record: LockedRecord;
  at: Date;
  sha256: string;
  /** Whether the text still gives the number. */
  holds: boolean;
}

export interface DecisionView {
  comparison: Comparison;
  sitting: Pick<
    Result,
    | 'sittingId'
    | 'title'
    | 'closedAt'
    | 'seal'
    | 'sealHolds'
    | 'sealBroken'
    | 'simulated'
    | 'exploratory'
  > | null;
  /** Names of the chains that were heard, as they were sealed: pictures mark them in this order. */
  sealed: string[];
  /** A closed sitting is still being read. */
  reading: boolean;
  places: WeighedPlace[];
  /** Which of them counts most. */
  foremost: number;
  criteria: Weighted[];
  chains: DecisionChain[];
  items: DecisionItem[];
  mustHaves: MustHave[];
  weighing: Weighing;
  weighed: { version: number; at: Date | null; afterReveal: boolean };
  /** Marks that count, and how many of them were given after the reveal, or nobody knows when. */
  markCounts: { given: number; after: number; unknown: number };
  /** From the choice to its neighbours in price on the line of those that nothing beats for less. */
  steps: StepUp[];
  /** By link of the chain, what one more hundred bought in the place that counts most. */
  links: (LinkWorth & { task: Forecast['task'] })[];
  /** Where a chain was heard with the tone of another as well. */
  toned: TonedLead[];
  /** What was measured of each chain, by no ear and no opinion; chains by name. */
  measured: MeasuredChain[];
  /** Chains that cost the same, and which of the two was preferred over all places. */
  equalCost: EqualCost[];
  /** What sittings that were read together say of each other, newest reading first; null where none were. */
  joint: Pick<JointView, 'id' | 'sittings' | 'reference' | 'says'> | null;
  /** What the cheapest of those that may be the best would lose. */
  regret: Regret | null;
  /** By how much the match would have to be off to explain the winner's lead; null where that is unknown. */
  levelError: { chain: string; over: string; db: number } | null;
  /** Null where nobody asked, a sitting is missing, or the best cannot be said. */
  forecast: MoreListeners[] | 'working' | 'impossible' | null;
  finding: string;
  /** Cheapest of those left that may be the best in the place that counts most; null where it cannot be said. */
  cheapest: string | null;
  /** The newest first. */
  locked: LockedVersion[];
}

const same = (x: string, y: string) => x.toLowerCase() === y.toLowerCase();

function factsOf({ ladder, cost, totalCents, chain }: PlannedChainView, gear: Gear[]): ChainFacts {
  const items = chain.gear.flatMap(({ gearId }) => gear.find(({ id }) => id === gearId) ?? []);
  const forms = cost && costForms(cost.lines);
  const whole = ladder && ladder.incomplete === null ? ladder : null;
  return {
    allCents: totalCents,
    toBuyCents: forms?.toBuyCents ?? totalCents,
    forms,
    unpriced: cost?.unpriced ?? [],
    noiseDba: whole?.matchedNoiseDba ?? null,
    gainNeededDb: whole?.gainNeededDb ?? null,
    gainMostDb: whole?.gainMostDb ?? null,
    // A shortage under 1 dB is none.
    shortDb: whole ? (whole.shortDb < 1 ? 0 : whole.shortDb) : null,
    hasPad:
      items.length === 0
        ? null
        : items.some(({ kind, specs }) => kind === 'pad' || (specs.padsDb?.length ?? 0) > 0),
    onPhantom:
      items.length === 0
        ? null
        : items.flatMap(({ name, specs }) => (specs.powering === 'phantom' ? [name] : [])),
  };
}

/** The whole price, where all of it is known. */
const wholePrice = ({ allCents, unpriced }: ChainFacts) => (unpriced.length > 0 ? null : allCents);

/** Marks of a chain or item on a criterion: what people gave, and what the gear list holds. */
function marksOn(
  rows: readonly MarkRow[],
  criterion: string,
  { reveal, looks }: Table,
  scores: Partial<Record<string, number>> = {},
): GivenMark[] {
  const given = rows.flatMap(({ criterion: of, accountId, value, by, remark, at }): GivenMark[] =>
    value === null || !same(of, criterion)
      ? []
      : [
          {
            by,
            mine: accountId === looks,
            value,
            remark,
            at,
            afterReveal: reveal !== null && at >= reveal,
          },
        ],
  );
  const listed = Object.entries(scores).find(([name]) => same(name, criterion))?.[1];
  if (listed === undefined) return given;
  const value = String(listed) as GivenMark['value'];
  return [
    ...given,
    { by: 'the gear list', mine: false, value, remark: '', at: null, afterReveal: null },
  ];
}

/** What a reading of the page rests on. */
interface Table {
  comparison: Comparison;
  plan: PlannedChainView[];
  gear: Gear[];
  marks: MarkRow[];
  reveal: Date | null;
  /** Account of whoever looks. */
  looks: string;
}

/**
 * When somebody could first know which chain was which: the first closing, the first names that were told before, or
 * the first seal that was broken.
 */
async function revealedAt(comparisonId: string): Promise<Date | null> {
  const times = (await listSittings(db(), comparisonId)).flatMap(
    ({ state, closedAt, sealBrokenAt, toldAt }) => [
      ...(toldAt ? [toldAt] : []),
      ...(state === 'closed' && closedAt ? [closedAt] : []),
      ...(sealBrokenAt ? [sealBrokenAt] : []),
    ],
  );
  return times.length === 0 ? null : new Date(Math.min(...times.map(Number)));
}

async function tableOf(engineer: SignedIn, comparisonId: string): Promise<Table> {
  const comparison = await comparisonOf(engineer, comparisonId);
  const plan = await chainFigures(engineer, comparisonId);
  const held = new Set(plan.flatMap(({ chain }) => chain.gear.map(({ gearId }) => gearId)));
  const gear = (await allGearOf(engineer)).filter(({ id }) => held.has(id));
  const marks = await listMarks(
    db(),
    plan.map(({ chain }) => chain.id),
    [...held],
  );
  const reveal = await revealedAt(comparisonId);
  return { comparison, plan, gear, marks, reveal, looks: engineer.accountId };
}

function placesOf(across: Across | null, { places }: Weighing): WeighedPlace[] {
  const all = (across?.picture ?? []).map(({ place, part, unit, claimed }) => ({
    place,
    part,
    unit,
    claimed,
    weight: places[place] ?? 1,
  }));
  // Where nothing counts, everything does.
  return all.some(({ weight }) => weight > 0) ? all : all.map((one) => ({ ...one, weight: 1 }));
}

/** The place that counts most, the first of equal ones. */
function foremost(places: readonly WeighedPlace[]): number {
  return places.reduce((most, { weight }, i) => (weight > places[most]!.weight ? i : most), 0);
}

/** All that must be had: the budget of the question first. */
function mustHavesOf({ brief }: Comparison, { grounds }: Weighing): MustHave[] {
  const { budgetCents } = brief;
  const own: MustHave[] =
    budgetCents === null
      ? []
      : [
          {
            text: `at most ${money(budgetCents)} to buy`,
            ground: { by: 'rule', rule: 'budget', limit: budgetCents / 100 },
            own: true,
          },
        ];
  const written = brief.mustHaves.map((text): MustHave => ({
    text,
    ground: grounds[text] ?? { by: 'hand' },
    own: false,
  }));
  return [...own, ...written];
}

function complaintsOf(items: readonly DecisionItem[], criteria: readonly Weighted[]): string[] {
  return items.flatMap(({ name, marks }) =>
    marks.flatMap((given, i) =>
      given.flatMap(({ value, remark }) =>
        remark !== '' && (value === 'no' || Number(value) <= 2)
          ? [`${name}, ${criteria[i]!.name}: ${remark}`]
          : [],
      ),
    ),
  );
}

interface Weighed {
  table: Table;
  places: readonly WeighedPlace[];
  criteria: readonly Weighted[];
  items: readonly DecisionItem[];
  mustHaves: readonly MustHave[];
  weighing: Weighing;
  result: Result | null;
}

function chainOf(view: PlannedChainView, weighed: Weighed): DecisionChain {
  const { table, places, criteria, items, mustHaves, weighing, result } = weighed;
  const { chain } = view;
  const sealed = result?.chains[result.chainIds.indexOf(chain.id)] ?? null;
  const heard = places.map(({ part }) => {
    const place = result?.across?.picture.find((one) => one.part === part);
    return place?.chains.find((one) => one.chain === sealed) ?? null;
  });
  // Choices and points are no common scale: those of the place that counts most.
  const unit = places[foremost(places)]?.unit;
  const counted = places.map((place, i) => ({
    value: place.unit === unit ? (heard[i]?.value ?? null) : null,
    weight: place.weight,
  }));
  const sound = soundOf(counted);
  const rows = table.marks.filter(({ chainId }) => chainId === chain.id);
  const held = chain.gear.flatMap(({ gearId }) => items.find(({ id }) => id === gearId) ?? []);
  const own = criteria.map(({ name }) => marksOn(rows, name, table));
  const marks = criteria.map((_, i) =>
    chainMark(
      own[i]!,
      held.map((item) => ({ name: item.name, marks: item.marks[i]! })),
    ),
  );
  const points = new Map(
    criteria.flatMap(({ name }, i) => (marks[i] ? [[name, marks[i].points] as const] : [])),
  );
  const facts = factsOf(view, table.gear);
  const judged = mustHaves.map(({ text, ground }) =>
    judgeMustHave(ground, {
      facts,
      markOf: (criterion) => marks[criteria.findIndex(({ name }) => same(name, criterion))] ?? null,
      byHand: weighing.byHand[text]?.[chain.id] ?? null,
      money,
    }),
  );
  return {
    id: chain.id,
    name: chain.name,
    sealed,
    isReference: view.isReference,
    heard,
    sound: sound === null ? null : sound / 100,
    bestShare: null,
    facts,
    marks,
    own,
    ...practicalScore(points, criteria),
    mustHaves: judged,
    out: judged.some(({ verdict }) => verdict === 'fail'),
    complaints: complaintsOf(held, criteria),
  };
}

/** How the lead of the winner over the next in one place compares with what loudness alone does to this panel. */
function levelErrorOf(
  { parts }: Result,
  place: WeighedPlace | undefined,
): DecisionView['levelError'] {
  const part = place?.claimed ? parts?.find(({ number }) => number === place.part) : undefined;
  const levelCatch = parts?.flatMap(
    ({ analysis }) => analysis.results.controls.levelCatch ?? [],
  )[0];
  if (!part || !levelCatch) return null;
  const [first, second] = (part.analysis.results.pair?.overall ?? [])
    .flatMap(({ chain, logStrength }) => (logStrength === null ? [] : [{ chain, logStrength }]))
    .sort((x, y) => y.logStrength - x.logStrength);
  if (!first || !second) return null;
  const lead = first.logStrength - second.logStrength;
  const errorDb = explainingErrorDb(lead, { ...levelCatch, byDb: LOUDER_DB });
  return errorDb === null ? null : { chain: first.chain, over: second.chain, db: errorDb };
}

/** Mean minutes that a listener gave to answers. */
function minutesEach({ pace }: Result): number {
  const seconds = pace.reduce((sum, { answers, medianS }) => sum + answers * medianS, 0);
  return pace.length === 0 ? 0 : seconds / pace.length / 60;
}

/** What scatter says of those left, in the place that counts most. */
interface Outlook {
  bestShares: ReadonlyMap<string, number>;
  regret: Regret | null;
  steps: StepUp[];
  more: MoreListeners[];
}

function outlookOf(
  place: StoredForecast['places'][number],
  left: readonly DecisionChain[],
  { choice, minutes }: { choice: string | null; minutes: number },
): Outlook {
  const ids = left.map(({ id }) => id);
  const priceOf = (id: string) => {
    const chain = left.find((one) => one.id === id);
    return chain ? wholePrice(chain.facts) : null;
  };
  /** What would be taken: the cheapest that may be the best, else whichever of them. */
  const choose = (open: readonly string[]) => {
    const there = open.filter((id) => ids.includes(id));
    return cheapestOf(there, priceOf) ?? there.join(' ');
  };
  const scattered = scatterAmong(place, ids);
  const valued = scattered.flatMap((one) => {
    const price = priceOf(one.chain);
    return price === null ? [] : [{ ...one, price }];
  });
  const nameOf = (id: string) => left.find((one) => one.id === id)!.name;
  const efficient = onFrontier(valued);
  const line = valued.filter((_, i) => efficient[i]).sort((x, y) => x.price - y.price);
  const regret = choice === null ? null : regretOf(choice, valued, place.task);
  return {
    bestShares: new Map(scattered.map(({ chain, bestShare }) => [chain, bestShare])),
    regret: regret && { ...regret, chain: nameOf(regret.chain), instead: nameOf(regret.instead) },
    steps: line.slice(1).flatMap((to, i) => {
      const from = line[i]!;
      if (from.chain !== choice && to.chain !== choice) return [];
      return [
        {
          from: nameOf(from.chain),
          to: nameOf(to.chain),
          moreCents: to.price - from.price,
          gain: to.strength - from.strength,
          task: place.task,
          open: place.now.includes(from.chain),
        },
      ];
    }),
    more: place.more.map((step) => ({
      listeners: step.listeners,
      minutes: Math.round(step.listeners * minutes),
      changed: changedShare(place.now, step, choose),
    })),
  };
}

async function measuredOf({ comparison, plan, gear }: Table): Promise<MeasuredChain[]> {
  const chains = plan.map(({ chain }) => chain).filter((chain) => !isVariant(chain));
  const numbers = await measuredNumbers(comparison.id, chains);
  return chains.map(({ name, gear: held }) => {
    const own = numbers.find(({ chain }) => chain === name);
    const weights = held.flatMap(({ gearId }) => {
      const item = gear.find(({ id }) => id === gearId);
      const written = Object.entries(item?.attributes ?? {}).find(([of]) => same(of, 'weight'));
      return item && written ? [`${item.name} ${written[1]}`] : [];
    });
    return {
      chain: name,
      ownNoiseDb: own?.resistor?.matchedADb ?? null,
      roomNoiseDb: own?.room?.matchedADb ?? null,
      changes: (own?.effects ?? []).flatMap(({ programme, detail, overallDb }) =>
        overallDb === null ? [] : [{ what: programmeLabel(programme, detail), db: overallDb }],
      ),
      weights,
    };
  });
}

/** Which of chains that cost the same was preferred, of those that were set against each other. */
function equalCostOf(across: Across | null, chains: readonly DecisionChain[]): EqualCost[] {
  const priced = chains.flatMap((chain) => {
    const price = wholePrice(chain.facts);
    return price === null || chain.sealed === null ? [] : [{ chain, price }];
  });
  return equalCostPairs(
    priced.map(({ price }) => price),
    EQUAL_COST,
  ).flatMap(({ a: first, b: second, differenceCents }) => {
    const [x, y] = [priced[first]!.chain, priced[second]!.chain];
    const found = across?.verdicts.find(
      ({ a, b }) => (a === x.sealed && b === y.sealed) || (a === y.sealed && b === x.sealed),
    );
    if (!found) return [];
    const preferred = [x, y].find(({ sealed }) => sealed === found.preferred)?.name ?? null;
    return [{ a: x.name, b: y.name, differenceCents, verdict: found.verdict, preferred }];
  });
}

/** What one more hundred bought at each link: of chains that are made of gear, with all prices known. */
function linksOf(
  place: StoredForecast['places'][number],
  { plan, gear }: Table,
  chains: readonly DecisionChain[],
): DecisionView['links'] {
  const priced = plan.flatMap(({ chain }) => {
    const own = chains.find(({ id }) => id === chain.id);
    const priceCents = own ? wholePrice(own.facts) : null;
    if (isVariant(chain) || chain.gear.length === 0 || priceCents === null) return [];
    const items = chain.gear.flatMap(({ gearId }) => gear.find(({ id }) => id === gearId) ?? []);
    return [{ chain: chain.id, priceCents, items }];
  });
  return linkWorth(place, priced).map((worth) => ({ ...worth, task: place.task }));
}

/** Of each chain that was heard with the tone of another as well, what is left of the lead between the two. */
function tonedOf(
  place: StoredForecast['places'][number],
  plan: readonly PlannedChainView[],
): TonedLead[] {
  const nameOf = (id: string) => plan.find(({ chain }) => chain.id === id)?.chain.name;
  return plan.flatMap(({ chain }) => {
    const target = tonedAs(chain);
    if (target === null || !isVariant(chain)) return [];
    const { ofChainId } = chain.shape;
    const share = toneShare(place, { plain: ofChainId, toned: chain.id, target });
    const [plain, of] = [nameOf(ofChainId), nameOf(target)];
    return share && plain && of ? [{ ...share, plain, target: of }] : [];
  });
}

async function lockedOf(comparisonId: string): Promise<LockedVersion[]> {
  const rows = await listDecisions(db(), comparisonId);
  return Promise.all(
    rows.map(async ({ at, record, sha256 }) => ({
      at,
      sha256,
      record: lockedRecord.parse(JSON.parse(record)),
      holds: (await sha256Hex(record)) === sha256,
    })),
  );
}

/** What was decided last on a sitting, for what is printed of it. */
export async function decidedOn(
  engineer: SignedIn,
  comparisonId: string,
  seal: string,
): Promise<LockedVersion | null> {
  await comparisonOf(engineer, comparisonId);
  const locked = await lockedOf(comparisonId);
  return locked.find(({ record }) => record.evidence.sitting?.seal === seal) ?? null;
}

/**
 * Blind and practical evidence side by side, and what was decided.
 * @param wanted the closed sitting to look at; the one closed last where there is none
 */
export async function decisionOf(
  engineer: SignedIn,
  comparisonId: string,
  wanted: string | null = null,
): Promise<DecisionView> {
  const table = await tableOf(engineer, comparisonId);
  const { comparison, reveal } = table;
  const { result } = await resultsOf(engineer, comparisonId, wanted, false);
  const row = await findWeighing(db(), comparisonId);
  const weighing = row ? (weighingShape.safeParse(row.content).data ?? NO_WEIGHING) : NO_WEIGHING;
  const across = result?.across ?? null;
  const places = placesOf(across, weighing);
  const { criteria } = comparison.brief;
  const items = table.gear.map((item): DecisionItem => {
    const rows = table.marks.filter(({ gearId }) => gearId === item.id);
    return {
      id: item.id,
      name: item.name,
      kind: item.kind,
      marks: criteria.map(({ name }) => marksOn(rows, name, table, item.scores)),
    };
  });
  const mustHaves = mustHavesOf(comparison, weighing);
  const weighed = { table, places, criteria, items, mustHaves, weighing, result };
  const chains = table.plan.map((view) => chainOf(view, weighed));
  const at = foremost(places);
  const left = chains.filter(({ out }) => !out);
  const leaders = chains.flatMap(({ name, heard }) => (heard[at]?.leads ? [name] : []));
  const priceOf = (name: string) => {
    const chain = chains.find((one) => one.name === name);
    return chain ? wholePrice(chain.facts) : null;
  };
  const open = leaders.filter((name) => left.some((one) => one.name === name));
  const cheapest = cheapestOf(open, priceOf);
  const counted = [
    ...items.flatMap(({ marks }) => marks.flat()),
    ...chains.flatMap(({ own }) => own.flat()),
  ];
  const asked = result ? await findForecast(db(), result.sittingId) : null;
  const told = storedForecast.safeParse(asked?.content).data;
  const forecasted = told?.places.find(({ part }) => part === places[at]?.part);
  const choice = chains.find(({ name }) => name === cheapest)?.id ?? null;
  const outlook =
    forecasted && result
      ? outlookOf(forecasted, left, { choice, minutes: minutesEach(result) })
      : null;
  const claimed = places[at]?.claimed ?? false;
  const joint = await newestJoint(comparisonId);
  return {
    comparison,
    sitting: result && {
      sittingId: result.sittingId,
      title: result.title,
      closedAt: result.closedAt,
      seal: result.seal,
      sealHolds: result.sealHolds,
      sealBroken: result.sealBroken,
      simulated: result.simulated,
      exploratory: result.exploratory,
    },
    sealed: result?.chains ?? [],
    reading: result !== null && result.parts === null,
    places,
    foremost: at,
    criteria,
    chains: chains.map((chain) => ({
      ...chain,
      bestShare: outlook?.bestShares.get(chain.id) ?? null,
    })),
    items,
    mustHaves,
    weighing,
    weighed: {
      version: row?.version ?? 0,
      at: row?.at ?? null,
      afterReveal: row !== null && reveal !== null && row.at >= reveal,
    },
    markCounts: {
      given: counted.length,
      after: counted.filter(({ afterReveal }) => afterReveal === true).length,
      unknown: counted.filter(({ afterReveal }) => afterReveal === null).length,
    },
    steps: claimed ? (outlook?.steps ?? []) : [],
    links: claimed && forecasted ? linksOf(forecasted, table, chains) : [],
    toned: claimed && forecasted ? tonedOf(forecasted, table.plan) : [],
    measured: await measuredOf(table),
    equalCost: equalCostOf(across, chains),
    joint: joint && {
      id: joint.id,
      sittings: joint.sittings,
      reference: joint.reference,
      says: joint.says,
    },
    regret: claimed ? (outlook?.regret ?? null) : null,
    levelError: result && levelErrorOf(result, places[at]),
    forecast: told ? (outlook?.more ?? 'impossible') : asked?.content === null ? 'working' : null,
    finding: decisionFinding({
      chains: chains.length,
      left: left.map(({ name }) => name),
      heard: places[at] ? { place: places[at].place, claimed: places[at].claimed, leaders } : null,
      priceOf,
    }),
    cheapest,
    locked: await lockedOf(comparisonId),
  };
}

/** Writes marks down, all or none; whoever marked before marks anew, and what stood there is kept. */
export async function giveMarks(
  engineer: SignedIn,
  comparisonId: string,
  marks: readonly MarkDraft[],
  at: Date,
): Promise<void> {
  const chains = await chainsOf(engineer, comparisonId);
  const known = {
    chain: new Set(chains.map(({ id }) => id)),
    gear: new Set(chains.flatMap(({ gear }) => gear.map(({ gearId }) => gearId))),
  };
  const stranger = marks.find(({ of, id }) => !known[of].has(id));
  if (stranger) throw notFound(stranger.of === 'chain' ? 'chain' : 'item of gear');
  await transaction(async (tx) => {
    await insertMarks(tx, engineer.accountId, marks, at);
    await announce(tx, comparisonId);
  });
}

/** Keeps what counts how much; the weighing before stays where it is. */
export async function weigh(
  engineer: SignedIn,
  comparisonId: string,
  { weighing, version }: { weighing: Weighing; version: number },
  at: Date,
): Promise<void> {
  await comparisonOf(engineer, comparisonId);
  await transaction(async (tx) => {
    const now = (await findWeighing(tx, comparisonId))?.version ?? 0;
    if (now !== version) throw new UserError(409, CHANGED_ELSEWHERE);
    const next = { version: version + 1, content: weighing, at };
    await insertWeighing(tx, comparisonId, engineer.accountId, next).catch((error: unknown) => {
      if (violatesUnique(error, 'weighing_pkey')) throw new UserError(409, CHANGED_ELSEWHERE);
      throw error;
    });
    await announce(tx, comparisonId);
  });
}

function evidenceOf(view: DecisionView): Evidence {
  const { sitting, places, criteria, mustHaves } = view;
  return {
    question: view.comparison.question,
    sitting: sitting && {
      id: sitting.sittingId,
      title: sitting.title,
      seal: sitting.seal,
      closedAt: sitting.closedAt.toISOString(),
      sealBroken: sitting.sealBroken?.reason ?? null,
      simulated: sitting.simulated,
    },
    finding: view.finding,
    chains: view.chains.map((chain) => ({
      id: chain.id,
      name: chain.name,
      heard: chain.heard.flatMap((one, i) =>
        one
          ? [
              {
                place: places[i]!.place,
                unit: places[i]!.unit,
                value: one.value,
                from: one.from,
                to: one.to,
                leads: one.leads,
              },
            ]
          : [],
      ),
      score: chain.score,
      coverage: chain.coverage,
      marks: chain.marks.flatMap((mark, i) =>
        mark ? [{ criterion: criteria[i]!.name, points: mark.points, item: mark.item }] : [],
      ),
      mustHaves: chain.mustHaves.map((judged, i) => ({ text: mustHaves[i]!.text, ...judged })),
      allCents: chain.facts.allCents,
      toBuyCents: chain.facts.toBuyCents,
    })),
  };
}

/** What a decision can be found by: who was heard, what for, which chains, why. */
function wordsOf(
  { sourceName, passageName }: Comparison,
  { uses, reasons, wouldChange, decidedBy, evidence }: LockedRecord,
): string {
  return [
    sourceName,
    passageName,
    evidence.question,
    ...uses.flatMap(({ use, verdict, chain }) => [use, verdict, chain ?? '']),
    ...reasons.map(({ text }) => text),
    wouldChange,
    decidedBy,
    ...evidence.chains.map(({ name }) => name),
  ].join(' ');
}

/** Locks a decision with what lay on the table; later ones are new versions on top of it. */
export async function lockDecision(
  engineer: SignedIn,
  comparisonId: string,
  { draft, version, sittingId }: DecisionOrder,
  at: Date,
): Promise<{ version: number }> {
  const view = await decisionOf(engineer, comparisonId, sittingId);
  if (sittingId !== null && view.sitting === null) throw notFound('closed sitting');
  if (view.reading) {
    throw new UserError(409, 'The answers are still being read; wait a moment, then lock again.');
  }
  const nameOf = (id: string | null) => {
    if (id === null) return null;
    const chain = view.chains.find((one) => one.id === id);
    if (!chain) throw notFound('chain');
    return chain.name;
  };
  const before = view.locked[0] ?? null;
  if ((before?.record.version ?? 0) !== version) throw new UserError(409, CHANGED_ELSEWHERE);
  const next: LockedRecord = {
    form: 'zeitbank decision 1',
    version: version + 1,
    before: before?.sha256 ?? null,
    at: at.toISOString(),
    by: engineer.name,
    ...draft,
    uses: draft.uses.map((use) => ({ ...use, chain: nameOf(use.chainId) })),
    evidence: evidenceOf(view),
  };
  const text = canonicalJson(next);
  const sha256 = await sha256Hex(text);
  await transaction(async (tx) => {
    const { listenAgain } = draft;
    const words = wordsOf(view.comparison, next);
    const kept = { version: next.version, at, record: text, sha256, words, listenAgain };
    await insertDecision(tx, comparisonId, engineer.accountId, kept).catch((error: unknown) => {
      if (violatesUnique(error, 'decision_pkey')) throw new UserError(409, CHANGED_ELSEWHERE);
      throw error;
    });
    await announce(tx, comparisonId);
    const about = `version ${next.version} on “${view.comparison.title}”`;
    await record(tx, engineer, 'decided', { about, comparisonId }, at);
  });
  return { version: next.version };
}

/** Has it worked out whether more listeners would change the choice; not twice at once. */
export async function orderForecast(sittingId: string, at: Date): Promise<void> {
  const sitting = await findClosed(db(), sittingId);
  if (!sitting) return;
  const { comparisonId } = sitting;
  await transaction(async (tx) => {
    if (!(await insertForecast(tx, sittingId))) return;
    const label = 'Would more listeners change it?';
    await enqueue(tx, 'forecast-panel', { comparisonId, subjectId: sittingId, label }, at);
  });
}

/** The same, for an engineer who asks. */
export async function askForecast(
  engineer: SignedIn,
  comparisonId: string,
  sittingId: string,
  at: Date,
): Promise<void> {
  await comparisonOf(engineer, comparisonId);
  const sitting = await findClosed(db(), sittingId);
  if (sitting?.comparisonId !== comparisonId) throw notFound('closed sitting');
  await orderForecast(sittingId, at);
}

/** Null when there is nothing to do. */
export async function forecastOrder(sittingId: string): Promise<AnalysisOrder | null> {
  const asked = await findForecast(db(), sittingId);
  const sitting = asked?.content === null ? await findClosed(db(), sittingId) : null;
  return sitting && answersToRead(sitting);
}

export async function keepForecast(sittingId: string, made: StoredForecast): Promise<void> {
  await transaction(async (tx) => {
    await storeForecast(tx, sittingId, made);
    const sitting = await findClosed(tx, sittingId);
    if (sitting) await announce(tx, sitting.comparisonId);
  });
}

/** A mark as it was given, with what it is of. */
export interface NamedMark extends MarkRow {
  of: 'chain' | 'gear';
  name: string;
  afterReveal: boolean;
}

/** Every mark that was ever given to what this comparison holds, the oldest first. */
export async function everyMark(engineer: SignedIn, comparisonId: string): Promise<NamedMark[]> {
  const chains = await chainsOf(engineer, comparisonId);
  const held = new Set(chains.flatMap(({ gear }) => gear.map(({ gearId }) => gearId)));
  const items = (await allGearOf(engineer)).filter(({ id }) => held.has(id));
  const names = new Map([...chains, ...items].map(({ id, name }) => [id, name]));
  const reveal = await revealedAt(comparisonId);
  const rows = await listEveryMark(
    db(),
    chains.map(({ id }) => id),
    [...held],
  );
  return rows.map((row) => ({
    ...row,
    of: row.chainId === null ? 'gear' : 'chain',
    name: names.get(row.chainId ?? row.gearId ?? '') ?? '',
    afterReveal: reveal !== null && row.at >= reveal,
  }));
}

/** What was decided in one comparison, for the list over all of them. */
export interface DecidedLine {
  comparisonId: string;
  title: string;
  at: Date;
  due: boolean;
  listenAgain: string | null;
  simulated: boolean;
  uses: {
    use: string;
    verdict: LockedRecord['uses'][number]['verdict'];
    chain: string | null;
    /** How the chain was liked, place by place; empty where nothing was heard blind. */
    heard: Evidence['chains'][number]['heard'];
  }[];
}

export interface DecidedList {
  query: MemoryQuery;
  lines: DecidedLine[];
  found: number;
  all: number;
}

/** A page of what the studio decided, over all comparisons. Two queries, whatever its size. */
export async function decidedList(
  { accountId }: SignedIn,
  query: MemoryQuery,
): Promise<DecidedList> {
  const counts = await countDecided(db(), accountId, query.q);
  const page = pageWithin(query.page, counts.found);
  const shown = { ...query, page };
  const rows = await listDecided(db(), accountId, shown);
  return { query: shown, lines: rows.map((row) => decidedLine(row)), ...counts };
}

/** @param chainIds which chains its uses are told of; null for all of them */
function decidedLine(
  { comparisonId, title, at, due, record }: DecidedRow,
  chainIds: readonly string[] | null = null,
): DecidedLine {
  const { uses, listenAgain, evidence } = lockedRecord.parse(JSON.parse(record));
  return {
    comparisonId,
    title,
    at,
    due,
    listenAgain,
    simulated: evidence.sitting?.simulated ?? false,
    uses: uses
      .filter(({ chainId }) => !chainIds || (chainId !== null && chainIds.includes(chainId)))
      .map(({ use, verdict, chain, chainId }) => ({
        use,
        verdict,
        chain,
        heard: evidence.chains.find(({ id }) => id === chainId)?.heard ?? [],
      })),
  };
}

const MOST_DECIDED = 25;

/** What was decided last on chains with an item. */
export async function decidedWith({ accountId }: SignedIn, gearId: string): Promise<DecidedLine[]> {
  const rows = await listDecidedWith(db(), accountId, gearId, MOST_DECIDED);
  return rows.map((row) => decidedLine(row, row.chainIds));
}
