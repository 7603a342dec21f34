import { type Caution, hasMicrophone } from './caution';

export const ribbonAndAir: Caution = {
  id: 'ribbon-and-air',
  title: 'Ribbon and blasts of air',
  applies: (plan) => hasMicrophone(plan, 'ribbon', 'active ribbon'),
  text: 'A blast of air stretches a ribbon. No plosive test and no close breath without a pop filter, carry it covered, and turn it aside for loud instruments with a stream of air.',
  defersTo: 'the maker’s manual of the microphone',
};
