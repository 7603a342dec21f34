import { z } from 'zod';
import { downloadResponse } from '@/platform/download';
import { failureResponse } from '@/platform/route';
import { requireEngineer } from '@/platform/sign-in/session';
import { uuid } from '@/steps/comparisons/schema';
import { togetherCsv } from '@/steps/results/together';

const address = z.object({ id: uuid, readingId: uuid });

/** All judged answers of sittings that are read together. */
export async function GET(
  _: Request,
  { params }: { params: Promise<{ id: string; readingId: string }> },
) {
  try {
    const engineer = await requireEngineer();
    const { id, readingId } = address.parse(await params);
    return downloadResponse(await togetherCsv(engineer, id, readingId));
  } catch (error) {
    return failureResponse(error);
  }
}
