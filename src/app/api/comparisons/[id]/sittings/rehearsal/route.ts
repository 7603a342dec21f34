import { engineerRoute } from '@/platform/engineer-route';
import { readBody } from '@/platform/route';
import { sittingDraft } from '@/steps/sitting/schema';
import { rehearse } from '@/steps/sitting/service';

export const POST = engineerRoute(['id'], async (engineer, { id }, request) =>
  rehearse(engineer, id, await readBody(request, sittingDraft), new Date()),
);
