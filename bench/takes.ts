import { FeatureCollector } from '@/core/checks/features';
import { measureSource } from '@/core/loudness/measure-source';
import { type Context, processOf } from '@/core/matching/contexts';
import { alignAll, inMemory } from '@/core/matching/align';
import { matchAligned } from '@/core/matching/match';
import { MILD_PROCESSING } from '@/core/processing/settings';
import { readAt } from '@/core/signal/interpolation';
import { Random } from '@/core/signal/random';
import { soundOf } from '@/core/signal/sound';
import { clipSpectra } from '@/core/spectrum/clip-spectra';
import { DEFAULT_TONE_MATCH } from '@/core/spectrum/tone-match';
import { FloatClip } from '@/core/wav/float-clip';
import { bytesSource } from '@/core/wav/format';
import { readWavHeader } from '@/core/wav/read';
import { encodeWav } from '@/core/wav/write';

const RATE = 48000;
const MINUTES = 10;
const SECONDS = 30;
const TAKES = 8;

function performance(seconds: number, seed: number): Float64Array {
  const random = new Random(seed);
  let low = 0;
  return Float64Array.from({ length: seconds * RATE }, (_, n) => {
    low = 0.93 * low + 0.07 * random.normal();
    return low * (0.5 + 0.4 * Math.sin(n / 30000)) * 0.5;
  });
}

const seconds = (since: bigint) => Number(process.hrtime.bigint() - since) / 1e9;

/** Loudness, peaks, checks and spectra of a long take, as a multiple of its length. */
async function analysis(): Promise<void> {
  const source = bytesSource(encodeWav([performance(60 * MINUTES, 1)], RATE, 24));
  const ratios: number[] = [];
  for (let round = 0; round < 3; round++) {
    const began = process.hrtime.bigint();
    const header = await readWavHeader(source);
    const collector = new FeatureCollector(RATE, header.frames);
    await measureSource(source, header, (block) => collector.push(block));
    collector.finish();
    ratios.push((60 * MINUTES) / seconds(began));
  }
  console.log(
    `analysis of ${MINUTES} min, one thread: ${Math.max(...ratios).toFixed(0)} times real time ` +
      `(${ratios.map((ratio) => ratio.toFixed(0)).join(', ')})`,
  );
}

/** A set in every context, matched and verified. */
async function contexts(): Promise<void> {
  const music = performance(SECONDS, 2);
  const backing = soundOf([performance(SECONDS + 2, 3)]);
  const takes = Array.from({ length: TAKES }, (_, i) => ({
    name: `take ${i}`,
    sound: soundOf([readAt(music, -13.3 * i, music.length).map((x) => (0.4 + 0.1 * i) * x)]),
    alignment: { by: 'performance' as const },
  }));
  const all: Context[] = [
    { kind: 'raw' },
    { kind: 'alike', settings: MILD_PROCESSING },
    { kind: 'tailored', settings: takes.map(() => MILD_PROCESSING) },
    { kind: 'mix', backing, balanceDb: 0 },
    { kind: 'toned', settings: DEFAULT_TONE_MATCH },
  ];
  const total = process.hrtime.bigint();
  // As the worker does: takes are laid onto the reference once for all contexts.
  const plan = { sampleRateHz: RATE, takes, reference: 0, withTone: false, withLoudness: true };
  const aligned = await alignAll(plan, inMemory(RATE));
  console.log(`  aligned: ${seconds(total).toFixed(2)} s`);
  for (const context of all) {
    const began = process.hrtime.bigint();
    const { clips } = matchAligned(
      {
        sampleRateHz: RATE,
        takes,
        reference: 0,
        method: 'loudness',
        process: processOf(context, RATE),
        fadeS: 0.01,
        seed: 1,
      },
      aligned,
      (index) => {
        const { sound, lead } = aligned[index]!;
        return FloatClip.empty(sound.channels, sound.frames - lead, RATE);
      },
    );
    const sounds = clips.map(({ sound }) => sound);
    clipSpectra(sounds[0]!, sounds, RATE);
    console.log(`  ${context.kind}: ${seconds(began).toFixed(2)} s`);
  }
  console.log(
    `${TAKES} takes of ${SECONDS} s in five contexts, one thread: ${seconds(total).toFixed(1)} s`,
  );
}

void (process.argv[2] === 'contexts' ? contexts() : analysis().then(contexts));
