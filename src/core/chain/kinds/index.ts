import { SPEC_FIELDS, type SpecField } from '../specs';
import { accessory } from './accessory';
import { booster } from './booster';
import { capsule } from './capsule';
import { converter } from './converter';
import type { KindOfGear } from './kind';
import { microphone } from './microphone';
import { pad } from './pad';
import { preamp } from './preamp';
import { strip } from './strip';
import { transformer } from './transformer';

/** Kinds of gear, in the order in which sound meets them. */
const KINDS = [
  microphone,
  capsule,
  booster,
  pad,
  transformer,
  preamp,
  strip,
  converter,
  accessory,
] as const;

export type GearKind = (typeof KINDS)[number]['id'];

/** @throws RangeError for a word that is no kind */
export function gearKind(id: GearKind): KindOfGear<GearKind> {
  const found = KINDS.find((kind) => kind.id === id);
  if (!found) throw new RangeError(`no kind of gear is called ${id}`);
  return found;
}

export const GEAR_KINDS = KINDS.map(({ id }) => id) as [GearKind, ...GearKind[]];

/** Specs that a kind can have, in the order of the list. */
export function fieldsOf(kind: GearKind): SpecField[] {
  const { specs } = gearKind(kind);
  return SPEC_FIELDS.filter(({ name }) => specs.includes(name));
}
