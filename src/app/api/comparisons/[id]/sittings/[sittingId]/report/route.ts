import { cookies } from 'next/headers';
import { z } from 'zod';
import { recordAlone } from '@/platform/events/service';
import { PAPERS } from '@/platform/paper';
import { printed } from '@/platform/print';
import { failureResponse } from '@/platform/route';
import { SESSION_COOKIE } from '@/platform/sign-in/cookie';
import { requireRight } from '@/platform/sign-in/session';
import { comparisonOf } from '@/steps/comparisons/service';
import { uuid } from '@/steps/comparisons/schema';

const address = z.object({ id: uuid, sittingId: uuid });
const query = z.object({ paper: z.enum(PAPERS).catch('A4') });

/** The report of a closed sitting as a PDF. */
export async function GET(
  request: Request,
  { params }: { params: Promise<{ id: string; sittingId: string }> },
) {
  try {
    const engineer = await requireRight('read');
    const { id, sittingId } = address.parse(await params);
    const { paper } = query.parse({ paper: new URL(request.url).searchParams.get('paper') });
    await comparisonOf(engineer, id);
    const cookie = (await cookies()).get(SESSION_COOKIE)?.value ?? '';
    const pdf = await printed(`/comparisons/${id}/report?sitting=${sittingId}`, cookie, paper);
    const told = { about: 'report.pdf', comparisonId: id };
    await recordAlone(engineer, 'exported', told, new Date());
    return new Response(pdf.slice(), {
      headers: {
        'content-type': 'application/pdf',
        'content-disposition': 'attachment; filename="report.pdf"',
        'cache-control': 'no-store',
      },
    });
  } catch (error) {
    return failureResponse(error);
  }
}
