import { type Caution, hasMicrophone } from './caution';

export const valveSupply: Caution = {
  id: 'valve-supply',
  title: 'Valve supply and mains',
  applies: (plan) =>
    hasMicrophone(plan, 'valve condenser') ||
    plan.items.some(({ gear }) => gear.specs.powering === 'own supply'),
  text: 'Supplies of valve microphones hold voltages that can kill, also for a while after switching off. Connect and disconnect the microphone only with the supply off and discharged, keep it dry and its earth intact.',
  defersTo: 'the maker’s manual and a qualified technician',
};
