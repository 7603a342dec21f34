import { findAlignment } from '@/core/alignment/delay';
import { findOnsetDelay } from '@/core/alignment/onset';
import { measure } from '@/core/loudness/meter';
import { printedToneDbfs } from '@/core/loudness/tone';
import { readAt } from '@/core/signal/interpolation';
import { soundOf } from '@/core/signal/sound';
import { type RelativeCase, relativeFile } from '@/core/test/relative';
import { conformanceJson, sine, xorshiftNoise } from '@/core/test/signals';
import { FloatClip } from '@/core/wav/float-clip';
import { decodeWav } from '@/core/wav/read';
import { alignAll, type AlignTake, inMemory } from './align';
import { CEILING_DBTP, matchAligned, matchClips, type MatchedClip, type TakesPlan } from './match';
import { roundedWav } from './rounded';

const { exp } = Math;

type Plan = TakesPlan & { takes: AlignTake[] };

function planOf(takes: { name: string; samples: Float64Array }[]): Plan {
  return {
    sampleRateHz: 48000,
    takes: takes.map(({ name, samples }) => ({
      name,
      sound: soundOf([samples]),
      alignment: { by: 'performance' },
    })),
    reference: 0,
    method: 'loudness',
    fadeS: 0.01,
    seed: 1,
  };
}

const match = (plan: Plan) => matchClips(plan, inMemory(48000));
const bytesOf = ({ sound, ditherSeed }: MatchedClip) => roundedWav(sound, 48000, ditherSeed);

/** Loudness of the bytes as a listener would get them. */
async function loudnessOf(bytes: Uint8Array): Promise<number> {
  const { header, channels } = await decodeWav(bytes);
  return measure(channels, header.format).integratedLufs as number;
}

describe('conformance set', () => {
  const { cases } = conformanceJson<{ cases: RelativeCase[] }>('audio/relative.json');

  it.each(cases.map((c) => [c.id, c] as const))('%s', async (_, c) => {
    const result = await match(
      planOf(c.files.map((f) => ({ name: f.name, samples: relativeFile(c, f) }))),
    );
    for (const want of c.expect) {
      const clip = result.clips.find(({ name }) => name === want.file);
      if (!clip) throw new Error(want.file);
      expect(clip.polarityInverted).toBe(want.polarityInverted);
      if (want.delaySamples !== undefined) {
        const error = Math.abs(clip.delaySamples - want.delaySamples);
        expect(error).toBeLessThan(want.delayTolerance as number);
      }
      if (want.matchGainDifferenceDb !== undefined) {
        const difference = clip.gainDb - result.clips[0]!.gainDb;
        expect(Math.abs(difference - want.matchGainDifferenceDb)).toBeLessThan(0.1);
      }
    }
    const levels = await Promise.all(result.clips.map((clip) => loudnessOf(bytesOf(clip))));
    expect(Math.max(...levels) - Math.min(...levels)).toBeLessThan(0.05);
    expect(new Set(result.clips.map((clip) => bytesOf(clip).length)).size).toBe(1);
    for (const clip of result.clips) expect(clip.truePeakDbtp).toBeLessThanOrEqual(CEILING_DBTP);
  });
});

describe('delay', () => {
  const noise = xorshiftNoise(7, 0.3, 48000 * 6);

  it.each([-95990.4, -1.27, 0.1, 3.33, 4711.75, 95999.9])('finds %d samples', (delay) => {
    const late = readAt(noise, -delay, noise.length);
    const found = findAlignment(soundOf([noise]), soundOf([late]), 48000);
    expect(Math.abs(found.delaySamples - delay)).toBeLessThan(0.02);
    expect(found.coherence).toBeGreaterThan(0.9);
  });

  it('finds it in recordings that are longer than what is searched at a time', () => {
    const [rate, delay] = [6000, 19_876.3];
    const long = xorshiftNoise(11, 0.3, rate * 400);
    const late = readAt(long, -delay, long.length).map((x) => -x);
    const found = findAlignment(soundOf([long]), soundOf([late]), rate);
    expect(Math.abs(found.delaySamples - delay)).toBeLessThan(0.02);
    expect(found.polarityInverted).toBe(true);
    expect(found.coherence).toBeGreaterThan(0.9);
  });

  it('recognises recordings that have nothing in common', () => {
    const found = findAlignment(
      soundOf([noise]),
      soundOf([xorshiftNoise(8, 0.3, 48000 * 6)]),
      48000,
    );
    expect(found.coherence).toBeLessThan(0.2);
  });

  it('finds the onset of a repeated performance', () => {
    const pluck = (seed: number, at: number[]) => {
      const out = xorshiftNoise(seed, 0.0005, 48000 * 5);
      const body = xorshiftNoise(seed + 1, 0.5, 24000);
      for (const start of at) {
        body.forEach((x, n) => {
          out[Math.round(start * 48000) + n]! += x * exp(-n / 4000);
        });
      }
      return out;
    };
    const first = pluck(3, [0.5, 1.1, 2, 2.4]);
    const second = pluck(5, [1.25, 1.85, 2.75, 3.15]);
    expect(findOnsetDelay(soundOf([first]), soundOf([second]), 48000, 5) / 48000).toBeCloseTo(
      0.75,
      2,
    );
  });
});

describe('refusals and rules', () => {
  const noise = xorshiftNoise(3, 0.2, 96000);

  it('says that an unrelated take is another performance', async () => {
    const other = xorshiftNoise(9, 0.2, 96000);
    const plan = planOf([
      { name: 'one', samples: noise },
      { name: 'two', samples: other },
    ]);
    await expect(match(plan)).rejects.toThrow('two and one do not look like the same performance');
    plan.takes[1]!.alignment = { by: 'hand', delaySamples: 12 };
    expect((await match(plan)).clips[1]!.delaySamples).toBe(12);
  });

  it('says by how much a target would clip', async () => {
    const plan = { ...planOf([{ name: 'one', samples: noise }]), targetLufs: 0 };
    await expect(match(plan)).rejects.toThrow(/\d+\.\d dB over -1 dBTP/);
  });

  it('refuses silence and mixed channel counts', async () => {
    const silent = { ...planOf([{ name: 'one', samples: new Float64Array(96000) }]) };
    await expect(match(silent)).rejects.toThrow('one is silent');
    const mixed = planOf([
      { name: 'one', samples: noise },
      { name: 'two', samples: noise },
    ]);
    mixed.takes[1]!.sound = soundOf([noise, noise]);
    await expect(match(mixed)).rejects.toThrow('compare mono with mono');
  });

  it('keeps the inner differences of a stereo pair', async () => {
    const right = readAt(noise, -9, noise.length).map((x) => x * 0.5);
    const plan = planOf([{ name: 'one', samples: noise }]);
    plan.takes[0]!.sound = soundOf([noise, right]);
    plan.takes.push({
      name: 'two',
      sound: soundOf([readAt(noise, -20.5, noise.length), readAt(right, -20.5, noise.length)]),
      alignment: { by: 'performance' },
    });
    const { clips } = await match(plan);
    const ratio = (c: (typeof clips)[number]) => {
      const [left, second] = c.sound.unpacked();
      return second![5000]! / left![4991]!;
    };
    expect(ratio(clips[0]!)).toBeCloseTo(0.5, 6);
    expect(ratio(clips[1]!)).toBeCloseTo(0.5, 3);
    expect(clips[1]!.delaySamples).toBeCloseTo(20.5, 1);
  });

  it('matches passages whose quiet parts cross the absolute gate', async () => {
    const quiet = noise.map((x, n) => (n < 48000 ? x * 0.9 : x * 0.0016));
    const plan = planOf([
      { name: 'loud', samples: quiet },
      { name: 'soft', samples: quiet.map((x) => x * 0.05) },
    ]);
    const { clips } = await match(plan);
    const [a, b] = (await Promise.all(clips.map((clip) => loudnessOf(bytesOf(clip))))) as [
      number,
      number,
    ];
    expect(Math.abs(a - b)).toBeLessThan(0.05);
  });
});

describe('printed tone', () => {
  const programme = xorshiftNoise(3, 0.2, 96000);
  const withTone = (amplitude: number, gain: number) => {
    const tone = sine(1000, 48000, 1.2, amplitude);
    return Float64Array.from([
      ...new Float64Array(4800),
      ...tone,
      ...programme.map((x) => x * gain),
    ]);
  };

  it('reads the level of the tone as mean square', () => {
    expect(printedToneDbfs(soundOf([withTone(0.1, 1)]), 48000)).toBeCloseTo(-23.01, 1);
    expect(printedToneDbfs(soundOf([programme]), 48000)).toBeNull();
  });

  it('makes the tones equal and leaves the programmes apart', async () => {
    const plan = planOf([
      { name: 'one', samples: withTone(0.1, 1) },
      { name: 'two', samples: withTone(0.05, 1) },
    ]);
    const { clips } = await match({ ...plan, method: 'tone' });
    expect(clips[1]!.gainDb - clips[0]!.gainDb).toBeCloseTo(6.02, 1);
  });
});

describe('at the same gain', () => {
  const noise = xorshiftNoise(5, 1, 48000 * 2);
  const gains = [40, 46];
  const rooms = (...amplitudes: number[]): Plan => {
    const plan = planOf(
      amplitudes.map((amplitude, i) => ({
        name: `room ${i + 1}`,
        samples: noise.map((x) => x * amplitude),
      })),
    );
    return {
      ...plan,
      method: 'gain',
      takes: plan.takes.map((take, i) => ({ ...take, recordedGainDb: gains[i]! })),
    };
  };

  it('takes rooms that are too quiet to have a loudness, by their gains alone', async () => {
    // Full-scale noise of this kind is about -1 LUFS; a ten-thousandth of it is under the gate at -70.
    const { clips, targetLufs } = await match(rooms(1e-4, 1e-4));
    expect(clips.map(({ beforeLufs }) => beforeLufs)).toEqual([null, null]);
    expect(clips[0]!.gainDb - clips[1]!.gainDb).toBeCloseTo(6, 9);
    expect(clips.map(({ residualLu }) => Math.abs(residualLu) < 1e-9)).toEqual([true, true]);
    // As loud as is safe at most, and not as loud as its peaks would allow.
    const after = clips.map(({ afterLufs }) => afterLufs!);
    expect(Math.max(...after)).toBeLessThanOrEqual(-20);
    expect(Math.max(...after)).toBeGreaterThan(-26);
    expect(after[0]! - after[1]!).toBeCloseTo(6, 1);
    expect(Number.isFinite(targetLufs)).toBe(true);
  });

  it('leaves a room beside music as quiet as it was, and says that it has no loudness', async () => {
    const { clips } = await match(rooms(0.1, 3e-6));
    expect(clips[0]!.afterLufs).toBeCloseTo(-20, 1);
    expect(clips[1]!.afterLufs).toBeNull();
    expect(clips[0]!.gainDb - clips[1]!.gainDb).toBeCloseTo(6, 9);
  });

  it('refuses what was not recorded at all', async () => {
    const plan = rooms(0.1, 0);
    plan.takes[1]!.alignment = { by: 'hand', delaySamples: 0 };
    await expect(match(plan)).rejects.toThrow('room 2 is silent');
  });
});

it('makes any number of sets of clips that were aligned once, in whatever memory they lie', async () => {
  const performance = xorshiftNoise(3, 0.2, 48000 * 3);
  const late = new Float64Array(performance.length);
  late.set(performance.subarray(0, performance.length - 100), 100);
  const plan = {
    ...planOf([
      { name: 'one', samples: performance },
      { name: 'late', samples: late },
    ]),
    passage: { from: 24000, to: 120000 },
  };
  const shared = (channels: number, frames: number) =>
    FloatClip.empty(
      channels,
      frames,
      48000,
      (bytes) => new Uint8Array(new SharedArrayBuffer(bytes)),
    );
  const asked = { withTone: false, withLoudness: false };
  const aligned = await alignAll({ ...plan, ...asked }, shared);
  // Half a second is all there is before the passage.
  expect(aligned.map(({ lead, sound }) => [lead, sound.frames])).toEqual([
    [24000, 120000],
    [24000, 120000],
  ]);
  expect(aligned[1]!.delaySamples).toBeCloseTo(100, 1);
  const whole = await match(plan);
  const place = () => FloatClip.empty(1, 96000, 48000);
  for (let again = 0; again < 2; again++) {
    const { clips } = matchAligned(plan, aligned, place);
    clips.forEach((clip, i) => expect(bytesOf(clip)).toEqual(bytesOf(whole.clips[i]!)));
  }
});
