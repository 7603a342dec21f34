import { conductorRoute } from '@/platform/engineer-route';
import { makeConductorLink } from '@/steps/listening/conductor';
import { SITTINGS } from '@/steps/sitting/endpoints';

/** A link for running a room, shown once; for everybody of the studio, conductors included. */
export const POST = conductorRoute(SITTINGS.roomLink, (person, { sittingId }) =>
  makeConductorLink(person, sittingId, new Date()),
);
