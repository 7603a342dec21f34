import { addPowersDb } from '../electric';
import { setGainDb } from '../gain';
import type { KindOfGear } from './kind';
import { LINE_INPUT_OHM } from './stages';

/** Of a converter of which no data sheet says it. */
export const USUAL_FULL_SCALE_DBU = 18;
const USUAL_RANGE_DB = 110;

export const converter = {
  id: 'converter',
  link: 'converter',
  role: 'converter',
  specs: [
    'inputImpedanceOhm',
    'minGainDb',
    'maxGainDb',
    'gainStepDb',
    'fullScaleDbu',
    'dynamicRangeDb',
  ],
  usualInputOhm: LINE_INPUT_OHM,
  stage: ({ name, specs, settings }, reaching) => {
    const { fullScaleDbu, peakOverAverageDb, sourceOhm, assume } = reaching;
    const gainDb = setGainDb(specs, settings) ?? 0;
    const { dynamicRangeDb } = specs;
    if (dynamicRangeDb === undefined) assume(`${name}: dynamic range ${USUAL_RANGE_DB} dB`);
    const floorDbu = fullScaleDbu - (dynamicRangeDb ?? USUAL_RANGE_DB);
    const signalDbu = reaching.signalDbu + gainDb;
    return {
      signalDbu,
      noiseDbu: addPowersDb([reaching.noiseDbu + gainDb, floorDbu]),
      sourceOhm,
      gainDb,
      headroomDb: fullScaleDbu - signalDbu - peakOverAverageDb,
    };
  },
  hasSwitches: true,
} as const satisfies KindOfGear;
