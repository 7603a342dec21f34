import { engineerRoute } from '@/platform/engineer-route';
import { TAKES } from '@/steps/takes/endpoints';
import { peaksOf } from '@/steps/takes/service';

export const GET = engineerRoute(TAKES.peaks, async (engineer, { id, takeId }) => ({
  peaks: await peaksOf(engineer, id, takeId),
}));
