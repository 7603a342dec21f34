import { engineerRoute } from '@/platform/engineer-route';
import { EARS } from '@/steps/ears/endpoints';
import { endTraining, traineeOfEngineer, trainingOf } from '@/steps/ears/service';

export const POST = engineerRoute(EARS.end, async (engineer, _, { sessionId }) => {
  const trainee = traineeOfEngineer(engineer);
  await endTraining(trainee, sessionId, new Date());
  return trainingOf(trainee);
});
