import { closeSync, mkdtempSync, openSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { inMemory } from '@/core/matching/align';
import { matchClips } from '@/core/matching/match';
import { roundedWav } from '@/core/matching/rounded';
import { readAt } from '@/core/signal/interpolation';
import { framesOf, soundOf } from '@/core/signal/sound';
import { xorshiftNoise } from '@/core/test/signals';
import { FloatClip } from '@/core/wav/float-clip';
import { bytesSource } from '@/core/wav/format';
import { decodeWav, readWavHeader } from '@/core/wav/read';
import { encodeWav } from '@/core/wav/write';
import { FileClip, soundInFile } from './sound-file';

const FRAMES = 50_000;
const stereo = [xorshiftNoise(1, 0.4, FRAMES), xorshiftNoise(2, 0.4, FRAMES)];
/** Stretches that lie before, in, over the edges of and after the sound, in no order. */
const STRETCHES: [number, number][] = [
  [-100, 200],
  [40_000, 3000],
  [17, 2048],
  [49_900, 400],
  [0, FRAMES],
  [60_000, 10],
];

let folder: string;
beforeAll(() => {
  folder = mkdtempSync(path.join(os.tmpdir(), 'zeitbank-sound-'));
});
afterAll(() => rmSync(folder, { recursive: true }));

it('reads a file stretch by stretch as it decodes as a whole', async () => {
  const bytes = encodeWav(stereo, 48000, 24);
  const file = path.join(folder, 'take.wav');
  writeFileSync(file, bytes);
  const fd = openSync(file, 'r');
  const sound = soundInFile(fd, await readWavHeader(bytesSource(bytes)));
  const whole = soundOf((await decodeWav(bytes)).channels);
  expect([sound.channels, sound.frames]).toEqual([2, FRAMES]);
  for (const [from, length] of STRETCHES) {
    expect(framesOf(sound, from, length)).toEqual(framesOf(whole, from, length));
  }
  closeSync(fd);
});

it('keeps a clip in a file that no folder shows, as one in memory is kept', () => {
  const file = new FileClip(folder, 2, FRAMES);
  const memory = FloatClip.empty(2, FRAMES, 48000);
  expect(readdirSync(folder).filter((name) => name !== 'take.wav')).toEqual([]);
  expect(framesOf(file, 100, 50)[1]).toEqual(new Float64Array(50));
  for (const clip of [file, memory]) {
    // Written where it was just read, as a clip is that is worked on in place.
    for (let at = 0; at < FRAMES; at += 1000) {
      framesOf(clip, at, 1000);
      clip.write(
        at,
        stereo.map((samples) => samples.subarray(at, at + 1000)),
      );
    }
  }
  for (const [from, length] of STRETCHES) {
    expect(framesOf(file, from, length)).toEqual(framesOf(memory, from, length));
  }
  file.close();
});

it('lets the same set be made in files', async () => {
  const noise = xorshiftNoise(4, 0.2, 48000 * 2);
  const late = readAt(noise, -300.4, noise.length).map((x) => -0.3 * x);
  const plan = {
    sampleRateHz: 48000,
    takes: [noise, late].map((samples, i) => ({
      name: `take ${i}`,
      sound: soundOf([samples]),
      alignment: { by: 'performance' as const },
    })),
    reference: 0,
    method: 'loudness' as const,
    fadeS: 0.01,
    seed: 1,
  };
  const files: FileClip[] = [];
  const { clips } = await matchClips(plan, (channels, frames) => {
    const file = new FileClip(folder, channels, frames);
    files.push(file);
    return file;
  });
  const whole = await matchClips(plan, inMemory(48000));
  for (const [i, { sound, ditherSeed }] of clips.entries()) {
    const other = whole.clips[i]!;
    expect(roundedWav(sound, 48000, ditherSeed)).toEqual(
      roundedWav(other.sound, 48000, other.ditherSeed),
    );
  }
  files.forEach((file) => file.close());
});
