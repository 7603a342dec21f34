import { TRAINING } from '@/steps/ears/endpoints';
import { beginSession, traineeByLink, trainingOf } from '@/steps/ears/service';
import { linkRoute } from '@/steps/listening/route';

export const POST = linkRoute(TRAINING.begin, async (token, draft) => {
  const trainee = await traineeByLink(token);
  await beginSession(trainee, draft, new Date());
  return trainingOf(trainee, token);
});
