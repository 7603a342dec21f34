import { engineerRoute } from '@/platform/engineer-route';
import { EARS } from '@/steps/ears/endpoints';
import { answerTrial, traineeOfEngineer } from '@/steps/ears/service';

export const POST = engineerRoute(EARS.answer, (engineer, _, answer) =>
  answerTrial(traineeOfEngineer(engineer), answer, new Date()),
);
