import type { Check } from './check';

export const hum: Check = ({ features }) =>
  features?.hum
    ? {
        check: 'hum',
        severity: 'caution',
        text: `Hums at ${features.hum.hz} Hz and its multiples, at ${features.hum.levelDbfs.toFixed(0).replace('-', '−')} dBFS in its quiet places. Look for a ground loop, a supply near the cable, or lamps.`,
      }
    : null;
