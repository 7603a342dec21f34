import { TRAINING } from '@/steps/ears/endpoints';
import { traineeByLink, trainingOf } from '@/steps/ears/service';
import { linkRoute } from '@/steps/listening/route';

export const GET = linkRoute(TRAINING.view, async (token) =>
  trainingOf(await traineeByLink(token), token),
);
