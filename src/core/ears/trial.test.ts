import { loudnessOf } from '@/core/loudness/meter';
import { spectrumOf } from '@/core/signal/fft';
import { soundOf } from '@/core/signal/sound';
import { decodeWav } from '@/core/wav/read';
import { amountAt } from './axis';
import type { SessionPlan } from './session';
import { EarsError, energyOf, type Heard, type Skill } from './skill';
import { SKILLS, skillOf, usualChoices } from './skills';
import { MADE_RATE_HZ, madeSound } from './sounds';
import { intervalsOf, materialOf, soundsOf } from './trial';

const RATE = MADE_RATE_HZ;
const cello = materialOf([madeSound('cello')], RATE);
const voice = materialOf([madeSound('reader')], RATE);
const pink = materialOf([madeSound('noise')], RATE);
const sine = materialOf(
  [
    [
      Float64Array.from(
        { length: 3 * RATE },
        (_, n) => 0.1 * Math.sin((2 * Math.PI * 500 * n) / RATE),
      ),
    ],
  ],
  RATE,
);

const planOf = (id: string, choices: Record<string, string> = {}): SessionPlan => {
  const skill = skillOf(id)!;
  return { skill, choices: { ...usualChoices(skill), ...choices }, amount: null, seed: 5 };
};
const trial = (amount: number, way: 1 | -1 = 1) => ({ position: 0, place: 0, odd: 1, way, amount });
const loudness = (sound: Heard) => loudnessOf(soundOf(sound), RATE)!;
/** Power in dB of a band, by the spectrum of the whole sound. */
function bandDb([samples]: Heard, fromHz: number, toHz: number): number {
  const size = 2 ** Math.ceil(Math.log2(samples!.length));
  const bins = spectrumOf(samples!, size);
  let sum = 0;
  for (let k = Math.round((fromHz / RATE) * size); k <= (toHz / RATE) * size; k++) {
    sum += bins[2 * k]! ** 2 + bins[2 * k + 1]! ** 2;
  }
  return 10 * Math.log10(sum);
}
const peakOf = ([samples]: Heard) => samples!.reduce((most, x) => Math.max(most, Math.abs(x)), 0);
const residualDb = (a: Heard, b: Heard) =>
  10 *
  Math.log10(energyOf(a.map((samples, c) => samples.map((x, n) => x - b[c]![n]!))) / energyOf(b));

it('makes a step of 1 dB that is 1.00 dB on the bytes that are heard', async () => {
  for (const way of [1, -1] as const) {
    const drawn = trial(1, way);
    const wavs = intervalsOf(planOf('level'), cello, drawn);
    expect(wavs).toHaveLength(3);
    const [first, odd, last] = await Promise.all(
      wavs.map(async (bytes) => loudness((await decodeWav(bytes)).channels)),
    );
    expect(first).toBe(last);
    expect(Math.abs(odd! - first! - way)).toBeLessThan(0.02);
  }
});

it.each(
  SKILLS.filter(({ loud, clips }) => !loud && clips === 1).map(
    (skill) => [skill.id, skill] as const,
  ),
)(
  'brings %s back to one loudness on the bytes, from the hardest to the easiest',
  async (id, skill: Skill) => {
    const material = id === 'sibilance' ? voice : cello;
    for (const place of [0, 0.5, 1]) {
      const drawn = trial(amountAt(skill.axis, place));
      const [plain, odd] = await Promise.all(
        intervalsOf(planOf(id), material, drawn)
          .slice(0, 2)
          .map(async (bytes) => (await decodeWav(bytes)).channels),
      );
      expect(Math.abs(loudness(odd!) - loudness(plain!))).toBeLessThan(0.05);
      // Something differs, however little.
      expect(residualDb(odd!, plain!)).toBeGreaterThan(-90);
    }
  },
);

describe('the size of what differs is what is told', () => {
  const made = (
    id: string,
    material: typeof cello,
    amount: number,
    choices = {},
    way: 1 | -1 = 1,
  ) => soundsOf(planOf(id, choices), material, trial(amount, way));

  it('of a band: at its centre against far from it', () => {
    for (const [way, sign] of [
      ['boost', 1],
      ['cut', -1],
    ] as const) {
      const { plain, changed } = made('band', pink, 6, { centreHz: '3000', way });
      const near = bandDb(changed, 2950, 3050) - bandDb(plain, 2950, 3050);
      const far = bandDb(changed, 100, 200) - bandDb(plain, 100, 200);
      expect(Math.abs(near - far - sign * 6)).toBeLessThan(0.15);
    }
  });

  it('of a tilt: from the lowest to the highest', () => {
    const { plain, changed } = made('tilt', pink, 4, {}, -1);
    const of = (from: number, to: number) => bandDb(changed, from, to) - bandDb(plain, from, to);
    const tilted = of(14_000, 18_000) - of(30, 60);
    expect(tilted).toBeLessThan(-3.4);
    expect(tilted).toBeGreaterThan(-4.05);
  });

  it('of noise: its level against the sound', () => {
    const { plain, changed } = made('noise', cello, -40);
    expect(Math.abs(residualDb(changed, plain) + 40)).toBeLessThan(0.1);
  });

  it('of distortion: the level of harmonics of one parity', () => {
    for (const [harmonics, there, missing] of [
      ['odd', 1500, 1000],
      ['even', 1000, 1500],
    ] as const) {
      const { plain, changed } = made('distortion', sine, -40, { harmonics });
      const tone = bandDb(plain, 490, 510);
      const all = [1000, 1500, 2000, 2500, 3000, 3500].map((hz) =>
        bandDb(changed, hz - 10, hz + 10),
      );
      const sum = 10 * Math.log10(all.reduce((total, db) => total + 10 ** (db / 10), 0));
      expect(Math.abs(sum - tone + 40)).toBeLessThan(0.3);
      const at = (hz: number) => bandDb(changed, hz - 10, hz + 10) - tone;
      expect(at(there)).toBeGreaterThan(-41);
      expect(at(missing)).toBeLessThan(-75);
    }
  });

  it('of treble off axis', () => {
    const { plain, changed } = made('off-axis', pink, 6);
    const of = (from: number, to: number) => bandDb(changed, from, to) - bandDb(plain, from, to);
    expect(Math.abs(of(16_000, 19_000) - of(100, 200) + 6)).toBeLessThan(0.4);
  });

  it('of a distance: the low end as a spherical wave gives it', () => {
    // Four times as far as 20 cm; a cardioid's low end falls from 1/(1+ω) of its own, at 100 Hz as below.
    const { plain, changed } = made('distance', pink, 3);
    const of = (from: number, to: number) => bandDb(changed, from, to) - bandDb(plain, from, to);
    const rise = (hz: number, m: number) => {
      const corner = 343.2 / m / 2 / (2 * Math.PI);
      return 10 * Math.log10(hz ** 2 + corner ** 2);
    };
    const wanted = rise(100, 0.8) - rise(100, 0.2);
    expect(Math.abs(of(97, 103) - of(8000, 12_000) - wanted)).toBeLessThan(0.2);
  });

  it('of a comb: its teeth', () => {
    const { plain, changed } = made('comb', pink, -6, { delayMs: '1' });
    const at = (hz: number) => bandDb(changed, hz - 20, hz + 20) - bandDb(plain, hz - 20, hz + 20);
    // 1 + g at whole kilohertz, 1 − g between them, with g a half.
    expect(
      Math.abs(at(3000) - at(3500) - 20 * Math.log10((1 + 10 ** -0.3) / (1 - 10 ** -0.3))),
    ).toBeLessThan(0.2);
  });

  it('of compression: how far a loud tone stands over a quiet one', () => {
    // A second at each of two levels, 12 dB apart; both ends of each are left out for attack and release.
    const two = Float64Array.from(
      { length: 3 * RATE },
      (_, n) => (n < 1.5 * RATE ? 0.05 : 0.2) * Math.sin((2 * Math.PI * 500 * n) / RATE),
    );
    const material = materialOf([[two]], RATE);
    const stands = (amount: number) => {
      const { changed } = soundsOf(planOf('compression'), material, trial(amount));
      const part = (fromS: number) =>
        energyOf(changed.map((samples) => samples.subarray(fromS * RATE, (fromS + 0.75) * RATE)));
      return 10 * Math.log10(part(2) / part(0.5));
    };
    // Over the knee 12 dB become 12 / ratio; the quiet one stands in it, so less of it is taken.
    expect(stands(0.05)).toBeGreaterThan(12 / 1.05);
    expect(stands(0.05)).toBeLessThan(12);
    expect(stands(7)).toBeGreaterThan(12 / 8);
    expect(stands(7)).toBeLessThan(6);
  });

  it('of sibilance: what is above 5.5 kHz, and only that', () => {
    const { plain, changed } = made('sibilance', voice, 6);
    const of = (from: number, to: number) => bandDb(changed, from, to) - bandDb(plain, from, to);
    const up = of(7000, 10_000) - of(200, 2000);
    expect(up).toBeGreaterThan(3);
    expect(up).toBeLessThan(6.1);
  });

  it('of two chains: part of the way', () => {
    const dull = made('tilt', pink, 12, {}, -1).changed;
    const material = { ...pink, other: dull };
    const { plain, changed } = soundsOf(planOf('chains'), material, trial(0.5));
    // Half of the difference is 6 dB below the whole; the loudness is that of the first again.
    const whole = soundsOf(planOf('chains'), material, trial(1)).changed;
    expect(Math.abs(residualDb(changed, plain) - residualDb(whole, plain) + 6)).toBeLessThan(1);
    expect(Math.abs(residualDb(whole, dull))).toBeGreaterThan(60);
  });
});

it('refuses a clip that does not serve, in a sentence', () => {
  const silent = [new Float64Array(2 * RATE)];
  expect(() => materialOf([silent], RATE)).toThrow(EarsError);
  expect(() => materialOf([silent], RATE)).toThrow('This clip is silent');
  expect(() => materialOf([[new Float64Array(1000)]], RATE)).toThrow('too short');
  expect(() => soundsOf(planOf('sibilance'), sine, trial(6))).toThrow('nothing sibilant');
});

it('turns everything down alike before anything clips', async () => {
  // One loud moment in a quiet sound: at the working loudness its peak would pass full scale.
  const peaky = pink.sound[0]!.map((x, n) => (n % 9000 === 40 ? 0.9 : 0.01 * x));
  const material = materialOf([[peaky]], RATE);
  const heard = await Promise.all(
    intervalsOf(planOf('level'), material, trial(6)).map(
      async (bytes) => (await decodeWav(bytes)).channels,
    ),
  );
  for (const sound of heard) expect(peakOf(sound)).toBeLessThan(0.9);
  expect(loudness(heard[1]!) - loudness(heard[0]!)).toBeCloseTo(6, 1);
});
