import { engineerRoute } from '@/platform/engineer-route';
import { typedText } from '@/platform/list-query';
import { GEAR } from '@/steps/gear/endpoints';
import { accessoriesFound } from '@/steps/gear/service';

export const GET = engineerRoute(GEAR.accessories, async (engineer, _, __, request) => ({
  found: await accessoriesFound(engineer, typedText(request)),
}));
