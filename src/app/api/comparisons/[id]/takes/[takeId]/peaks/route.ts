import { engineerRoute } from '@/platform/engineer-route';
import { peaksOf } from '@/steps/takes/service';

export const GET = engineerRoute(['id', 'takeId'], async (engineer, { id, takeId }) => ({
  peaks: await peaksOf(engineer, id, takeId),
}));
