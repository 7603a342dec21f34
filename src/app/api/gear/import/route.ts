import { engineerRoute } from '@/platform/engineer-route';
import { GEAR } from '@/steps/gear/endpoints';
import { importGear } from '@/steps/gear/service';

export const POST = engineerRoute(GEAR.import, (engineer, _, { csv, apply }) =>
  importGear(engineer, csv, apply, new Date()),
);
