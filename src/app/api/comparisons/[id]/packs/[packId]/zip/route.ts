import { z } from 'zod';
import { failureResponse } from '@/platform/route';
import { requireEngineer } from '@/platform/sign-in/session';
import { threads } from '@/platform/threads';
import { uuid } from '@/steps/comparisons/schema';
import { packJob } from '@/steps/match/pack';

const address = z.object({ id: uuid, packId: uuid });

/** A blind pack, made anew from what was sealed: the same bytes every time. */
export async function GET(
  _: Request,
  { params }: { params: Promise<{ id: string; packId: string }> },
) {
  try {
    const engineer = await requireEngineer();
    const { id, packId } = address.parse(await params);
    const job = await packJob(engineer, id, packId);
    const zip = (await threads().run(job, { name: 'packClips' })) as Uint8Array<ArrayBuffer>;
    return new Response(zip, {
      headers: {
        'content-type': 'application/zip',
        'content-disposition': 'attachment; filename="blind-pack.zip"',
        'cache-control': 'no-store',
      },
    });
  } catch (error) {
    return failureResponse(error);
  }
}
