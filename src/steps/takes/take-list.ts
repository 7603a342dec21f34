import { PROGRAMME, type ProgrammeId } from '@/core/checks/programme';
import { grouped } from '@/platform/grouped';
import { LIST_PAGE, pageWithin } from '@/platform/list-query';
import type { Take, TakesQuery } from './schema';

/** A page of the takes of a comparison, and what is to be said of all. */
export interface TakeList<Shown> {
  query: TakesQuery;
  items: (Shown & {
    /** Whether its chain has other takes of the same music. */
    several: boolean;
  })[];
  /** Takes that are looked for. */
  found: number;
  all: number;
  /** Steps of the test programme that there are takes of. */
  steps: ProgrammeId[];
  /** Takes of each chain, and of none under an empty name; backings are nobody's. */
  byChain: Record<string, number>;
  /** Takes with music that is a chain's, and how many chains have one. */
  performances: number;
  /** How often somebody played, counted over the source that was played most. */
  lastPerformance: number;
  chainsWithOne: number;
  /** Some names, for trying a pattern on them. */
  names: string[];
}

type Listed = Pick<
  Take,
  'id' | 'fileName' | 'chainId' | 'sourceId' | 'programme' | 'state' | 'checks' | 'performance'
>;

const NAMES = 4;

function isShown(take: Listed, show: TakesQuery['show']): boolean {
  if (show === 'all') return true;
  if (show === 'odd') return take.checks.length > 0 || take.state !== 'ready';
  if (show === 'free') return take.chainId === null;
  return take.programme === show;
}

/** The music first, then the test programme in its order. */
const stepOf = (take: Listed) => PROGRAMME.findIndex(({ id }) => id === take.programme);

/**
 * Looks through takes as an address asks for it; whoever asks for a page behind the last gets the last. Checks
 * are worked out of all takes together, so they lie here already.
 * @param takes as they arrived
 * @param shown what a page is told of one
 */
export function takeList<T extends Listed, Shown>(
  takes: readonly T[],
  query: TakesQuery,
  shown: (take: T) => Shown,
): TakeList<Shown> {
  const wanted = query.q.toLowerCase();
  const found = takes
    .filter((take) => isShown(take, query.show) && take.fileName.toLowerCase().includes(wanted))
    .sort((a, b) =>
      query.sort === 'name' ? a.fileName.localeCompare(b.fileName, 'en') : stepOf(a) - stepOf(b),
    );
  const page = pageWithin(query.page, found.length);
  const performances = takes.filter(
    ({ state, chainId, programme }) =>
      state === 'ready' && chainId !== null && programme === 'performance',
  );
  const musicOf = ({ chainId, sourceId }: Listed) => `${chainId ?? ''} ${sourceId}`;
  const music = grouped(
    takes.flatMap((take) =>
      take.programme === 'performance' ? [{ of: musicOf(take), id: take.id }] : [],
    ),
  );
  const byChain: Record<string, number> = {};
  for (const { chainId, programme } of takes) {
    if (programme !== 'backing') byChain[chainId ?? ''] = (byChain[chainId ?? ''] ?? 0) + 1;
  }
  return {
    query: { ...query, page },
    items: found.slice((page - 1) * LIST_PAGE, page * LIST_PAGE).map((take) => ({
      ...shown(take),
      several: (music.get(musicOf(take)) ?? []).some(({ id }) => id !== take.id),
    })),
    found: found.length,
    all: takes.length,
    steps: PROGRAMME.flatMap(({ id }) => (takes.some((t) => t.programme === id) ? [id] : [])),
    byChain,
    performances: performances.length,
    lastPerformance: Math.max(0, ...takes.map((take) => take.performance?.number ?? 0)),
    chainsWithOne: new Set(performances.map(({ chainId }) => chainId)).size,
    names: takes.slice(0, NAMES).map(({ fileName }) => fileName),
  };
}
