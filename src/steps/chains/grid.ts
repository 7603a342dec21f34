import type { PatternName } from '@/core/chain/specs';
import type { Chain, ChainDraft, GridOrder } from './schema';

/** One chain of a grid: what it is made of, and how it is set. */
export interface GridCell {
  microphoneId: string;
  /** Null where the grid has no preamps. */
  preampId: string | null;
  pattern: PatternName | null;
  /** Position of the switch that the grid goes through. */
  position: string | null;
  distanceM: number | null;
}

/** What a grid has to know of an item of gear. */
export interface GridItem {
  name: string;
  /** Patterns as its data sheet lists them; undefined where it says nothing. */
  patterns: readonly PatternName[] | undefined;
}

/** One place for what is not gone through. */
const orOne = <T>(all: readonly T[]): readonly (T | null)[] =>
  all.length === 0 ? [null] : [...new Set(all)];

/** Every combination, microphones first and distances last. */
function combinations(order: GridOrder): GridCell[] {
  return [...new Set(order.microphoneIds)].flatMap((microphoneId) =>
    orOne(order.preampIds).flatMap((preampId) =>
      orOne(order.patterns).flatMap((pattern) =>
        orOne(order.positions).flatMap((position) =>
          orOne(order.distancesM).map((distanceM) => ({
            microphoneId,
            preampId,
            pattern,
            position,
            distanceM,
          })),
        ),
      ),
    ),
  );
}

/** Whether a microphone has a pattern, as far as is known. */
function has({ patterns }: GridItem, pattern: PatternName | null): boolean {
  return pattern === null || patterns === undefined || patterns.includes(pattern);
}

/**
 * The chains of a grid, and which of them cannot be because a microphone lacks the pattern.
 * @returns `cells` in the order in which chains are made; `lacking` as sentences
 */
export function gridCells(
  order: GridOrder,
  itemOf: (gearId: string) => GridItem,
): { cells: GridCell[]; lacking: string[] } {
  const lacking = order.microphoneIds.flatMap((id) =>
    order.patterns
      .filter((pattern) => !has(itemOf(id), pattern))
      .map((pattern) => `${itemOf(id).name} has no ${pattern}.`),
  );
  const cells = combinations(order).filter(({ microphoneId, pattern }) =>
    has(itemOf(microphoneId), pattern),
  );
  return { cells, lacking };
}

/** "Kern 40 › Tarn 1, omni, 30 cm": the gear, and whatever the grid varies. */
export function cellName(
  { microphoneId, preampId, pattern, position, distanceM }: GridCell,
  order: GridOrder,
  itemOf: (gearId: string) => GridItem,
): string {
  const gear = [microphoneId, preampId].flatMap((id) => (id === null ? [] : itemOf(id).name));
  const varied = [
    order.patterns.length > 1 ? pattern : null,
    order.positions.length > 1 ? position : null,
    order.distancesM.length > 1 && distanceM !== null
      ? `${Number((100 * distanceM).toFixed(2))} cm`
      : null,
  ];
  return [gear.join(' › '), ...varied.filter((part) => part !== null)].join(', ');
}

/** Which item of a cell the grid's switch is on. */
function switchedId({ microphoneId, preampId }: GridCell, { switchOn }: GridOrder): string | null {
  return switchOn === 'microphone' ? microphoneId : preampId;
}

/** A cell as a chain to be made. */
export function cellDraft(cell: GridCell, order: GridOrder, name: string): ChainDraft {
  const { microphoneId, preampId, pattern, position, distanceM } = cell;
  const switched = switchedId(cell, order);
  return {
    name,
    items: '',
    priceCents: null,
    distanceM,
    angleDeg: null,
    shape: { kind: 'single' },
    gear: [microphoneId, ...(preampId === null ? [] : [preampId]), ...order.sharedIds].map(
      (gearId) => ({
        gearId,
        settings: {
          ...(gearId === microphoneId && pattern !== null ? { pattern } : {}),
          ...(gearId === switched && position !== null ? { switches: position } : {}),
        },
      }),
    ),
  };
}

/** Whether a chain is what a cell asks for, in all that the grid varies. */
export function isCell(
  chain: Chain,
  cell: GridCell,
  order: GridOrder,
  itemOf: (gearId: string) => GridItem,
): boolean {
  const settingsOf = (id: string | null) =>
    chain.gear.find(({ gearId }) => gearId === id)?.settings;
  const { microphoneId, preampId, pattern, position, distanceM } = cell;
  // Unless somebody sets it, a microphone stands at the first of its patterns.
  const patternOf = (id: string) => settingsOf(id)?.pattern ?? itemOf(id).patterns?.[0] ?? null;
  return (
    chain.shape.kind === 'single' &&
    [microphoneId, preampId].every((id) => id === null || settingsOf(id) !== undefined) &&
    (order.patterns.length < 2 || patternOf(microphoneId) === pattern) &&
    (order.positions.length < 2 ||
      (settingsOf(switchedId(cell, order))?.switches ?? null) === position) &&
    (order.distancesM.length < 2 || chain.distanceM === distanceM)
  );
}
