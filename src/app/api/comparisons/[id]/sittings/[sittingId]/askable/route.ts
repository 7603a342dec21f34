import { engineerRoute } from '@/platform/engineer-route';
import { typedText } from '@/platform/list-query';
import { SITTINGS } from '@/steps/sitting/endpoints';
import { askableOf } from '@/steps/sitting/service';

export const GET = engineerRoute(SITTINGS.askable, async (engineer, ids, _, request) => ({
  found: await askableOf(engineer, ids.id, ids.sittingId, typedText(request)),
}));
