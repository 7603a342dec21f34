import { addPowersDb, dbuToVolts, DBV_IN_DBU, voltsToDbu } from '@/core/chain/electric';
import { amplitudeToDb, dbToAmplitude } from '@/core/signal/units';
import { db, range, type Tool } from './tool';

const UNITS = ['V', 'mV', 'dBV', 'dBu', 'dBFS', 'dB SPL', 'Pa'] as const;
const REFERENCE_PA = 2e-5;
const SPL_UNITS: readonly string[] = ['dB SPL', 'Pa'];

const short = (value: number) => String(Number(value.toPrecision(4))).replace('-', '−');

export const decibels: Tool = {
  id: 'decibels',
  title: 'Decibel units',
  about: 'One level in all its units, and two levels added.',
  fields: [
    { name: 'value', label: 'Value', usual: '4', range: [-300, 1e9] },
    { name: 'unit', label: 'Unit', usual: 'dBu', choices: UNITS },
    { name: 'full', label: 'Full scale, dBu', usual: '18', range: [-10, 40] },
    { name: 'first', label: 'First level, dB', usual: '20', range: [-200, 200] },
    { name: 'second', label: 'Second level, dB', usual: '17', range: [-200, 200] },
  ],
  formulas: [
    'dBu = 20·log₁₀(U / 0.7746 V);  dBV = 20·log₁₀(U / 1 V) = dBu − 2.218;  dBFS = dBu − full scale (sine)',
    'dB SPL = 20·log₁₀(p / 20 µPa);  noises add as powers: 10·log₁₀(10^(a/10) + 10^(b/10))',
  ],
  answer(value, word) {
    const [given, unit, full] = [value('value'), word('unit'), value('full')];
    const sum = addPowersDb([value('first'), value('second')]);
    const lines: [string, string][] = SPL_UNITS.includes(unit)
      ? soundLines(unit === 'Pa' ? amplitudeToDb(given / REFERENCE_PA) : given)
      : voltLines(dbuOf(given, unit, full), full);
    return {
      finding: `${short(given)} ${unit} is ${lines.find(([name]) => name !== unit)?.[1] ?? ''}; ${short(value('first'))} and ${short(value('second'))} dB of noise make ${db(sum)}.`,
      lines: [...lines, ['Both noises together', db(sum, 2)]],
      figure: {
        x: 'second noise against the first, dB',
        y: 'what it adds, dB',
        markX: value('second') - value('first'),
        curves: [
          {
            name: 'adds',
            points: range(-20, 20, 81).map((x) => [x, addPowersDb([0, x])] as const),
          },
        ],
      },
    };
  },
};

function dbuOf(given: number, unit: string, full: number): number {
  if (unit === 'V') return voltsToDbu(given);
  if (unit === 'mV') return voltsToDbu(given / 1000);
  if (unit === 'dBV') return given + DBV_IN_DBU;
  return unit === 'dBFS' ? given + full : given;
}

function voltLines(dbu: number, full: number): [string, string][] {
  return [
    ['dBu', `${short(dbu)} dBu`],
    ['dBV', `${short(dbu - DBV_IN_DBU)} dBV`],
    ['V', `${short(dbuToVolts(dbu))} V`],
    ['mV', `${short(1000 * dbuToVolts(dbu))} mV`],
    ['dBFS', `${short(dbu - full)} dBFS`],
  ];
}

function soundLines(spl: number): [string, string][] {
  return [
    ['dB SPL', `${short(spl)} dB SPL`],
    ['Pa', `${short(REFERENCE_PA * dbToAmplitude(spl))} Pa`],
  ];
}
