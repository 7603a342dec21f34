import { inMemory } from '@/core/matching/align';
import { matchClips } from '@/core/matching/match';
import { measure } from '@/core/loudness/meter';
import { readAt } from '@/core/signal/interpolation';
import { Random } from '@/core/signal/random';
import { soundOf } from '@/core/signal/sound';

const RATE = 48000;
const SECONDS = 30;
const TAKES = 8;

/** Eight half-minute takes of one performance, late by fractions and at different gains. */
async function main(): Promise<void> {
  const random = new Random(1);
  let low = 0;
  const performance = Float64Array.from({ length: SECONDS * RATE }, (_, n) => {
    low = 0.93 * low + 0.07 * random.normal();
    return low * (0.5 + 0.4 * Math.sin(n / 30000)) * 0.5;
  });
  const takes = Array.from({ length: TAKES }, (_, i) => {
    const gain = 0.4 + 0.1 * i;
    const samples = readAt(performance, -13.3 * i, performance.length).map(
      (x) => gain * x + 0.0005 * random.normal(),
    );
    const sound = soundOf([samples]);
    return { name: `take ${i}`, samples, sound, alignment: { by: 'performance' as const } };
  });
  const times: number[] = [];
  for (let round = 0; round < 4; round++) {
    const began = process.hrtime.bigint();
    const plan = { sampleRateHz: RATE, takes, reference: 0, method: 'loudness' as const };
    await matchClips({ ...plan, fadeS: 0.01, seed: 1 }, inMemory(RATE));
    const matched = process.hrtime.bigint();
    const format = { sampleRateHz: RATE, channels: 1, bitDepth: 24, encoding: 'pcm' } as const;
    for (const { samples } of takes) measure([samples], { ...format, channelMask: 0 });
    const measured = Number(process.hrtime.bigint() - matched) / 1e9;
    const seconds = Number(matched - began) / 1e9;
    times.push(seconds);
    console.log(
      `match of ${TAKES} takes of ${SECONDS} s, one thread: ${seconds.toFixed(2)} s, ` +
        `${(seconds / measured).toFixed(1)} times one measurement of them`,
    );
  }
  console.log(`best ${Math.min(...times).toFixed(2)} s`);
}

void main();
