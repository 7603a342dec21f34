import { engineerRoute } from '@/platform/engineer-route';
import { readBody } from '@/platform/route';
import { panelistDraft } from '@/steps/panel/schema';
import { changePanelist } from '@/steps/panel/service';
import { forgetPanelist } from '@/steps/sitting/service';

export const PUT = engineerRoute(['panelistId'], async (engineer, { panelistId }, request) =>
  changePanelist(engineer, panelistId, await readBody(request, panelistDraft)),
);

export const DELETE = engineerRoute(['panelistId'], (engineer, { panelistId }) =>
  forgetPanelist(engineer, panelistId, new Date()),
);
