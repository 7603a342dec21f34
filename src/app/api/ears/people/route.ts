import { engineerRoute } from '@/platform/engineer-route';
import { typedText } from '@/platform/list-query';
import { EARS } from '@/steps/ears/endpoints';
import { findPeople } from '@/steps/ears/service';

export const GET = engineerRoute(EARS.people, async (engineer, _, __, request) => ({
  found: await findPeople(engineer, typedText(request)),
}));
