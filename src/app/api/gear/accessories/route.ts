import { engineerRoute } from '@/platform/engineer-route';
import { typedText } from '@/platform/list-query';
import { accessoriesFound } from '@/steps/gear/service';

export const GET = engineerRoute([], async (engineer, _, request) => ({
  found: await accessoriesFound(engineer, typedText(request)),
}));
