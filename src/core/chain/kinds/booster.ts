import { gainRange, setGainDb } from '../gain';
import type { KindOfGear } from './kind';
import {
  AMPLIFIER_SPECS,
  amplifyingStage,
  equivalentInputNoiseDbu,
  MICROPHONE_INPUT_OHM,
} from './stages';

const USUAL_GAIN_DB = 20;

/** Gain right behind a microphone: all it has, unless it is set. */
export const booster = {
  id: 'booster',
  link: 'booster',
  role: 'stage',
  specs: AMPLIFIER_SPECS,
  usualInputOhm: MICROPHONE_INPUT_OHM,
  stage: (item, reaching) => {
    const gain = setGainDb(item.specs, item.settings) ?? gainRange(item.specs)?.[1];
    if (gain === undefined) reaching.assume(`${item.name}: gain ${USUAL_GAIN_DB} dB`);
    const noise = equivalentInputNoiseDbu(item, reaching);
    return amplifyingStage(item, reaching, gain ?? USUAL_GAIN_DB, noise);
  },
  fixedGainDb: ({ maxGainDb }) => maxGainDb ?? USUAL_GAIN_DB,
  hasSwitches: true,
  namesChain: true,
} as const satisfies KindOfGear;
