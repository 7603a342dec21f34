import { type Together, togetherSays } from '@/core/statistics/reading/together';
import { list } from '@/core/statistics/words';
import { db } from '@/platform/database';
import type { SignedIn } from '@/platform/sign-in/service';
import { named } from '@/steps/results/schema';
import { type Reads, readThrough } from '@/steps/results/together';
import { type LinkedRow, linkedThrough, linkingChains, type LinkRow } from './store';

const MOST_LINKS = 50;
/** Sittings that are read together at once, the newest. */
const MOST_SITTINGS = 12;

/** Comparisons set against each other through a chain that all of them heard. */
export interface BridgeView {
  /** Chains that could link comparisons. */
  links: LinkRow[];
  /** The one that does; null where there is none. */
  through: LinkRow | null;
  /** What cannot be read, and why; '' where it was read. */
  refusal: string;
  bridged: {
    /** By name. */
    read: Together;
    listeners: number;
    says: string[];
    cautions: string[];
    sittings: { id: string; comparisonId: string; title: string }[];
  } | null;
}

const NONE =
  'No chain was heard blind in two comparisons, so nothing links them. Set up the same gear in each, as the reference: then what won in one can be set against what won in another.';
const TWICE =
  'Fewer than two sittings heard this gear in one chain alone; where it stands in several, which of them links cannot be told.';
const NOTHING =
  'No sound reading links the chains of these sittings: too few listeners, or each judged too little.';

/** Titles of sittings: of their comparison, and their own where a comparison has several. */
function titlesOf(rows: readonly LinkedRow[]): Map<string, string> {
  const sittings = new Map(rows.map((row) => [row.sittingId, row]));
  const of = (row: LinkedRow, title: string) =>
    [...sittings.values()].filter((one) => one.title === title).length > 1
      ? `${title}: ${row.sitting}`
      : title;
  const first = [...sittings].map(([id, row]) => [id, of(row, row.title)] as const);
  // Sittings of one title are counted.
  return new Map(
    first.map(([id, title], i) => {
      const before = first.slice(0, i).filter(([, other]) => other === title).length;
      return [id, before > 0 ? `${title} (${before + 1})` : title];
    }),
  );
}

/** What each chain is taken for: its gear, unless a sitting heard that gear in two chains. */
function takenFor(rows: readonly LinkedRow[]): Map<string, string> {
  const twice = new Set(
    rows.flatMap(({ sittingId, chainId, gear }) =>
      rows.some(
        (other) =>
          other.sittingId === sittingId && other.gear === gear && other.chainId !== chainId,
      )
        ? [gear]
        : [],
    ),
  );
  return new Map(
    rows.flatMap(({ chainId, gear }) =>
      gear === null || twice.has(gear) ? [] : [[chainId, gear] as const],
    ),
  );
}

/** Each by what it was called last, with its comparison where another is called the same. */
function namesOf(
  rows: readonly LinkedRow[],
  sameAs: ReadonlyMap<string, string>,
): Map<string, string> {
  // Rows come newest first; what is written last stays.
  const newest = new Map(
    [...rows].reverse().map((row) => [sameAs.get(row.chainId) ?? row.chainId, row]),
  );
  const alike = (name: string) =>
    [...newest.values()].filter(({ chain }) => chain === name).length > 1;
  return new Map(
    [...newest].map(([id, { chain, title }]) => [id, alike(chain) ? `${chain} (${title})` : chain]),
  );
}

function cautionsOf(rows: readonly LinkedRow[]): string[] {
  const sources = [...new Set(rows.map(({ source }) => source))].sort();
  return [
    ...(sources.length > 1
      ? [
          `Not one voice was heard (${list(sources)}): that a chain stands to the link as it does holds for its own, and is only taken to hold for the others.`,
        ]
      : []),
    ...(rows.some(({ simulated }) => simulated)
      ? ['Some of the listeners are simulated; nobody heard anything there.']
      : []),
  ];
}

/**
 * @param wanted a chain that shall link them; the one heard in most comparisons when null
 */
export async function bridgeOver(
  { accountId }: SignedIn,
  wanted: string | null,
  reads?: Reads,
): Promise<BridgeView> {
  const links = await linkingChains(db(), accountId, MOST_LINKS);
  const through = links.find(({ chainId }) => chainId === wanted) ?? links[0] ?? null;
  const refused = (refusal: string): BridgeView => ({ links, through, refusal, bridged: null });
  if (!through) return refused(NONE);
  const all = await linkedThrough(db(), accountId, through.chainId, MOST_SITTINGS);
  const once = (id: string) =>
    all.filter(({ sittingId, links: own }) => sittingId === id && own).length === 1;
  const rows = all.filter(({ sittingId }) => once(sittingId));
  const ids = [...new Set(rows.map(({ sittingId }) => sittingId))];
  if (ids.length < 2) return refused(TWICE);
  const sameAs = takenFor(rows);
  const reference = rows.find(({ links: own }) => own)!.gear!;
  const read = await readThrough(ids, sameAs, reference, reads);
  if (!read || (!read.bridge.pair && !read.bridge.rating?.chains.length)) return refused(NOTHING);
  const titles = titlesOf(rows);
  const names = namesOf(rows, sameAs);
  const { listeners, ...together } = read;
  const byName = named<Together>(together, new Map([...names, ...titles]));
  return {
    links,
    through,
    refusal: '',
    bridged: {
      read: byName,
      listeners,
      says: togetherSays(byName),
      cautions: cautionsOf(rows),
      sittings: ids.map((id) => ({
        id,
        comparisonId: rows.find(({ sittingId }) => sittingId === id)!.comparisonId,
        title: titles.get(id) ?? id,
      })),
    },
  };
}
