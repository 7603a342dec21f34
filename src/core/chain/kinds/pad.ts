import type { KindOfGear } from './kind';
import { MICROPHONE_INPUT_OHM, passiveStage } from './stages';

const USUAL_DB = 20;

export const pad = {
  id: 'pad',
  link: 'inline pad',
  role: 'stage',
  specs: ['outputImpedanceOhm', 'inputImpedanceOhm', 'attenuationDb'],
  usualInputOhm: MICROPHONE_INPUT_OHM,
  stage: (item, reaching) => {
    const { attenuationDb } = item.specs;
    if (attenuationDb === undefined) reaching.assume(`${item.name}: attenuation ${USUAL_DB} dB`);
    return passiveStage(item, reaching, -(attenuationDb ?? USUAL_DB));
  },
  fixedGainDb: ({ attenuationDb }) => -(attenuationDb ?? USUAL_DB),
  hasSwitches: true,
  namesChain: true,
} as const satisfies KindOfGear;
