import type { Caution } from './caution';

export const switchingPhantom: Caution = {
  id: 'switching-phantom',
  title: 'Switching phantom or patching',
  applies: (plan) =>
    plan.items.some(
      ({ gear, settings }) => settings.phantom === true || gear.specs.powering === 'phantom',
    ),
  text: 'Mute monitors and headphones before switching phantom power or patching: the thump harms ears and loudspeakers. Wait until the supply has settled before unmuting.',
  defersTo: 'the maker’s manual of the preamp',
};
