import { parallelOhm } from '@/core/chain/electric';
import { coilImpedance, type ImpedanceAt, loadingEffect } from '@/core/chain/impedance';
import { db, type Tool } from './tool';

const COIL = 'moving coil';

export const loading: Tool = {
  id: 'loading',
  title: 'Loading',
  about:
    'What an input takes from a microphone, and what a splitter or a transformer does to its response.',
  fields: [
    { name: 'source', label: 'Source', usual: COIL, choices: [COIL, 'flat impedance'] },
    { name: 'ohm', label: 'Output impedance, Ω', usual: '200', range: [0.1, 100000] },
    { name: 'load', label: 'Input, Ω', usual: '1500', range: [10, 1e8] },
    { name: 'second', label: 'Second input beside it, Ω', usual: '1500', range: [10, 1e8] },
    {
      name: 'turns',
      label: 'Transformer between, secondary : primary',
      usual: '1',
      range: [0.02, 50],
    },
    { name: 'henry', label: 'Coil inductance, mH', usual: '1.2', range: [0, 1000] },
    { name: 'resonance', label: 'Coil resonance, Hz', usual: '140', range: [10, 2000] },
    { name: 'height', label: 'Its height, Ω', usual: '180', range: [0, 100000] },
    { name: 'q', label: 'Its Q', usual: '1', range: [0.1, 20] },
  ],
  formulas: [
    'loss(f) = 20·log₁₀(R / |R + Z(f)|), loads side by side 1/R = 1/R₁ + 1/R₂, through a transformer R / n²',
    'coil: Z(f) = R + jωL + Rres / (1 + jQ·(f/f₀ − f₀/f)); a measured curve is better than this model',
  ],
  answer(value, word) {
    const flat: ImpedanceAt = () => ({ re: value('ohm'), im: 0 });
    const source =
      word('source') === COIL
        ? coilImpedance({
            resistanceOhm: value('ohm'),
            inductanceH: value('henry') / 1000,
            resonanceHz: value('resonance'),
            resonanceOhm: value('height'),
            q: value('q'),
          })
        : flat;
    const one = value('load') / value('turns') ** 2;
    const both = parallelOhm([value('load'), value('second')]) / value('turns') ** 2;
    const [alone, split] = [loadingEffect(source, one), loadingEffect(source, both)];
    const points = (effect: typeof alone) =>
      effect.curve.map(({ frequencyHz, db: loss }) => [frequencyHz, loss] as const);
    const changed = split.dropDb - alone.dropDb;
    return {
      finding: `The input takes ${db(-alone.dropDb)} and bends the response by ${db(alone.tiltDb)}; a second input beside it takes ${db(-changed)} more and bends it by ${db(split.tiltDb)}.`,
      lines: [
        ['Load', `${Math.round(one)} Ω; with the second ${Math.round(both)} Ω`],
        ['Drop at 1 kHz', `${db(alone.dropDb, 2)}; with the second ${db(split.dropDb, 2)}`],
        ['100 Hz against 1 kHz', `${db(alone.lowDb, 2)}; with the second ${db(split.lowDb, 2)}`],
        ['10 kHz against 1 kHz', `${db(alone.highDb, 2)}; with the second ${db(split.highDb, 2)}`],
      ],
      figure: {
        x: 'frequency, Hz',
        y: 'loss, dB',
        logX: true,
        curves: [
          { name: 'one input', points: points(alone) },
          { name: 'two inputs', points: points(split) },
        ],
      },
    };
  },
};
