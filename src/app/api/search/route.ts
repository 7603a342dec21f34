import { HOUSE } from '@/platform/endpoints';
import { engineerRoute } from '@/platform/engineer-route';
import { typedText } from '@/platform/list-query';
import { searchBank } from '@/steps/overview/search';

export const GET = engineerRoute(HOUSE.search, (engineer, _, __, request) =>
  searchBank(engineer, typedText(request)),
);
