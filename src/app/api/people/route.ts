import { engineerRoute } from '@/platform/engineer-route';
import { readBody } from '@/platform/route';
import { invite } from '@/platform/sign-in/people';
import { inviting } from '@/platform/sign-in/schema';

export const POST = engineerRoute([], async (engineer, _, request) =>
  invite(engineer, await readBody(request, inviting), new Date()),
);
