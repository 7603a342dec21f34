import { TRAINING } from '@/steps/ears/endpoints';
import { shareWithPanel, traineeByLink, trainingOf } from '@/steps/ears/service';
import { linkRoute } from '@/steps/listening/route';

export const PUT = linkRoute(TRAINING.share, async (token, { shares }) => {
  await shareWithPanel(await traineeByLink(token), shares);
  return trainingOf(await traineeByLink(token), token);
});
