import type { CarriedTable } from '@/platform/carried';
import type { Tx } from '@/platform/database';
import { freeNames } from '@/platform/free-names';
import { storedJson } from './schema';

const { specs, prices, attributes, impedanceCurve, responseCurve } = storedJson.shape;

/** @param held the gear of a comparison's chains, as a query with $1 for the comparison */
export const carriedGear = (held: string): readonly CarriedTable[] => [
  {
    table: 'gear',
    of: `id IN (${held} UNION SELECT accessory_id FROM gear_accessory WHERE gear_id IN (${held}))`,
    gear: 'id',
    named: 'name',
    shared: true,
    leaves: ['deleted_at'],
    shapes: {
      specs,
      prices,
      attributes,
      impedance_curve: impedanceCurve,
      response_curve: responseCurve,
    },
  },
  { table: 'gear_accessory', of: `gear_id IN (${held})`, gear: 'gear_id' },
];

/** Which of these items the studio has already. */
export async function gearThere(
  tx: Tx,
  ownerId: string,
  ids: readonly string[],
): Promise<Set<string>> {
  const rows = await tx.rows<{ id: string }>(
    'SELECT id FROM gear WHERE owner_id = $1 AND id = ANY($2::uuid[])',
    [ownerId, ids],
  );
  return new Set(rows.map(({ id }) => id));
}

/** Whether all gear that a comparison's chains hold is one studio's. */
export async function isGearOf(
  tx: Tx,
  comparisonId: string,
  held: string,
  ownerId: string,
): Promise<boolean> {
  const others = await tx.rows(
    `SELECT 1 FROM gear WHERE id IN (${held}) AND owner_id <> $2 LIMIT 1`,
    [comparisonId, ownerId],
  );
  return others.length === 0;
}

/** Names for items that arrive: their own, or one beside an item of the studio that has that name. */
export async function freeGearNames(tx: Tx, ownerId: string): Promise<(name: string) => string> {
  const rows = await tx.rows<{ name: string }>(
    'SELECT lower(name) AS name FROM gear WHERE owner_id = $1 AND deleted_at IS NULL',
    [ownerId],
  );
  return freeNames(rows.map(({ name }) => name));
}
