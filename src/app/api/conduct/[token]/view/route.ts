import { linkRoute } from '@/steps/listening/route';
import { viewForConductor } from '@/steps/listening/conductor';

export const GET = linkRoute((token) => viewForConductor(token));
