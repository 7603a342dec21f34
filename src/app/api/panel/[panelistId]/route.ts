import { engineerRoute } from '@/platform/engineer-route';
import { PANEL } from '@/steps/panel/endpoints';
import { changePanelist } from '@/steps/panel/service';
import { forgetPanelist } from '@/steps/sitting/service';

export const PUT = engineerRoute(PANEL.change, (engineer, { panelistId }, draft) =>
  changePanelist(engineer, panelistId, draft),
);

export const DELETE = engineerRoute(PANEL.forget, (engineer, { panelistId }) =>
  forgetPanelist(engineer, panelistId, new Date()),
);
