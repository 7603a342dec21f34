import { type Caution, hasMicrophone } from './caution';

export const plosivesAtRibbon: Caution = {
  id: 'plosives-at-ribbon',
  title: 'Plosive test with a ribbon in the set',
  applies: (plan) => plan.plosiveTest && hasMicrophone(plan, 'ribbon', 'active ribbon'),
  text: 'This plan tests plosives. Take the ribbon down, or cover it, before anybody speaks a P at the set; its own plosives are not worth a ribbon.',
  defersTo: 'the maker’s manual of the microphone',
};
