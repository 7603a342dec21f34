import { type Biquad, designBiquad } from '@/core/signal/biquad';
import { speedOfSoundMps } from '@/core/signal/units';

/** A made-up microphone. */
export interface MicrophoneModel {
  name: string;
  kind: 'condenser' | 'valve condenser' | 'ribbon' | 'moving coil';
  /** p of the first-order pattern p + (1-p)·cos θ: 1 omni, 0.5 cardioid, 0 figure-eight. */
  pattern: number;
  /** dB re 1 V/Pa. */
  sensitivityDb: number;
  /** Equivalent sound level of its own noise, dBA. */
  selfNoiseDba: number;
  /** The distance at which its low end is meant to be flat, m; closer is fuller. */
  flatAtM: number;
  /** On-axis response at that distance. */
  response: readonly [
    'highpass' | 'lowpass' | 'bell' | 'lowshelf' | 'highshelf',
    number,
    number,
    number,
  ][];
}

/** Each response entry: shape, Hz, Q, dB. */
export const MICROPHONES: readonly MicrophoneModel[] = [
  {
    name: 'Kern 40',
    kind: 'condenser',
    pattern: 0.5,
    sensitivityDb: -32,
    selfNoiseDba: 9,
    flatAtM: 0.6,
    response: [
      ['highpass', 28, 0.7, 0],
      ['bell', 3200, 1.2, 1.6],
      ['bell', 10500, 0.9, 4.6],
      ['lowpass', 19000, 0.8, 0],
    ],
  },
  {
    name: 'Halde T2',
    kind: 'valve condenser',
    pattern: 0.5,
    sensitivityDb: -34,
    selfNoiseDba: 16,
    flatAtM: 0.9,
    response: [
      ['highpass', 24, 0.7, 0],
      ['lowshelf', 220, 0.7, 1.8],
      ['bell', 1400, 0.9, -1.2],
      ['bell', 7800, 0.8, 2.4],
      ['lowpass', 17000, 0.7, 0],
    ],
  },
  {
    name: 'Ostra R1',
    kind: 'ribbon',
    pattern: 0,
    sensitivityDb: -54,
    selfNoiseDba: 17,
    flatAtM: 1.2,
    response: [
      ['highpass', 32, 0.7, 0],
      ['bell', 380, 0.8, 1.2],
      ['highshelf', 6500, 0.7, -6.5],
      ['lowpass', 15500, 0.7, 0],
    ],
  },
  {
    name: 'Wehr S3',
    kind: 'condenser',
    pattern: 0.5,
    sensitivityDb: -38,
    selfNoiseDba: 14,
    flatAtM: 0.5,
    response: [
      ['highpass', 38, 0.7, 0],
      ['bell', 12500, 1, 1.2],
      ['lowpass', 20000, 0.8, 0],
    ],
  },
  {
    name: 'Moor D1',
    kind: 'moving coil',
    pattern: 0.5,
    sensitivityDb: -55,
    selfNoiseDba: 18,
    flatAtM: 0.3,
    response: [
      ['highpass', 75, 0.8, 0],
      ['bell', 4600, 1.1, 5],
      ['bell', 800, 0.8, -1.5],
      ['lowpass', 12500, 1, 0],
    ],
  },
  {
    name: 'Esker 7',
    kind: 'moving coil',
    pattern: 0.42,
    sensitivityDb: -58,
    selfNoiseDba: 18,
    flatAtM: 0.6,
    response: [
      ['highpass', 45, 0.7, 0],
      ['bell', 2600, 0.8, 1.8],
      ['bell', 180, 0.9, 1.2],
      ['lowpass', 14500, 0.8, 0],
    ],
  },
];

/** Sections of the on-axis response, without proximity. */
export function microphoneSections(model: MicrophoneModel, sampleRateHz: number): Biquad[] {
  return model.response.map(([shape, hz, q, db]) => designBiquad(shape, hz, sampleRateHz, q, db));
}

/**
 * Low-end rise of a pressure-gradient microphone at a distance, against the distance at which it is
 * flat: (s + ω(d)) / (s + ω(flat)) with ω(d) = (1-p)·cos θ·c/d (first-order spherical wave).
 */
export function proximitySection(
  model: MicrophoneModel,
  distanceM: number,
  angleDeg: number,
  sampleRateHz: number,
): Biquad {
  const gradient = (1 - model.pattern) * Math.cos((angleDeg * Math.PI) / 180);
  const direct = Math.max(0.05, Math.abs(model.pattern + gradient));
  const omega = (d: number) => (Math.abs(gradient) / direct) * (speedOfSoundMps(20) / d);
  const [zero, pole] = [omega(distanceM), Math.max(omega(model.flatAtM), 1)];
  const k = 2 * sampleRateHz;
  return {
    b0: (k + zero) / (k + pole),
    b1: (zero - k) / (k + pole),
    b2: 0,
    a1: (pole - k) / (k + pole),
    a2: 0,
  };
}
