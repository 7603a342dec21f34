import { gainRange, setGainDb, settableGainDb, USUAL_GAIN_DB } from '../gain';
import { TARGET_DBFS } from '../target';
import type { KindOfGear } from './kind';
import {
  AMPLIFIER_SPECS,
  amplifyingStage,
  equivalentInputNoiseDbu,
  MICROPHONE_INPUT_OHM,
} from './stages';

/** Brings the chain to level: takes what is still needed, unless it is set. */
export const preamp = {
  id: 'preamp',
  link: 'preamp',
  role: 'stage',
  specs: [...AMPLIFIER_SPECS, 'padsDb', 'highPassHz', 'knob'],
  usualInputOhm: MICROPHONE_INPUT_OHM,
  stage: (item, reaching) => {
    const { specs, settings, name } = item;
    const range = gainRange(specs);
    if (range === null) {
      reaching.assume(`${name}: gain ${USUAL_GAIN_DB[0]} to ${USUAL_GAIN_DB[1]} dB`);
    }
    const { fullScaleDbu, signalDbu, laterGainDb } = reaching;
    const neededDb = fullScaleDbu + TARGET_DBFS - signalDbu - laterGainDb;
    const set = setGainDb(specs, settings);
    const usedDb = set ?? settableGainDb(specs, neededDb);
    const [, mostDb] = range ?? USUAL_GAIN_DB;
    const noise = equivalentInputNoiseDbu(item, reaching);
    return {
      ...amplifyingStage(item, reaching, usedDb, noise),
      level: { neededDb, usedDb, byHand: set !== null, mostDb },
    };
  },
  amplifies: true,
  feedsPhantom: true,
  hasSwitches: true,
  takesCurves: true,
  namesChain: true,
} as const satisfies KindOfGear;
