import { spawnSync } from 'node:child_process';
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { measure } from '@/core/loudness/meter';
import { readAt } from '@/core/signal/interpolation';
import { resample } from '@/core/signal/resample';
import { sine, xorshiftNoise } from '@/core/test/signals';
import { decodeWav } from '@/core/wav/read';
import { encodeWav } from '@/core/wav/write';

const CLI = path.join(process.cwd(), 'dist/cli.cjs');
const STATISTICS = path.join(process.cwd(), 'conformance/statistics');
let folder: string;

beforeAll(() => {
  folder = mkdtempSync(path.join(os.tmpdir(), 'zeitbank cli ü '));
});
afterAll(() => rmSync(folder, { recursive: true }));

function run(...args: string[]): { status: number | null; out: string; err: string } {
  const done = spawnSync(process.execPath, [CLI, ...args], { cwd: folder, encoding: 'utf8' });
  return { status: done.status, out: done.stdout, err: done.stderr };
}

function put(name: string, bytes: Uint8Array): string {
  writeFileSync(path.join(folder, name), bytes);
  return name;
}

/** Bad input: exit 2, nothing but one line on standard error. */
function expectRefusal(done: ReturnType<typeof run>, text: string | RegExp): void {
  expect(done.status).toBe(2);
  expect(done.err.trim().split('\n').length).toBe(1);
  expect(done.err).toMatch(text);
  expect(done.err).not.toMatch(/\bat .*\.(c?js|ts):/);
}

const noise = xorshiftNoise(5, 0.3, 96000);

describe('measure', () => {
  it('prints the fields of the contract, in numbers that the standard fixes', () => {
    const file = put(
      'tone.wav',
      encodeWav([sine(997, 48000, 4, 1), sine(997, 48000, 4, 1)], 48000, 24),
    );
    const done = run('measure', file, '--json');
    expect(done.status).toBe(0);
    const row = (JSON.parse(done.out) as Record<string, number>[])[0]!;
    expect(Object.keys(row)).toEqual([
      'file',
      'sampleRateHz',
      'channels',
      'bitDepth',
      'durationS',
      'integratedLufs',
      'momentaryMaxLufs',
      'shortTermMaxLufs',
      'loudnessRangeLu',
      'truePeakDbtp',
      'samplePeakDbfs',
      'rmsDbfs',
      'dcOffset',
      'clippedSamples',
    ]);
    // A full-scale 997 Hz sine in both front channels reads 0.0 LUFS; its RMS is -3.01.
    expect(row.integratedLufs).toBeCloseTo(0, 1);
    expect(row.rmsDbfs).toBeCloseTo(-3.01, 2);
    expect(row.durationS).toBe(4);
  });

  it('gives null where nothing is defined', () => {
    const file = put('silence.wav', encodeWav([new Float64Array(4800)], 48000, 16));
    const [row] = JSON.parse(run('measure', '--json', file).out) as Record<string, unknown>[];
    expect(row).toMatchObject({
      integratedLufs: null,
      truePeakDbtp: null,
      rmsDbfs: null,
      clippedSamples: 0,
    });
  });

  it('reports the good and names the bad', () => {
    const good = put('good.wav', encodeWav([noise], 48000, 24));
    const bad = put('bad.wav', Buffer.from('RIFF....WAVEjunk'));
    const done = run('measure', good, bad, 'missing.wav', '--json');
    expectRefusal(done, /bad\.wav: .*\(at byte \d+\); missing\.wav: there is no such file/);
    const rows = JSON.parse(done.out) as { file: string; error?: string }[];
    expect(rows.map(({ file }) => file)).toEqual([good, bad, 'missing.wav']);
    expect(rows[0]!.error).toBeUndefined();
    expect(rows[1]!.error).toContain('no format chunk');
  });

  it('takes names that look like options after --', () => {
    put('--json', encodeWav([noise], 48000, 24));
    const done = run('measure', '--', '--json');
    expect(done.status).toBe(0);
    expect(done.out).toContain('LUFS');
  });

  it.each([
    [['measure'], 'name at least one WAV file'],
    [['measure', '--loud'], "Unknown option '--loud'"],
    [['measure', '.'], 'this is a folder'],
    [['paint'], 'there is no command "paint"'],
  ])('refuses %j', (args, text) => expectRefusal(run(...args), text));
});

describe('packed takes', () => {
  const flac = readFileSync(path.join(process.cwd(), 'src/steps/test/noise.flac'));

  it('are measured as the WAV they stand for, and leave nothing behind', () => {
    put('packed.flac', flac);
    put('plain.wav', encodeWav([xorshiftNoise(21, 0.5, 12000)], 48000, 24));
    const before = readdirSync(os.tmpdir());
    const done = run('measure', 'packed.flac', 'plain.wav', '--json');
    expect(done).toMatchObject({ status: 0, err: '' });
    const [packed, plain] = JSON.parse(done.out) as Record<string, unknown>[];
    expect({ ...packed, file: '' }).toEqual({ ...plain, file: '' });
    expect(readdirSync(os.tmpdir()).filter((name) => !before.includes(name))).toEqual([]);
  });

  it('that are damaged or cut short are refused in one line', () => {
    put('short.flac', flac.subarray(0, flac.length - 400));
    put('head.flac', flac.subarray(0, 20));
    const broken = Buffer.from(flac);
    broken.fill(0x55, 9000, 9300);
    put('broken.flac', broken);
    for (const name of ['short.flac', 'head.flac', 'broken.flac']) {
      expectRefusal(run('measure', name), /FLAC file (is damaged|is cut short)/);
      expectRefusal(run('match', '--out', 'never', name), `${name}: the FLAC file`);
    }
    expect(readdirSync(folder)).not.toContain('never');
  });
});

describe('compare', () => {
  it('prints delay, polarity, level and thirds of an octave', () => {
    const ref = put('ref.wav', encodeWav([noise], 48000, '32f'));
    const late = readAt(noise, -12, noise.length).map((x) => -0.5 * x);
    const other = put('other.wav', encodeWav([late], 48000, '32f'));
    const done = run('compare', ref, other, '--json');
    expect(done.status).toBe(0);
    const found = JSON.parse(done.out) as Record<string, unknown> & {
      delaySamples: number;
      broadbandDb: number;
      bands: { centerHz: number; differenceDb: number; coherence: number }[];
    };
    expect(Object.keys(found)).toEqual([
      'delaySamples',
      'polarityInverted',
      'broadbandDb',
      'bands',
    ]);
    expect(found.delaySamples).toBeCloseTo(12, 1);
    expect(found.polarityInverted).toBe(true);
    expect(found.broadbandDb).toBeCloseTo(-6.02, 1);
    expect(found.bands.length).toBe(30);
    expect(found.bands[16]!.differenceDb).toBeCloseTo(-6.02, 1);
    expect(run('compare', ref, other).out).toMatch(/12\.00 samples late, polarity inverted/);
  });

  it('brings another rate to the one of the reference, and says so beside the result', () => {
    const ref = put('ref.wav', encodeWav([noise], 48000, '32f'));
    const slow = put('slow.wav', encodeWav([resample(noise, 48000, 44100)], 44100, '32f'));
    const done = run('compare', ref, slow, '--json');
    expect(done).toMatchObject({ status: 0, err: expect.stringContaining('44100 Hz') as string });
    const { delaySamples, bands } = JSON.parse(done.out) as {
      delaySamples: number;
      bands: { centerHz: number; differenceDb: number }[];
    };
    expect(delaySamples).toBeCloseTo(0, 2);
    for (const { centerHz, differenceDb } of bands) {
      if (centerHz <= 16000) expect(Math.abs(differenceDb)).toBeLessThan(0.05);
    }
  });

  it('warns of two performances, and keeps the warning out of the result', () => {
    const ref = put('ref.wav', encodeWav([noise], 48000, 24));
    const other = put('stranger.wav', encodeWav([xorshiftNoise(77, 0.3, 96000)], 48000, 24));
    const done = run('compare', ref, other, '--json');
    expect(done.status).toBe(0);
    expect(done.err.trim().split('\n')).toEqual([
      expect.stringContaining('do not look like the same performance'),
    ]);
    expect(Object.keys(JSON.parse(done.out) as object)).toHaveLength(4);
    expect(run('compare', ref, ref).err).toBe('');
  });

  it('refuses in one line what cannot be compared', () => {
    const ref = put('ref.wav', encodeWav([noise], 48000, 24));
    expectRefusal(run('compare', ref), /two WAV files are needed.*1 given/);
    expectRefusal(run('compare', ref, 'not-here.wav'), /not-here\.wav: there is no such file/);
    expectRefusal(
      run('compare', ref, put('s.wav', encodeWav([noise, noise], 48000, 24))),
      /2 channels/,
    );
    expectRefusal(
      run('compare', ref, put('z.wav', encodeWav([new Float64Array(96000)], 48000, 24))),
      /silent/,
    );
  });
});

describe('match', () => {
  const late = readAt(noise, -100.25, noise.length).map((x) => -0.5 * x);

  it('writes aligned clips of one loudness, and says what it did', async () => {
    const files = [
      put('one.wav', encodeWav([noise], 48000, 24)),
      put('two.wav', encodeWav([late], 48000, 24)),
    ];
    const done = run('match', '--out', 'clips', ...files, '--json');
    expect(done.err).toBe('');
    const result = JSON.parse(done.out) as {
      method: string;
      targetLufs: number;
      worstResidualLu: number;
      clips: Record<string, number | boolean | string>[];
    };
    expect(Object.keys(result)).toEqual(['method', 'targetLufs', 'clips', 'worstResidualLu']);
    expect(result.clips[1]!.delaySamples).toBeCloseTo(100.25, 1);
    expect(result.clips[1]!.polarityInverted).toBe(true);
    expect(result.worstResidualLu).toBeLessThan(0.05);
    const levels: number[] = [];
    for (const { out } of result.clips) {
      const { header, channels } = await decodeWav(readFileSync(path.join(folder, String(out))));
      const measured = measure(channels, header.format);
      expect(header.format.bitDepth).toBe(24);
      expect(header.frames).toBe(noise.length);
      expect(measured.truePeakDbtp).toBeLessThanOrEqual(-1 + 1e-6);
      levels.push(measured.integratedLufs ?? 0);
    }
    expect(Math.abs(levels[0]! - levels[1]!)).toBeLessThan(0.05);
    expect(levels[0]).toBeCloseTo(result.targetLufs, 1);
  });

  it('brings takes of other rates to the one of the reference, and says which', async () => {
    put('fast.wav', encodeWav([noise], 48000, '32f'));
    put('other rate.wav', encodeWav([resample(noise, 48000, 44100)], 44100, '32f'));
    const done = run('match', '--out', 'rates', 'fast.wav', 'other rate.wav', '--json');
    expect(done.status).toBe(0);
    const { clips, worstResidualLu } = JSON.parse(done.out) as {
      clips: { out: string; delaySamples: number; resampledFromHz?: number }[];
      worstResidualLu: number;
    };
    expect(clips.map(({ resampledFromHz }) => resampledFromHz)).toEqual([undefined, 44100]);
    expect(clips[1]!.delaySamples).toBeCloseTo(0, 2);
    expect(worstResidualLu).toBeLessThan(0.05);
    const [fast, slow] = await Promise.all(
      clips.map(async ({ out }) => decodeWav(readFileSync(path.join(folder, out)))),
    );
    expect(slow!.header.format.sampleRateHz).toBe(48000);
    expect(slow!.channels[0]).toHaveLength(fast!.channels[0]!.length);
    const human = run('match', '--out', 'rates', '--force', 'fast.wav', 'other rate.wav');
    expect(human.out).toContain('from 44100 Hz');
  });

  it('never overwrites unless told to', () => {
    expectRefusal(
      run('match', '--out', 'clips', 'one.wav', 'two.wav'),
      'is there already; --force',
    );
    expect(run('match', '--out', 'clips', '--force', 'one.wav', 'two.wav').status).toBe(0);
    expectRefusal(run('match', '--out', '.', '--force', 'one.wav'), 'written over the take');
  });

  it('takes a target, and says by how much one would clip', async () => {
    expect(run('match', '--out', 'quiet', '--target', '-30', 'one.wav', 'two.wav').status).toBe(0);
    const { header, channels } = await decodeWav(readFileSync(path.join(folder, 'quiet/two.wav')));
    expect(measure(channels, header.format).integratedLufs).toBeCloseTo(-30, 1);
    expectRefusal(
      run('match', '--out', 'loud', '--target=-3', 'one.wav'),
      /would take the peak of one\.wav \d+\.\d dB over/,
    );
    expect(readdirSync(folder)).not.toContain('loud');
  });

  it('refuses what is no set, and writes nothing', () => {
    put('other.wav', encodeWav([xorshiftNoise(99, 0.3, 96000)], 48000, 24));
    put('wide.wav', encodeWav([noise, noise], 48000, 24));
    const attempt = (...args: string[]) => run('match', '--out', 'none', ...args);
    expectRefusal(attempt('one.wav', 'other.wav'), 'do not look like the same performance');
    expectRefusal(attempt('one.wav', 'wide.wav'), 'compare mono with mono');
    expectRefusal(attempt('--method', 'tone', 'one.wav'), 'carries no 1 kHz tone');
    expectRefusal(attempt('--method', 'ear', 'one.wav'), 'the method "ear" is not');
    expectRefusal(attempt('--target', 'loud', 'one.wav'), 'is not a number of LUFS');
    expectRefusal(run('match', 'one.wav'), 'say where to with --out');
    expect(readdirSync(folder)).not.toContain('none');
  });
});

describe('analyze', () => {
  it('gives the same bytes for the same seed, and another seed changes the bootstrap only', () => {
    const file = path.join(STATISTICS, '02-pair-ties.csv');
    const [a, b, c] = ['1', '1', '7'].map(
      (seed) => run('analyze', file, '--json', '--seed', seed).out,
    ) as [string, string, string];
    expect(a).toBe(b);
    const without = (text: string) => {
      const document = JSON.parse(text) as { pair: { bootstrap: unknown } };
      document.pair.bootstrap = null;
      return document;
    };
    expect(c).not.toBe(a);
    expect(without(c)).toEqual(without(a));
  });

  const malformed = JSON.parse(
    readFileSync(path.join(STATISTICS, 'malformed/cases.json'), 'utf8'),
  ) as { cases: { file: string; row?: number | null }[] } | { file: string; row?: number | null }[];
  const cases = Array.isArray(malformed) ? malformed : malformed.cases;

  it.each(cases.map((c) => [c.file, c.row] as const))('refuses %s', (file, row) => {
    const done = run('analyze', path.join(STATISTICS, 'malformed', file), '--json');
    expectRefusal(done, row ? `row ${row}` : file);
    expect(done.out).toBe('');
  });

  it('opens the answers of a blind pack by its key', () => {
    const clips = [
      { word: 'Kiln', chain: 'Halde T2', sha256: 'a'.repeat(64) },
      { word: 'Brook', chain: 'Kern 40', sha256: 'b'.repeat(64) },
    ];
    const key = { document: 'zeitbank blind pack key 2', pack: 'one', clips, nonce: 'n' };
    put('key.json', Buffer.from(JSON.stringify(key)));
    put(
      'sheet.csv',
      Buffer.from('listener,first,second,choice\nAda,Kiln,brook,Kiln\nBen,Brook,Kiln,Kiln\n'),
    );
    const { out } = run('analyze', 'sheet.csv', '--key', 'key.json', '--json');
    const { pair } = JSON.parse(out) as { pair: { pairs: unknown[] } };
    expect(pair.pairs).toMatchObject([
      { a: 'Halde T2', b: 'Kern 40', aWins: 2, bWins: 0, ties: 0 },
    ]);
    expect(run('read', 'sheet.csv', '--key', 'key.json').out).toContain('2 answers of 2 listeners');
    put('odd.csv', Buffer.from('listener,first,second,choice\nAda,Kiln,Moss,Kiln\n'));
    expectRefusal(run('analyze', 'odd.csv', '--key', 'key.json'), 'row 2');
    expectRefusal(run('analyze', 'sheet.csv', '--key', 'sheet.csv'), 'not the key of a blind pack');
    expectRefusal(run('analyze', 'sheet.csv', '--key', 'nowhere.json'), 'there is no such file');
  });

  it('refuses what is not there, is empty, or has an odd seed', () => {
    expectRefusal(run('analyze', 'nowhere.csv'), 'there is no such file');
    put('empty.csv', Buffer.alloc(0));
    expectRefusal(run('analyze', 'empty.csv'), 'the file is empty');
    expectRefusal(run('analyze', 'empty.csv', '--seed', '1.5'), 'not a whole number');
    expectRefusal(run('analyze'), 'name one results file');
  });

  it('speaks plainly without --json', () => {
    const done = run('analyze', path.join(STATISTICS, '01-pair-no-ties.csv'));
    expect(done.out).toMatch(/answers of \d+ listeners on \d+ chains/);
    expect(done.out).toMatch(/no chain differs: p = /);
  });
});
