import { engineerRoute } from '@/platform/engineer-route';
import { comparedClips } from '@/steps/match/compare-clips';
import { MATCH } from '@/steps/match/endpoints';

export const GET = engineerRoute(MATCH.compare, (engineer, { id, setId, chainId, otherId }) =>
  comparedClips(engineer, id, setId, { chainId, otherId }),
);
