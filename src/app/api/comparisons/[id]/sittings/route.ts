import { engineerRoute } from '@/platform/engineer-route';
import { readBody } from '@/platform/route';
import { sittingDraft } from '@/steps/sitting/schema';
import { planSitting } from '@/steps/sitting/service';

export const PUT = engineerRoute(['id'], async (engineer, { id }, request) => ({
  id: await planSitting(engineer, id, await readBody(request, sittingDraft), new Date()),
}));
