import { placeOfRequest } from '@/platform/client-address';
import { readBody, respond } from '@/platform/route';
import { linkOfCode } from '@/steps/listening/conductor';
import { shortCode } from '@/steps/listening/schema';

export function POST(request: Request) {
  return respond(request, async () => {
    const { code } = await readBody(request, shortCode);
    return linkOfCode(code, placeOfRequest(request), new Date());
  });
}
