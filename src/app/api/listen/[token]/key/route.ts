import { failureResponse } from '@/platform/route';
import { notFound } from '@/platform/errors';
import { linkToken } from '@/steps/listening/schema';
import { readSeat } from '@/steps/listening/seat-cookie';
import { keyForListener } from '@/steps/listening/service';

/** The key of a closed sitting, exactly as it was sealed: `sha256sum` of this file is the seal. */
export async function GET(_: Request, { params }: { params: Promise<{ token: string }> }) {
  try {
    const token = linkToken.safeParse((await params).token);
    if (!token.success) throw notFound('sitting');
    return new Response(await keyForListener(token.data, await readSeat(token.data)), {
      headers: {
        'content-type': 'application/json; charset=utf-8',
        'content-disposition': 'attachment; filename="key.json"',
        'cache-control': 'no-store',
      },
    });
  } catch (error) {
    return failureResponse(error);
  }
}
