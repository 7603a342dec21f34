import { amplitudeToDb } from '@/core/signal/units';
import type { GearSpecs } from '../specs';
import type { KindOfGear } from './kind';
import { passiveStage } from './stages';

const turns = ({ turnsRatio }: GearSpecs) => turnsRatio ?? 1;
const gainDb = (specs: GearSpecs) => amplitudeToDb(turns(specs)) - (specs.insertionLossDb ?? 0);

export const transformer = {
  id: 'transformer',
  link: 'transformer',
  role: 'stage',
  specs: [
    'outputImpedanceOhm',
    'inputImpedanceOhm',
    'maxInputDbu',
    'turnsRatio',
    'insertionLossDb',
  ],
  usualInputOhm: Infinity,
  turns,
  stage: (item, reaching) => passiveStage(item, reaching, gainDb(item.specs), turns(item.specs)),
  fixedGainDb: gainDb,
  hasSwitches: true,
  namesChain: true,
} as const satisfies KindOfGear;
