import { phantomStop } from '@/core/chain/stops';
import {
  detailsOf,
  type PlannedStep,
  type ProgrammeId,
  programmeStep,
} from '@/core/checks/programme';
import { logRemarks } from '@/core/checks/run-log';
import { runOrder, type RunStop } from '@/core/design/run-order';
import type { ChainItem } from '@/core/chain/item';
import { gearKind } from '@/core/chain/kinds';
import { setGainDb, settableGainDb } from '@/core/chain/gain';
import type { Ladder } from '@/core/chain/walk';
import { db, transaction } from '@/platform/database';
import { notFound, UserError } from '@/platform/errors';
import { announce } from '@/platform/live';
import type { SignedIn } from '@/platform/sign-in/service';
import {
  chainPlan,
  chainsAtStand,
  type ChainsView,
  type PlannedChainView,
} from '@/steps/chains/service';
import { referenceOf } from '@/steps/chains/store';
import type { Source } from '@/steps/comparisons/schema';
import { comparisonOf } from '@/steps/comparisons/service';
import { listSources, setProgramme, storedProgramme } from '@/steps/comparisons/store';
import { provedSoFar } from './takes-view';
import { plannedProgramme, type RunSheetPlan } from './plans';
import { type LogEntries, logged, type LogReply, writtenAtHere } from './log-entry';
import {
  deleteLines,
  holdLines,
  listLines,
  type NewLine,
  replaceLines,
  type RunLine,
  runSheetCounts,
  writeLines,
} from './run-sheet-store';

/** Plugging, muting and setting the gain of another chain, minutes. */
const CHANGE_MINUTES = 2;
const MOST_LINES = 2000;

export interface RunSheetView {
  lines: RunLine[];
  /** Per chain: what to set, item by item. */
  settings: Record<string, string[]>;
  /** Per chain: what must not be plugged in as it is planned. */
  stops: Record<string, string>;
  /** Where the log differs from the plan. */
  remarks: string[];
  /** What the takes that arrived so far can prove. */
  proved: string[];
  sources: Source[];
  /** The test programme as it was planned last. */
  programme: PlannedStep[];
  hasReference: boolean;
  chains: number;
  /** Items that stand in several chains: side by side they cannot be without a splitter or another channel. */
  shared: { name: string; chains: number }[];
  cautions: ChainsView['cautions'];
}

/** Microphones and what amplifies: a converter, cable or stand of one name is there more than once. */
function sharedItems(chains: readonly { items: ChainItem[] }[]): RunSheetView['shared'] {
  const uses = new Map<string, { name: string; chains: number }>();
  for (const { items } of chains) {
    // Within a chain an item may stand twice: a pair of one microphone.
    for (const gear of new Map(items.map((item) => [item.gear.id, item.gear])).values()) {
      const { chains: count = 0 } = uses.get(gear.id) ?? {};
      const { role, amplifies } = gearKind(gear.kind);
      if (role === 'microphone' || amplifies)
        uses.set(gear.id, { name: gear.name, chains: count + 1 });
    }
  }
  return [...uses.values()].filter((use) => use.chains > 1);
}

/** Writes a new sheet from the plan; refused once something of the old one was ticked off. */
export async function makeRunSheet(
  engineer: SignedIn,
  comparisonId: string,
  plan: RunSheetPlan,
): Promise<void> {
  const stands = await chainsAtStand(engineer, comparisonId);
  const { chains: planned } = await chainPlan(engineer, comparisonId);
  const chains = planned.filter(({ chain }) =>
    stands.chains.some((one) => one.chain.id === chain.id),
  );
  const itemsOf = (id: string) => stands.chains.find(({ chain }) => chain.id === id)?.items ?? [];
  const known = await listSources(db(), comparisonId);
  if (plan.sourceIds.some((id) => !known.some((source) => source.id === id))) {
    throw notFound('source');
  }
  if (chains.length === 0) throw new UserError(422, 'Plan at least one chain first.');
  const stopped = chains.find(({ stop }) => stop !== null);
  if (stopped?.stop) throw new UserError(422, `${stopped.stop} The sheet is written after that.`);
  const reference = await referenceOf(db(), comparisonId);
  const at = chains.findIndex(({ chain }) => chain.id === reference);
  const lines: NewLine[] = plan.sourceIds.flatMap((sourceId, s) => {
    // The test programme is recorded once, with the first of them.
    const withSteps = s === 0 ? plan.programme : [];
    const { order } = plan;
    if (order === 'at once') {
      return linesAtOnce(plan, chains, itemsOf, withSteps, sourceId);
    }
    const stops = runOrder({
      chains: chains.map(({ chain }) => chain.id),
      reference: at < 0 ? null : at,
      takes: plan.takes,
      order,
      referenceEvery: plan.referenceEvery,
      days: plan.days,
      seed: plan.seed + s,
    });
    return linesOf(stops, chains, itemsOf, withSteps, sourceId);
  });
  if (lines.length > MOST_LINES) {
    throw new UserError(422, `This would be ${lines.length} lines; ${MOST_LINES} are the most.`);
  }
  await transaction(async (tx) => {
    const { done } = await runSheetCounts(tx, comparisonId);
    if (done > 0) {
      throw new UserError(
        409,
        `${done} lines of this sheet are ticked off; they are kept. Clear the sheet first to write another.`,
      );
    }
    await setProgramme(tx, comparisonId, plan.programme);
    await replaceLines(tx, comparisonId, byDay(lines));
    await announce(tx, comparisonId);
  });
}

function byDay(lines: readonly NewLine[]): NewLine[] {
  return [...lines].sort((a, b) => a.day - b.day);
}

/** What every line of a chain holds. */
function ownLine(
  { chain, ladder }: PlannedChainView,
  items: readonly ChainItem[],
  sourceId: string,
): Pick<NewLine, 'chainId' | 'sourceId' | 'plannedGainDb' | 'plannedDistanceM'> {
  return {
    chainId: chain.id,
    sourceId,
    plannedGainDb: plannedGain(items, ladder),
    plannedDistanceM: chain.distanceM,
  };
}

/** Steps that are recorded with a chain: no plosives before a ribbon. */
function stepsFor(programme: readonly PlannedStep[], items: readonly ChainItem[]): PlannedStep[] {
  const ribbon = items.some(({ gear }) => gear.specs.type?.includes('ribbon'));
  return programme
    .filter(({ programme: id }) => id !== 'performance' && id !== 'backing')
    .filter(({ programme: id }) => id !== 'plosives' || !ribbon);
}

/**
 * All chains side by side: each performance, and each step that they can hear together, is one time for all of them;
 * what asks for a chain of its own (an angle, a switch) follows chain by chain. A time counts once.
 */
function linesAtOnce(
  plan: Pick<RunSheetPlan, 'takes' | 'days'>,
  chains: readonly PlannedChainView[],
  itemsOf: (chainId: string) => ChainItem[],
  programme: readonly PlannedStep[],
  sourceId: string,
): NewLine[] {
  const own = chains.map((planned) => {
    const items = itemsOf(planned.chain.id);
    return { line: ownLine(planned, items, sourceId), steps: stepsFor(programme, items) };
  });
  const together = (
    of: { programme: ProgrammeId; detail: string; takeNumber: number; day: number },
    taking: readonly (typeof own)[number][],
  ) =>
    taking.map(({ line }, i): NewLine => {
      const plugging = of.programme === 'performance' && of.takeNumber === 1 ? CHANGE_MINUTES : 0;
      const minutes = (i === 0 ? programmeStep(of.programme).minutes : 0) + plugging;
      return { ...line, ...of, atOnce: true, minutes };
    });
  const steps = programme.flatMap((step) =>
    detailsOf(step).flatMap((detail) => {
      const { programme: id } = step;
      const taking = own.filter((one) => one.steps.includes(step));
      const of = { programme: id, detail, takeNumber: 1, day: 1 };
      if (programmeStep(id).together) return together(of, taking);
      const { minutes } = programmeStep(id);
      return taking.map(({ line }): NewLine => ({ ...line, ...of, atOnce: false, minutes }));
    }),
  );
  const performances = Array.from({ length: plan.takes }, (_, t) => {
    const day = Math.floor((t * plan.days) / plan.takes) + 1;
    return together({ programme: 'performance', detail: '', takeNumber: t + 1, day }, own);
  });
  return [...(performances[0] ?? []), ...steps, ...performances.slice(1).flat()];
}

/** Stops of one source as lines; each chain's test programme follows its first take, while it is plugged. */
function linesOf(
  stops: readonly RunStop[],
  chains: readonly PlannedChainView[],
  itemsOf: (chainId: string) => ChainItem[],
  programme: readonly PlannedStep[],
  sourceId: string,
): NewLine[] {
  let before = -1;
  return stops.flatMap(({ day, chain: index, takeNumber }) => {
    const planned = chains[index]!;
    const items = itemsOf(planned.chain.id);
    const own = { day, atOnce: false, ...ownLine(planned, items, sourceId) };
    const change = index === before ? 0 : CHANGE_MINUTES;
    before = index;
    const take: NewLine = {
      ...own,
      programme: 'performance',
      detail: '',
      takeNumber,
      minutes: programmeStep('performance').minutes + change,
    };
    if (takeNumber > 1) return [take];
    const steps = stepsFor(programme, items).flatMap((step) =>
      detailsOf(step).map((detail): NewLine => {
        const { programme: id } = step;
        const { minutes } = programmeStep(id);
        return { ...own, programme: id, detail, takeNumber: 1, minutes };
      }),
    );
    return [take, ...steps];
  });
}

/** What the preamp is set to, else what the ladder asks for, as far as it can be set. */
function plannedGain(items: readonly ChainItem[], ladder: Ladder | null): number | null {
  const preamp = items.find(({ gear }) => gearKind(gear.kind).amplifies);
  if (!preamp) return null;
  const set = setGainDb(preamp.gear.specs, preamp.settings);
  if (set !== null) return set;
  const needed = ladder?.gainNeededDb ?? null;
  return needed === null ? null : Math.round(10 * settableGainDb(preamp.gear.specs, needed)) / 10;
}

/** "Kern 40: cardioid, pad 10 dB" */
function settingLine({ gear, settings: set }: ChainItem): string {
  const parts = [
    set.pattern,
    set.padDb ? `pad ${set.padDb} dB` : '',
    set.highPassHz ? `high-pass ${set.highPassHz} Hz` : '',
    set.phantom === undefined ? '' : `phantom ${set.phantom ? 'on' : 'off'}`,
    set.knobPosition ? `knob at ${set.knobPosition}` : '',
    set.switches,
  ].filter(Boolean);
  return parts.length === 0 ? gear.name : `${gear.name}: ${parts.join(', ')}`;
}

export async function runSheetOf(engineer: SignedIn, comparisonId: string): Promise<RunSheetView> {
  const { chains, cautions } = await chainsAtStand(engineer, comparisonId);
  const lines = await listLines(db(), comparisonId);
  const settings = Object.fromEntries(
    chains.map(({ chain, items }) => [chain.id, items.map(settingLine)]),
  );
  return {
    lines,
    settings,
    stops: Object.fromEntries(
      chains.flatMap(({ chain, items }) => {
        const stop = phantomStop(chain.name, items);
        return stop ? [[chain.id, stop]] : [];
      }),
    ),
    remarks: logRemarks(
      lines
        .filter(({ programme }) => programme === 'performance')
        .map(({ chainName, ...line }) => ({ ...line, chain: chainName })),
    ),
    proved: lines.length > 0 ? await provedSoFar(comparisonId) : [],
    sources: await listSources(db(), comparisonId),
    programme: plannedProgramme(await storedProgramme(db(), comparisonId)),
    hasReference: (await referenceOf(db(), comparisonId)) !== null,
    chains: chains.length,
    shared: sharedItems(chains),
    cautions,
  };
}

/**
 * Keeps what was written at the stand; the same entry twice changes nothing.
 * @returns when each line was written by the bank's clock, and whether another device did so later
 */
export async function keepLog(
  engineer: SignedIn,
  comparisonId: string,
  { device, sentAt, entries }: LogEntries,
  now: Date,
): Promise<LogReply> {
  await comparisonOf(engineer, comparisonId);
  return transaction(async (tx) => {
    const ids = entries.map(({ lineId }) => lineId);
    const lines = new Map((await holdLines(tx, comparisonId, ids)).map((line) => [line.id, line]));
    const inOrder = entries
      .map((entry) => ({ entry, at: writtenAtHere(entry.writtenAt, sentAt, now) }))
      .sort((a, b) => a.at.getTime() - b.at.getTime());
    for (const { entry, at } of inOrder) {
      const line = lines.get(entry.lineId);
      if (line) lines.set(line.id, logged(line, entry, { device, at }));
    }
    await writeLines(tx, [...lines.values()]);
    await announce(tx, comparisonId);
    return {
      lines: [...lines.values()].map(({ id, writtenAt, writtenBy }) => ({
        id,
        writtenAt: (writtenAt ?? now).toISOString(),
        overruled: writtenBy !== device,
      })),
    };
  });
}

export async function clearRunSheet(engineer: SignedIn, comparisonId: string): Promise<void> {
  await comparisonOf(engineer, comparisonId);
  await transaction(async (tx) => {
    await deleteLines(tx, comparisonId);
    await announce(tx, comparisonId);
  });
}
