import { placeOfRequest } from '@/platform/client-address';
import { openRoute } from '@/platform/engineer-route';
import { linkOfCode } from '@/steps/listening/conductor';
import { saying } from '@/steps/listening/refusals';
import { languageAsked } from '@/platform/language/asked';
import { LISTENING } from '@/steps/listening/endpoints';

export const POST = openRoute(LISTENING.byCode, async (_, __, { code }, request) =>
  saying(await languageAsked(), () => linkOfCode(code, placeOfRequest(request), new Date())),
);
