import { engineerRoute } from '@/platform/engineer-route';
import { EARS } from '@/steps/ears/endpoints';
import { beginSession, traineeOfEngineer, trainingOf } from '@/steps/ears/service';

export const GET = engineerRoute(EARS.view, (engineer) => trainingOf(traineeOfEngineer(engineer)));

export const POST = engineerRoute(EARS.begin, async (engineer, _, draft) => {
  const trainee = traineeOfEngineer(engineer);
  await beginSession(trainee, draft, new Date());
  return trainingOf(trainee);
});
