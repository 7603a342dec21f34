import type { Caution, WorkPlan } from './caution';
import { longHeadphones } from './long-headphones';
import { loudSource } from './loud-source';
import { openingGear } from './opening-gear';
import { overheadLoad } from './overhead-load';
import { plosivesAtRibbon } from './plosives-at-ribbon';
import { ribbonAndAir } from './ribbon-and-air';
import { ribbonAndPhantom } from './ribbon-and-phantom';
import { switchingPhantom } from './switching-phantom';
import { valveSupply } from './valve-supply';

/** All cautions, the most dangerous first. */
export const CAUTIONS: readonly Caution[] = [
  valveSupply,
  openingGear,
  overheadLoad,
  loudSource,
  switchingPhantom,
  ribbonAndPhantom,
  ribbonAndAir,
  plosivesAtRibbon,
  longHeadphones,
];

export function cautionsFor(plan: WorkPlan): Caution[] {
  return CAUTIONS.filter((caution) => caution.applies(plan));
}
