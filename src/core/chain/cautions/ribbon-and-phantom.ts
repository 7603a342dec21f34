import { type Caution, hasMicrophone } from './caution';

export const ribbonAndPhantom: Caution = {
  id: 'ribbon-and-phantom',
  title: 'Ribbon and phantom power',
  applies: (plan) => hasMicrophone(plan, 'ribbon'),
  text: 'Phantom power through a mispatched or faulty cable can tear a passive ribbon. Keep phantom off on its input, patch with everything muted, and check the cable first. A booster that needs phantom has to stand between.',
  defersTo: 'the maker’s manual of the microphone',
};
