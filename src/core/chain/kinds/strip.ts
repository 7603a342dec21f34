import { setGainDb } from '../gain';
import type { KindOfGear } from './kind';
import { amplifyingStage, LINE_INPUT_OHM } from './stages';

const USUAL_NOISE_DBU = -90;

/** A channel strip at line level: as loud out as in, unless it is set. */
export const strip = {
  id: 'strip',
  link: 'channel strip',
  role: 'stage',
  specs: [
    'outputImpedanceOhm',
    'inputImpedanceOhm',
    'highPassHz',
    'minGainDb',
    'maxGainDb',
    'gainStepDb',
    'maxInputDbu',
    'maxOutputDbu',
    'outputNoiseDbu',
  ],
  usualInputOhm: LINE_INPUT_OHM,
  stage: (item, reaching) => {
    const { outputNoiseDbu } = item.specs;
    if (outputNoiseDbu === undefined) {
      reaching.assume(`${item.name}: output noise ${USUAL_NOISE_DBU} dBu(A)`);
    }
    const gain = setGainDb(item.specs, item.settings) ?? 0;
    return amplifyingStage(item, reaching, gain, (outputNoiseDbu ?? USUAL_NOISE_DBU) - gain);
  },
  amplifies: true,
  hasSwitches: true,
  namesChain: true,
} as const satisfies KindOfGear;
