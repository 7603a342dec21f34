import fc from 'fast-check';
import { bytesSource, WavError } from './format';
import { decodeWav, readFrames, readWavHeader } from './read';
import { encodeWav } from './write';
import { Random } from '@/core/signal/random';

/** Builds a file chunk by chunk, independent of the writer. */
function chunk(id: string, body: Uint8Array | number[], size = body.length): number[] {
  const padded = [...body, ...(body.length % 2 ? [0] : [])];
  return [...Buffer.from(id), ...u32(size), ...padded];
}
const u16 = (x: number) => [x & 255, (x >> 8) & 255];
const u32 = (x: number) => [...u16(x & 0xffff), ...u16(Math.floor(x / 65536))];

function fmt(
  tag: number,
  channels: number,
  rate: number,
  bits: number,
  more: number[] = [],
): number[] {
  const align = (channels * bits) / 8;
  return chunk('fmt ', [
    ...u16(tag),
    ...u16(channels),
    ...u32(rate),
    ...u32(rate * align),
    ...u16(align),
    ...u16(bits),
    ...more,
  ]);
}

function riff(chunks: number[][], outer = 'RIFF', size?: number): Uint8Array {
  const body = [...Buffer.from('WAVE'), ...chunks.flat()];
  return Uint8Array.from([...Buffer.from(outer), ...u32(size ?? body.length), ...body]);
}

async function failure(bytes: Uint8Array): Promise<WavError> {
  try {
    await decodeWav(bytes);
  } catch (error) {
    if (error instanceof WavError) return error;
    throw error;
  }
  throw new Error('was read without complaint');
}

describe('reading', () => {
  it('reads 16, 24 and 32-bit integers and both floats', async () => {
    const float32 = new Uint8Array(new Float32Array([0.5, -1.25]).buffer);
    const float64 = new Uint8Array(new Float64Array([0.5, -1.25]).buffer);
    const cases: [number, number, number[], number[]][] = [
      [1, 16, [0, 0x40, 0, 0x80], [0.5, -1]],
      [1, 24, [0, 0, 0x40, 0, 0, 0x80], [0.5, -1]],
      [1, 32, [0, 0, 0, 0x40, 0, 0, 0, 0x80], [0.5, -1]],
      [3, 32, [...float32], [0.5, -1.25]],
      [3, 64, [...float64], [0.5, -1.25]],
    ];
    for (const [tag, bits, data, want] of cases) {
      const { channels } = await decodeWav(riff([fmt(tag, 1, 44100, bits), chunk('data', data)]));
      expect([...channels[0]!]).toEqual(want);
    }
  });

  it('reads the extensible format with its speaker mask', async () => {
    const more = [...u16(22), ...u16(24), ...u32(0x3), ...u16(1), ...new Array<number>(14).fill(0)];
    const { header } = await decodeWav(
      riff([fmt(0xfffe, 2, 96000, 24, more), chunk('data', new Array<number>(12).fill(1))]),
    );
    expect(header.format).toEqual({
      sampleRateHz: 96000,
      channels: 2,
      bitDepth: 24,
      encoding: 'pcm',
      channelMask: 3,
    });
    expect(header.frames).toBe(2);
  });

  it('passes over unknown and odd-sized chunks and keeps what bext and LIST say', async () => {
    const bext = new Uint8Array(602);
    bext.set(Buffer.from('Strophe 2, zweiter Take'));
    bext.set(Buffer.from('2026-05-04'), 320);
    bext.set(Buffer.from('11:22:33'), 330);
    bext.set(u32(48000 * 60), 338);
    const info = [...Buffer.from('INFO'), ...chunk('INAM', [...Buffer.from('Prüfton'), 0])];
    const { header } = await decodeWav(
      riff([
        chunk('junk', [1, 2, 3]),
        chunk('bext', bext),
        fmt(1, 1, 48000, 16),
        chunk('LIST', info),
        chunk('odd!', [7]),
        chunk('data', [1, 0, 2, 0]),
      ]),
    );
    expect(header.frames).toBe(2);
    expect(header.metadata).toMatchObject({
      description: 'Strophe 2, zweiter Take',
      originationDate: '2026-05-04',
      originationTime: '11:22:33',
      timeReferenceSamples: 2880000,
      info: { INAM: 'Prüfton' },
    });
  });

  it.each(['RF64', 'BW64'])('takes the 64-bit sizes of %s', async (outer) => {
    const ds64 = chunk('ds64', [
      ...u32(100),
      ...u32(0),
      ...u32(4),
      ...u32(0),
      ...u32(2),
      ...u32(0),
      ...u32(0),
    ]);
    const bytes = riff(
      [
        ds64,
        fmt(1, 1, 48000, 16),
        [...Buffer.from('data'), ...u32(0xffffffff), 1, 0, 2, 0],
        chunk('junk', [9, 9]),
      ],
      outer,
      0xffffffff,
    );
    expect((await decodeWav(bytes)).header.frames).toBe(2);
  });

  it('reads what is there of a file cut short, and says so', async () => {
    const whole = riff([fmt(1, 2, 48000, 24), chunk('data', new Array<number>(600).fill(3))]);
    const { header, channels } = await decodeWav(whole.subarray(0, whole.length - 301));
    expect(channels[0]!.length).toBe(49);
    expect(header.warnings.join()).toContain('cut short: 299 of 600 bytes');
  });

  it('reads a stretch without the rest', async () => {
    const bytes = encodeWav([Float64Array.from({ length: 100 }, (_, n) => n / 128)], 8000, 16);
    const source = bytesSource(bytes);
    const header = await readWavHeader(source);
    const samples = (await readFrames(source, header, 10, 12))[0]!;
    expect([...samples]).toEqual([10 / 128, 11 / 128]);
  });
});

describe('malformed files', () => {
  const good = fmt(1, 1, 48000, 16);

  it.each<[string, Uint8Array, string, number]>([
    ['nothing', new Uint8Array(0), 'empty', 0],
    ['text', Buffer.from('hello, this is no sound'), 'not a WAV file', 0],
    [
      'another RIFF',
      Uint8Array.from([...Buffer.from('RIFF'), ...u32(4), ...Buffer.from('AVI ')]),
      'WAVE',
      8,
    ],
    ['no format', riff([chunk('data', [0, 0])]), 'no format', 22],
    ['no samples', riff([good]), 'no samples', 36],
    ['a short format', riff([chunk('fmt ', [1, 0, 1, 0])]), '16 needed', 12],
    ['zero channels', riff([fmt(1, 0, 48000, 16), chunk('data', [0, 0])]), 'zero channels', 22],
    ['zero rate', riff([fmt(1, 1, 0, 16), chunk('data', [0, 0])]), 'rate of zero', 24],
    ['coded sound', riff([fmt(85, 2, 48000, 16), chunk('data', [0, 0])]), 'coded (format 85)', 20],
    ['12 bits', riff([fmt(1, 1, 48000, 8), chunk('data', [0, 0])]), 'cannot be read', 32],
  ])('%s: one clear error', async (_, bytes, message, at) => {
    const error = await failure(bytes);
    expect(error.message).toContain(message);
    expect(error.byteOffset).toBe(at);
  });

  it('never crashes, hangs or asks for absurd memory, whatever the bytes', async () => {
    const seedFile = riff([
      fmt(1, 2, 48000, 16),
      chunk('LIST', [...Buffer.from('INFO')]),
      chunk('data', [1, 2, 3, 4]),
    ]);
    await fc.assert(
      fc.asyncProperty(
        fc.array(fc.tuple(fc.nat(seedFile.length - 1), fc.nat(255)), { maxLength: 12 }),
        fc.nat(seedFile.length),
        async (changes, length) => {
          const bytes = Uint8Array.from(seedFile.subarray(0, length));
          for (const [at, value] of changes) if (at < length) bytes[at] = value;
          const outcome = await decodeWav(bytes).catch((error: unknown) => error);
          if (outcome instanceof Error) expect(outcome).toBeInstanceOf(WavError);
        },
      ),
      { numRuns: 400 },
    );
  });
});

describe('writing', () => {
  it('comes back the same within half a step', async () => {
    const samples = Float64Array.from({ length: 999 }, (_, n) => Math.sin(n) * 0.99);
    for (const [depth, step] of [
      [16, 2 ** -15],
      [24, 2 ** -23],
      ['32f', 2 ** -24],
    ] as const) {
      const { channels } = await decodeWav(encodeWav([samples], 44100, depth));
      const worst = Math.max(...channels[0]!.map((x, n) => Math.abs(x - samples[n]!)));
      expect(worst).toBeLessThanOrEqual(step / 2 + 1e-12);
    }
  });

  it('stops at full scale', async () => {
    const { channels } = await decodeWav(encodeWav([Float64Array.from([2, -2])], 48000, 24));
    expect([...channels[0]!]).toEqual([1 - 2 ** -23, -1]);
  });

  it('dithers with triangular noise: no distortion, variance a quarter of a step squared', async () => {
    const level = 0.3 * 2 ** -15;
    const { channels } = await decodeWav(
      encodeWav([new Float64Array(200000).fill(level)], 48000, 16, [new Random(1)]),
    );
    const mean = channels[0]!.reduce((a, b) => a + b, 0) / 200000;
    const variance = channels[0]!.reduce((a, b) => a + (b - mean) ** 2, 0) / 200000;
    expect(mean / 2 ** -15).toBeCloseTo(0.3, 1);
    // Triangular dither plus rounding makes the error variance 1/4 step², whatever the signal.
    expect(variance / 2 ** -30).toBeCloseTo(0.25, 1);
  });

  it('differs in nothing but samples between dithers', () => {
    const samples = Float64Array.from({ length: 500 }, (_, n) => Math.sin(n / 9) / 3);
    const [a, b] = [1, 2].map((seed) => encodeWav([samples], 48000, 24, [new Random(seed)]));
    expect(a!.length).toBe(b!.length);
    expect([...a!.subarray(0, 44)]).toEqual([...b!.subarray(0, 44)]);
    expect([...a!]).not.toEqual([...b!]);
  });

  it('refuses channels of different length', () => {
    expect(() => encodeWav([new Float64Array(2), new Float64Array(3)], 48000, 24)).toThrow(
      RangeError,
    );
  });
});
