import { z } from 'zod';
import { engineerRoute } from '@/platform/engineer-route';
import { readBody } from '@/platform/route';
import { setAccess } from '@/platform/sign-in/people';

const access = z.object({ allowed: z.boolean() });

export const PUT = engineerRoute(['accountId'], async (engineer, { accountId }, request) => {
  const { allowed } = await readBody(request, access);
  await setAccess(engineer, accountId, allowed, new Date());
});
