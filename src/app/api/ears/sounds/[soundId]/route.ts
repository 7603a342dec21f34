import { engineerRoute } from '@/platform/engineer-route';
import { EARS } from '@/steps/ears/endpoints';
import { removeSound } from '@/steps/ears/service';

export const DELETE = engineerRoute(EARS.removeSound, (engineer, { soundId }) =>
  removeSound(engineer, soundId, new Date()),
);
