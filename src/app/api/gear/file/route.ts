import { failureResponse } from '@/platform/route';
import { requireEngineer } from '@/platform/sign-in/session';
import { exportGear } from '@/steps/gear/service';

/** The gear list as CSV. */
export async function GET() {
  try {
    return new Response(await exportGear(await requireEngineer()), {
      headers: {
        'content-type': 'text/csv; charset=utf-8',
        'content-disposition': 'attachment; filename="gear.csv"',
        'cache-control': 'no-store',
      },
    });
  } catch (error) {
    return failureResponse(error);
  }
}
