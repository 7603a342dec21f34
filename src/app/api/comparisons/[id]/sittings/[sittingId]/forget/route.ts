import { z } from 'zod';
import { engineerRoute } from '@/platform/engineer-route';
import { readBody } from '@/platform/route';
import { forget } from '@/steps/sitting/service';

const forgetting = z.object({ seat: z.int().min(1).max(100) });

export const POST = engineerRoute(
  ['id', 'sittingId'],
  async (engineer, { id, sittingId }, request) => {
    const { seat } = await readBody(request, forgetting);
    await forget(engineer, id, sittingId, seat, new Date());
  },
);
