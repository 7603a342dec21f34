import { engineerRoute } from '@/platform/engineer-route';
import { EARS } from '@/steps/ears/endpoints';
import { trainingLink } from '@/steps/ears/service';

export const POST = engineerRoute(EARS.link, (engineer, { panelistId }) =>
  trainingLink(engineer, panelistId, new Date()),
);
