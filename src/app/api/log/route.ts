import { downloadResponse } from '@/platform/download';
import { eventsFile } from '@/platform/events/service';
import { failureResponse } from '@/platform/route';
import { requireEngineer } from '@/platform/sign-in/session';

/** The whole log as JSON Lines. */
export async function GET() {
  try {
    return downloadResponse(await eventsFile(await requireEngineer()));
  } catch (error) {
    return failureResponse(error);
  }
}
