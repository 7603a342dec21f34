import type { GearItem } from '@/core/chain/item';
import type { GearKind } from '@/core/chain/kinds';
import type { GearSpecs } from '@/core/chain/specs';
import { ladderFinding, walkChain } from '@/core/chain/walk';
import { db, logRange, type Tool } from './tool';

function item(kind: GearKind, name: string, specs: GearSpecs) {
  const gear: GearItem = { id: name, name, kind, specs, priceCents: null, accessoryIds: [] };
  return { gear, settings: {} };
}

export const gain: Tool = {
  id: 'gain',
  title: 'Gain and noise',
  about:
    'How much gain a source needs at a distance, whether the preamp has it, and what noise is left.',
  fields: [
    { name: 'level', label: 'Level at 1 m, dB SPL', usual: '70', range: [20, 150] },
    { name: 'crest', label: 'Peaks over average, dB', usual: '14', range: [3, 40] },
    { name: 'distance', label: 'Distance, cm', usual: '20', range: [1, 5000] },
    { name: 'sensitivity', label: 'Sensitivity, dB re 1 V/Pa', usual: '-55', range: [-90, 10] },
    { name: 'impedance', label: 'Output impedance, Ω', usual: '200', range: [1, 10000] },
    { name: 'self', label: 'Self-noise, dBA', usual: '18', range: [-10, 60] },
    { name: 'input', label: 'Preamp input, Ω', usual: '1500', range: [50, 1e8] },
    { name: 'most', label: 'Most gain, dB', usual: '60', range: [0, 90] },
    { name: 'ein', label: 'EIN (150 Ω, unweighted), dBu', usual: '-127', range: [-140, -60] },
    { name: 'full', label: 'Full scale, dBu', usual: '18', range: [-10, 40] },
    { name: 'range', label: 'Converter range, dBA', usual: '115', range: [40, 150] },
  ],
  formulas: [
    'L(d) = L(1 m) − 20·log₁₀(d / 1 m)',
    'U = S + (L − 94) + 2.218 dBu, less loading 20·log₁₀(Zin / (Zin + Zout))',
    'gain = full scale − 18 dB − U;  noise powers of room, microphone, input and converter are added',
    'noise at matched loudness = L(1 m) − (signal − noise)',
  ],
  answer(value) {
    const at = (distanceM: number) =>
      walkChain(
        [
          item('microphone', 'Microphone', {
            type: 'condenser',
            patterns: ['omni'],
            sensitivityDb: value('sensitivity'),
            selfNoiseDba: value('self'),
            outputImpedanceOhm: value('impedance'),
          }),
          item('preamp', 'Preamp', {
            minGainDb: 0,
            maxGainDb: value('most'),
            inputImpedanceOhm: value('input'),
            einDbu: value('ein'),
            einSourceOhm: 150,
            maxOutputDbu: 60,
          }),
          item('converter', 'Converter', {
            fullScaleDbu: value('full'),
            dynamicRangeDb: value('range'),
            inputImpedanceOhm: 1e8,
          }),
        ],
        {
          levelAt1MDb: value('level'),
          crestDb: value('crest'),
          distanceM,
          angleDeg: 0,
          roomNoiseDba: null,
        },
      );
    const ladder = at(value('distance') / 100);
    const [sound, mic] = ladder.stages;
    const distances = logRange(0.02, 5, 60);
    const curve = (name: string, of: (ladder: ReturnType<typeof at>) => number | null) => ({
      name,
      points: distances.map((d) => [100 * d, of(at(d)) ?? 0] as const),
    });
    return {
      finding: ladderFinding(ladder),
      lines: [
        ['At the microphone', `${sound!.signalDb.toFixed(1)} dB SPL`],
        ['Out of it, loaded', `${db(mic!.signalDb).replace(' dB', '')} dBu`],
        ['Loading', db(ladder.loading?.dropDb ?? 0)],
        ['Gain needed', db(ladder.gainNeededDb ?? 0)],
        ['Peaks at the converter', `${db(ladder.peakDbfs ?? 0)}FS`],
        ['Signal over noise', db(ladder.signalToNoiseDb ?? 0)],
        ['Noise at matched loudness', `${(ladder.matchedNoiseDba ?? 0).toFixed(1)} dBA`],
      ],
      figure: {
        x: 'distance, cm',
        y: 'gain needed, dB; noise at matched loudness, dBA',
        logX: true,
        markX: value('distance'),
        curves: [
          curve('gain needed', (l) => l.gainNeededDb),
          curve('noise at matched loudness', (l) => l.matchedNoiseDba),
        ],
      },
    };
  },
};
