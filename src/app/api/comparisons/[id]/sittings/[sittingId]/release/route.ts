import { z } from 'zod';
import { engineerRoute } from '@/platform/engineer-route';
import { readBody } from '@/platform/route';
import { release } from '@/steps/sitting/service';

const releasing = z.object({ seat: z.int().min(1).max(100) });

export const POST = engineerRoute(
  ['id', 'sittingId'],
  async (engineer, { id, sittingId }, request) => {
    const { seat } = await readBody(request, releasing);
    await release(engineer, id, sittingId, seat);
  },
);
