import { engineerRoute } from '@/platform/engineer-route';
import { readBody } from '@/platform/route';
import { takesChange } from '@/steps/takes/schema';
import { changeTakes } from '@/steps/takes/service';

export const PUT = engineerRoute(['id'], async (engineer, { id }, request) =>
  changeTakes(engineer, id, await readBody(request, takesChange), new Date()),
);
