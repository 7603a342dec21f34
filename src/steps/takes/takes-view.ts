import { type PairBaseline, takeBaseline } from '@/core/checks/baseline';
import { type Coverage, coverageOf } from '@/core/checks/coverage';
import { type MeasuredGain, measuredGains } from '@/core/checks/measured-gain';
import type { PlannedStep } from '@/core/checks/programme';
import {
  type ChainNumbers,
  programmeNumbers,
  type ProgrammeTake,
} from '@/core/checks/programme-numbers';
import { inOrder, proposedPassages, recordedAt } from '@/core/checks/recorded';
import { checkSet } from '@/core/checks/set';
import { samePerformance } from '@/core/checks/set/set-check';
import { THIRD_OCTAVES } from '@/core/spectrum/bands';
import { db } from '@/platform/database';
import type { SignedIn } from '@/platform/sign-in/service';
import type { Chain } from '@/steps/chains/schema';
import { chainFigures } from '@/steps/chains/service';
import { listRecordedChains } from '@/steps/chains/store';
import type { Source } from '@/steps/comparisons/schema';
import { comparisonOf, sourcesOf } from '@/steps/comparisons/service';
import { listPassages, listSources, storedProgramme } from '@/steps/comparisons/store';
import { type TakeChoice, takeChoices } from './compare';
import type { StoredFacts } from './facts';
import { recordedGainsOf } from './gains';
import { plannedProgramme } from './plans';
import { listLines } from './run-sheet-store';
import type { Archive, ShownTake, StoredTake, Take, TakesQuery } from './schema';
import { checkedTakes, proposalsFor, shownTake } from './service';
import { listArchives, listTakes } from './store';
import { type TakeList, takeList } from './take-list';

export interface SourceSet {
  source: Source;
  remarks: string[];
  baseline: PairBaseline[];
}

type Ready<T extends StoredTake> = T & { facts: StoredFacts; chain: string };
type ReadyTake = Ready<Take>;

/** Takes that are measured and have a chain, with its name. */
function readyTakes<T extends StoredTake>(
  takes: readonly T[],
  chains: readonly Pick<Chain, 'id' | 'name'>[],
): Ready<T>[] {
  const nameOf = (id: string | null) => chains.find((chain) => chain.id === id)?.name ?? null;
  return takes.flatMap((take) => {
    const chain = nameOf(take.chainId);
    return take.facts && chain !== null ? [{ ...take, facts: take.facts, chain }] : [];
  });
}

/** What takes of each source say together: whether they fit how they were captured, and what they can prove. */
function sourceSets(
  ready: readonly ReadyTake[],
  sources: readonly Source[],
  temperatureC: number,
): SourceSet[] {
  const ordered = inOrder(ready, ({ facts }) => recordedAt(facts.metadata, facts.sampleRateHz));
  return sources.map((source) => {
    // What was rendered from a take elsewhere says nothing of how two takes of a chain differ.
    const own = ordered.filter(
      ({ programme, sourceId, performance }) =>
        programme === 'performance' && sourceId === source.id && !performance?.renderedFrom,
    );
    const facts = {
      takes: own.map(({ id, chain, facts: { sampleRateHz, measurement }, referenceAlignment }) => ({
        id,
        chain,
        sampleRateHz,
        loudnessLufs: measurement.integratedLufs,
        referenceAlignment,
      })),
      chains: [...new Set(own.map(({ chain }) => chain))],
      temperatureC,
    };
    const compared = own.map(({ chain, facts: { measurement, features } }) => ({
      chain,
      loudnessLufs: measurement.integratedLufs,
      thirdsDb: features?.thirdsDb ?? [],
    }));
    // Chains that unmistakably hear one performance differ by themselves alone, however the next is played.
    const together = new Set(
      own.flatMap(({ chain, referenceAlignment }) =>
        samePerformance(referenceAlignment) ? [chain] : [],
      ),
    );
    const atOnce = source.capture === 'at once' && together.size >= facts.chains.length - 1;
    const several = compared.length > facts.chains.length && !atOnce;
    return {
      source,
      remarks: checkSet(source.capture, facts),
      baseline: several ? takeBaseline(compared) : [],
    };
  });
}

/**
 * For whoever stands beside the players: what the takes so far can prove, the doubtful first; nothing before a chain
 * has two takes beside another's.
 */
export async function provedSoFar(comparisonId: string): Promise<string[]> {
  const takes = await checkedTakes(db(), comparisonId);
  const chains = await listRecordedChains(db(), comparisonId);
  const { sources, temperatureC } = await sourcesOf(db(), comparisonId);
  return sourceSets(readyTakes(takes, chains), sources, temperatureC).flatMap(
    ({ source, baseline }) => {
      const told = baseline.filter(({ proves }) => proves !== 'unknown');
      const doubtful = told.filter(({ proves }) => proves !== 'something');
      const name = sources.length > 1 ? `${source.name}: ` : '';
      const [first] = doubtful;
      if (first) {
        const more = doubtful.length - 1;
        const others = more === 0 ? '' : ` So it is with ${more} other pair${more > 1 ? 's' : ''}.`;
        return [`${name}${first.verdict}${others}`];
      }
      if (told.length === 0) return [];
      const judged =
        told.length === baseline.length
          ? 'so far every pair of chains differs'
          : `so far ${told.length} of ${baseline.length} pairs of chains can be judged, and differ`;
      return [`${name}${judged} clearly more than the takes of one chain do.`];
    },
  );
}

/** Of sources that were heard through some chains: how those differ, against how two takes of one of them do. */
export async function baselinesOf(
  comparisonId: string,
  heard: { sourceIds: readonly string[]; chainIds: readonly string[] },
): Promise<Pick<SourceSet, 'source' | 'baseline'>[]> {
  const takes = await checkedTakes(db(), comparisonId);
  const chains = (await listRecordedChains(db(), comparisonId)).filter(({ id }) =>
    heard.chainIds.includes(id),
  );
  const { sources, temperatureC } = await sourcesOf(db(), comparisonId);
  const own = sources.filter(({ id }) => heard.sourceIds.includes(id));
  return sourceSets(readyTakes(takes, chains), own, temperatureC).flatMap(
    ({ source, baseline }) => {
      const known = baseline.filter(({ proves }) => proves !== 'unknown');
      return known.length === 0 ? [] : [{ source, baseline: known }];
    },
  );
}

/** Everything the Takes page shows. */
export interface TakesView {
  takes: TakeList<ShownTake>;
  sources: Source[];
  archives: Archive[];
  sets: SourceSet[];
  /** Of the measured tab alone. */
  numbers: ChainNumbers[];
  /** Chains against everything that is planned or was recorded. */
  coverage: Coverage;
  /** The test programme as it was planned last. */
  programme: PlannedStep[];
  /** Takes that can be set against each other, of the measured tab alone. */
  choices: TakeChoice[];
  /** Names that files speak of and no passage has. */
  proposedPassages: string[];
  /** Gain as it was measured, of the first source with two chains of which it was written down. */
  gain: { of: string; rows: MeasuredGain[] } | null;
  /** Chains that files without one speak of, and how many files each would get; what is there already first. */
  proposedChains: { name: string; fresh: boolean; files: number }[];
  runSheet: { lines: number; done: number; minutes: number };
}

/** Numbers of the test programme, of the first source; none where only performances were recorded. */
function numbersOf(
  ready: readonly Ready<StoredTake>[],
  chains: readonly Pick<Chain, 'name'>[],
  sources: readonly Source[],
): ChainNumbers[] {
  const place = (chain: string) => chains.findIndex(({ name }) => name === chain);
  const programme = ready
    .filter((take) => take.sourceId === sources[0]!.id)
    .sort((a, b) => place(a.chain) - place(b.chain));
  return programme.some((take) => take.programme !== 'performance')
    ? programmeNumbers(programme.map(programmeTake))
    : [];
}

/** What the test programme measured of some chains, by name. */
export async function measuredNumbers(
  comparisonId: string,
  chains: readonly Pick<Chain, 'id' | 'name'>[],
): Promise<ChainNumbers[]> {
  const takes = await listTakes(db(), comparisonId);
  return numbersOf(readyTakes(takes, chains), chains, await listSources(db(), comparisonId));
}

export async function takesViewOf(
  engineer: SignedIn,
  comparisonId: string,
  query: TakesQuery,
): Promise<TakesView> {
  await comparisonOf(engineer, comparisonId);
  const takes = await checkedTakes(db(), comparisonId);
  const chains = await listRecordedChains(db(), comparisonId);
  const { sources, temperatureC } = await sourcesOf(db(), comparisonId);
  const ready = readyTakes(takes, chains);
  const sets = sourceSets(ready, sources, temperatureC);
  const measured = query.tab === 'measured';
  const lines = await listLines(db(), comparisonId);
  return {
    takes: takeList(takes, query, shownTake),
    sources,
    coverage: coverageOf(
      chains.map(({ id }) => id),
      lines,
      ready.flatMap(({ chainId, ...take }) =>
        chainId === null || take.programme === 'backing' ? [] : [{ ...take, chainId }],
      ),
    ),
    programme: plannedProgramme(await storedProgramme(db(), comparisonId)),
    archives: await listArchives(db(), comparisonId),
    // Pairs are judged where they are shown.
    sets: (measured ? sets : sets.map((set) => ({ ...set, baseline: [] }))).filter(
      ({ remarks, baseline }) => remarks.length > 0 || baseline.length > 0,
    ),
    numbers: measured ? numbersOf(ready, chains, sources) : [],
    choices: measured ? takeChoices(ready) : [],
    proposedPassages: proposedPassages(
      takes.map(({ facts }) => facts?.metadata.description),
      (await listPassages(db(), comparisonId)).map(({ name }) => name),
    ),
    gain: measured ? await measuredGainOf(engineer, comparisonId, ready, chains, sources) : null,
    proposedChains: proposalsFor(takes, chains, sources)
      .map(({ chain, name, takeIds }) => ({ name, fresh: chain === null, files: takeIds.length }))
      .sort((a, b) => Number(a.fresh) - Number(b.fresh)),
    runSheet: {
      lines: lines.length,
      done: lines.filter(({ done }) => done).length,
      minutes: lines.reduce((sum, { minutes }) => sum + minutes, 0),
    },
  };
}

/** Only what all heard at once tells chains apart: a test sound, else a performance recorded so. */
async function measuredGainOf(
  engineer: SignedIn,
  comparisonId: string,
  ready: readonly ReadyTake[],
  chains: readonly Chain[],
  sources: readonly Source[],
): Promise<TakesView['gain']> {
  const sounds = sources.flatMap(({ id, name, capture }) => [
    { sourceId: id, programme: 'tone' as const, detail: '', of: `the test sound for ${name}` },
    ...(capture === 'one after another'
      ? []
      : [{ sourceId: id, programme: 'performance' as const, detail: '', of: name }]),
  ]);
  for (const { of, ...sound } of sounds) {
    const heard = ready.filter(
      ({ sourceId, programme }) => sourceId === sound.sourceId && programme === sound.programme,
    );
    if (heard.length < 2) continue;
    const gainOf = await recordedGainsOf(db(), comparisonId, sound, chains);
    const known = chains.flatMap(({ id, name }) => {
      const own = heard.filter(({ chainId }) => chainId === id);
      const at = Math.max(
        0,
        own.findIndex(({ picked }) => picked),
      );
      const { rmsDbfs, truePeakDbtp } = own[at]?.facts.measurement ?? {};
      const { gainDb: recordedGainDb, knob } = gainOf(id, at + 1);
      if ((recordedGainDb === null && knob === '') || typeof rmsDbfs !== 'number') return [];
      const peak = truePeakDbtp ?? rmsDbfs;
      return [{ id, chain: name, recordedGainDb, knob, rmsDbfs, truePeakDbtp: peak }];
    });
    if (known.length < 2) continue;
    const planned = await chainFigures(engineer, comparisonId);
    const reference = planned.find(({ isReference }) => isReference)?.chain.name ?? null;
    const takes = known.map(({ id, ...take }) => {
      const ladder = planned.find(({ chain }) => chain.id === id)?.ladder;
      const [predictedDb, mostDb] = [ladder?.gainNeededDb ?? null, ladder?.gainMostDb ?? null];
      return { ...take, predictedDb, mostDb };
    });
    return { of, rows: measuredGains(takes, reference) };
  }
  return null;
}

function programmeTake({
  chain,
  programme,
  detail,
  facts: { measurement, features },
}: Pick<Take, 'programme' | 'detail'> & { chain: string; facts: StoredFacts }): ProgrammeTake {
  return {
    chain,
    programme,
    detail,
    loudnessLufs: measurement.integratedLufs,
    rmsDbfs: measurement.rmsDbfs,
    truePeakDbtp: measurement.truePeakDbtp,
    thirdsDb: features?.thirdsDb ?? THIRD_OCTAVES.map(() => null),
    aWeightedDbfs: features?.aWeightedDbfs ?? null,
    below120Dbfs: features?.below120Dbfs ?? null,
  };
}
