import { TRAINING } from '@/steps/ears/endpoints';
import { answerTrial, traineeByLink } from '@/steps/ears/service';
import { linkRoute } from '@/steps/listening/route';

export const POST = linkRoute(TRAINING.answer, async (token, answer) =>
  answerTrial(await traineeByLink(token), answer, new Date()),
);
