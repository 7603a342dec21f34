import { engineerRoute } from '@/platform/engineer-route';
import { typedText } from '@/platform/list-query';
import { askableOf } from '@/steps/sitting/service';

export const GET = engineerRoute(
  ['id', 'sittingId'],
  async (engineer, { id, sittingId }, request) => ({
    found: await askableOf(engineer, id, sittingId, typedText(request)),
  }),
);
