import { TRAINING } from '@/steps/ears/endpoints';
import { endTraining, traineeByLink, trainingOf } from '@/steps/ears/service';
import { linkRoute } from '@/steps/listening/route';

export const POST = linkRoute(TRAINING.end, async (token, { sessionId }) => {
  const trainee = await traineeByLink(token);
  await endTraining(trainee, sessionId, new Date());
  return trainingOf(trainee, token);
});
