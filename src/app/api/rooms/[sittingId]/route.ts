import { z } from 'zod';
import { respond } from '@/platform/route';
import { requirePerson } from '@/platform/sign-in/session';
import { makeConductorLink } from '@/steps/listening/conductor';

const ids = z.object({ sittingId: z.uuid('This address is not complete.') });

/** A link for running a room, shown once; for everybody of the studio, conductors included. */
export function POST(request: Request, { params }: { params: Promise<{ sittingId: string }> }) {
  return respond(request, async () => {
    const person = await requirePerson();
    const { sittingId } = ids.parse(await params);
    return makeConductorLink(person, sittingId, new Date());
  });
}
