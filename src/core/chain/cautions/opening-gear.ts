import type { Caution } from './caution';

export const openingGear: Caution = {
  id: 'opening-gear',
  title: 'Opening or modifying gear',
  applies: (plan) =>
    plan.items.some(
      ({ gear, settings }) =>
        gear.kind === 'capsule' || /modif|mod\b|swap|opened|rebuilt/i.test(settings.switches ?? ''),
    ),
  text: 'Opening or modifying gear is work for a qualified technician: mains and valve circuits can kill, capsules are ruined by a touch, and the warranty ends.',
  defersTo: 'a qualified technician and local rules',
};
