import { placeOfRequest } from '@/platform/client-address';
import { openRoute } from '@/platform/engineer-route';
import { linkOfCode } from '@/steps/listening/conductor';
import { LISTENING } from '@/steps/listening/endpoints';

export const POST = openRoute(LISTENING.byCode, (_, __, { code }, request) =>
  linkOfCode(code, placeOfRequest(request), new Date()),
);
