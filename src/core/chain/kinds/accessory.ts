import type { KindOfGear } from './kind';

export const accessory = {
  id: 'accessory',
  link: 'accessory',
  role: 'aside',
  specs: [],
} as const satisfies KindOfGear;
