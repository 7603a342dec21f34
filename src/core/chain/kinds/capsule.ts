import type { KindOfGear } from './kind';

/** A capsule of its own, screwed onto a microphone: what it does is in the specs of the whole. */
export const capsule = {
  id: 'capsule',
  link: 'capsule',
  role: 'aside',
  specs: [],
  hasSwitches: true,
  namesChain: true,
} as const satisfies KindOfGear;
