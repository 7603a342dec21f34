import { engineerRoute } from '@/platform/engineer-route';
import { EARS } from '@/steps/ears/endpoints';
import { addSound } from '@/steps/ears/service';

export const POST = engineerRoute(EARS.addSound, (engineer, _, draft) =>
  addSound(engineer, draft, new Date()),
);
