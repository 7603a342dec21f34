import { aWeightingDb } from '@/core/signal/a-weighting';
import { THIRD_OCTAVES } from '@/core/spectrum/bands';
import { sine, xorshiftNoise } from '@/core/test/signals';
import { type BaselineTake, takeBaseline, takeDifference } from './baseline';
import { FeatureCollector } from './features';
import { matchPattern, patternFault, readName } from './naming';
import { detailsOf, plannedFault, programmeLabel } from './programme';
import { programmeNumbers, type ProgrammeTake } from './programme-numbers';
import { logRemarks } from './run-log';

const RATE = 48000;

function featuresOf(samples: Float64Array) {
  const collector = new FeatureCollector(RATE, samples.length);
  for (let at = 0; at < samples.length; at += 9000) {
    collector.push([samples.subarray(at, at + 9000)]);
  }
  return collector.finish();
}

/** Without the click of a beginning and an end that are cut. */
function faded(samples: Float64Array): Float64Array {
  const length = RATE;
  return samples.map((x, n) => {
    const edge = Math.min(1, n / length, (samples.length - 1 - n) / length);
    return x * Math.sin((Math.PI / 2) * edge) ** 2;
  });
}

describe('spectrum of a take, block by block', () => {
  it('puts a sine into its third, and weighs it', () => {
    const { thirdsDb, aWeightedDbfs, below120Dbfs } = featuresOf(faded(sine(100, RATE, 8, 0.5)));
    const at = (hz: number) =>
      thirdsDb?.[THIRD_OCTAVES.findIndex((b) => b.centerHz === hz)] ?? -999;
    // A second at each end fades: of eight seconds 2 · ⅜ and six stay.
    const level = -9.03 + 10 * Math.log10((6 + 2 * 0.375) / 8);
    expect(at(100)).toBeCloseTo(level, 1);
    expect(at(1000)).toBeLessThan(-90);
    expect(aWeightedDbfs).toBeCloseTo(level + aWeightingDb(100), 1);
    expect(below120Dbfs).toBeCloseTo(level, 1);
  });

  it('gives white noise its power in all', () => {
    const { thirdsDb } = featuresOf(xorshiftNoise(9, 0.5, RATE * 20));
    const at1k = thirdsDb?.[THIRD_OCTAVES.findIndex((b) => b.centerHz === 1000)] ?? 0;
    expect(at1k).toBeCloseTo(10 * Math.log10((230.77 / 24000) * (0.25 / 3)), 0);
  });
});

const flat = (db: number) => THIRD_OCTAVES.map(() => db);
const take = (programme: string, change: Partial<ProgrammeTake> = {}): ProgrammeTake => ({
  chain: 'Kern 40',
  programme,
  detail: '',
  loudnessLufs: -23,
  rmsDbfs: -25,
  truePeakDbtp: -9,
  thirdsDb: flat(-40),
  aWeightedDbfs: -27,
  below120Dbfs: -40,
  ...change,
});

describe('numbers of the test programme', () => {
  it('sets the noise floor at matched loudness: a chain that needs 6 dB more has 6 dB more noise', () => {
    const [kern, moor] = programmeNumbers([
      take('performance', { loudnessLufs: -20 }),
      take('room', { rmsDbfs: -70, aWeightedDbfs: -78 }),
      take('performance', { chain: 'Moor D1', loudnessLufs: -26 }),
      take('room', { chain: 'Moor D1', rmsDbfs: -72, aWeightedDbfs: -80 }),
    ]);
    expect(kern!.room).toMatchObject({ flatDb: -70, aWeightedDb: -78, matchedADb: -78 });
    expect(moor).toMatchObject({ makeUpDb: 6 });
    expect(moor!.room).toMatchObject({ flatDb: -72, matchedFlatDb: -66, matchedADb: -74 });
    expect(moor!.resistor).toBeNull();
  });

  it('tells drop and colour off axis band by band', () => {
    const side = flat(-46).map((db, i) => (THIRD_OCTAVES[i]!.centerHz >= 8000 ? db - 9 : db));
    const { offAxis } = programmeNumbers([
      take('off-axis', { detail: '0' }),
      take('off-axis', { detail: '90', rmsDbfs: -31, thirdsDb: side }),
    ])[0]!;
    expect(offAxis).toHaveLength(1);
    expect(offAxis[0]).toMatchObject({ detail: '90', overallDb: -6 });
    expect(offAxis[0]!.thirdsDb[0]).toBe(-6);
    expect(offAxis[0]!.thirdsDb.at(-1)).toBe(-15);
  });

  it('tells the low-end rise by distance against the furthest', () => {
    const near = flat(-40).map((db, i) => (THIRD_OCTAVES[i]!.centerHz <= 200 ? db + 8 : db));
    const { lowRise } = programmeNumbers([
      take('distance', { detail: '120' }),
      take('distance', { detail: '7', thirdsDb: near }),
    ])[0]!;
    expect(lowRise.map(({ detail }) => detail)).toEqual(['7', '120']);
    expect(lowRise[0]!.db).toBeCloseTo(8, 9);
    expect(lowRise[1]!.db).toBe(0);
  });

  it('tells plosives, knocks, noise, switches and the room', () => {
    const numbers = programmeNumbers([
      take('performance', { rmsDbfs: -24 }),
      take('speech', { rmsDbfs: -28, aWeightedDbfs: -30 }),
      take('plosives', { below120Dbfs: -22 }),
      take('knocks', { truePeakDbtp: -12 }),
      take('noise', { aWeightedDbfs: -52 }),
      take('tone'),
      take('switch', { detail: 'windscreen', thirdsDb: flat(-41) }),
      take('treatment', { detail: 'treated', rmsDbfs: -30 }),
      take('treatment', { detail: 'untreated', rmsDbfs: -28 }),
    ])[0]!;
    expect(numbers).toMatchObject({
      plosiveDb: 6,
      knocks: [{ detail: '', db: 12 }],
      wantedToNoise: [{ detail: '', db: 22 }],
    });
    expect(numbers.effects).toMatchObject([{ programme: 'switch', detail: 'windscreen' }]);
    expect(numbers.effects[0]!.thirdsDb[5]).toBe(-1);
    expect(numbers.treatment?.overallDb).toBe(-2);
  });

  it('keeps apart what was knocked on, and which noise ran', () => {
    const { knocks, wantedToNoise } = programmeNumbers([
      take('performance', { rmsDbfs: -24 }),
      take('speech', { aWeightedDbfs: -30 }),
      take('knocks', { detail: 'stand', truePeakDbtp: -12 }),
      take('knocks', { detail: 'desk', truePeakDbtp: -30 }),
      take('noise', { detail: 'fan', aWeightedDbfs: -52 }),
      take('noise', { detail: 'hum of the lamp', aWeightedDbfs: -61 }),
    ])[0]!;
    expect(knocks).toEqual([
      { detail: 'stand', db: 12 },
      { detail: 'desk', db: -6 },
    ]);
    expect(wantedToNoise).toEqual([
      { detail: 'fan', db: 22 },
      { detail: 'hum of the lamp', db: 31 },
    ]);
  });

  it('sets a pattern against the first one, never a step of one’s own against another', () => {
    const omni = flat(-40).map((db, i) => (THIRD_OCTAVES[i]!.centerHz < 200 ? db - 5 : db));
    const { effects, steps } = programmeNumbers([
      take('pattern', { detail: 'cardioid' }),
      take('pattern', { detail: 'omni', rmsDbfs: -28, thirdsDb: omni }),
      take('own', { detail: 'key clicks', rmsDbfs: -60 }),
      take('own', { detail: 'breath', rmsDbfs: -50 }),
    ])[0]!;
    expect(effects).toHaveLength(1);
    expect(effects[0]).toMatchObject({ programme: 'pattern', detail: 'omni', against: 'cardioid' });
    expect(effects[0]).toMatchObject({ overallDb: -3 });
    expect(effects[0]!.thirdsDb[0]).toBe(-5);
    expect(steps.map(({ detail }) => detail)).toEqual(['cardioid', 'omni', 'key clicks', 'breath']);
    // 100 Hz and 10 kHz against 1 kHz.
    expect(steps[1]).toMatchObject({ rmsDb: -28, lowTiltDb: -5, highTiltDb: 0 });
  });

  it('sets all chains against the same pattern, whatever came first', () => {
    const [kern, tarn] = programmeNumbers([
      take('pattern', { detail: 'cardioid' }),
      take('pattern', { detail: 'omni' }),
      take('pattern', { chain: 'Tarn', detail: 'omni' }),
      take('pattern', { chain: 'Tarn', detail: 'figure of eight' }),
    ]);
    expect(kern!.effects).toMatchObject([{ detail: 'cardioid', against: 'omni' }]);
    expect(tarn!.effects).toMatchObject([{ detail: 'figure of eight', against: 'omni' }]);
  });

  it('has nothing where nothing was recorded', () => {
    const [numbers] = programmeNumbers([take('performance', { loudnessLufs: null })]);
    expect(numbers).toMatchObject({
      makeUpDb: null,
      room: null,
      offAxis: [],
      plosiveDb: null,
      treatment: null,
    });
  });
});

describe('between-take baseline', () => {
  const shaped = (chain: string, tilt: number, loudnessLufs = -23): BaselineTake => ({
    chain,
    loudnessLufs,
    thirdsDb: THIRD_OCTAVES.map((_, i) => -40 + (i % 2 === 0 ? tilt : -tilt)),
  });

  it('counts shape and not level', () => {
    const louder = {
      ...shaped('a', 1, -17),
      thirdsDb: shaped('a', 1).thirdsDb.map((x) => (x ?? 0) + 6),
    };
    expect(takeDifference(shaped('a', 1), louder)).toEqual({ spectrumDb: 0, loudnessLu: 6 });
    // ±1 against ±2 in every other of 23 thirds: a difference of ±1 around its own mean.
    expect(takeDifference(shaped('a', 1), shaped('a', 2))?.spectrumDb).toBeCloseTo(1, 2);
  });

  it('says that a pair proves nothing where takes of one chain differ more', () => {
    const pair = takeBaseline([
      shaped('Kern 40', 0),
      shaped('Kern 40', 3),
      shaped('Tarn', 1.4),
      shaped('Tarn', 1.6),
    ])[0]!;
    expect(pair).toMatchObject({ proves: 'nothing', within: { chain: 'Kern 40' } });
    expect(pair.verdict).toContain(
      'The takes of Kern 40 differ more than Kern 40 and Tarn do (3.0 dB between its takes, 1.5 dB between the chains): this pair proves nothing.',
    );
  });

  it('believes clear differences, doubts narrow ones, and knows when it cannot know', () => {
    const clear = takeBaseline([shaped('a', 0), shaped('a', 0.5), shaped('b', 5)]);
    expect(clear[0]!.proves).toBe('something');
    const narrow = takeBaseline([shaped('a', 0), shaped('a', 2), shaped('b', 4)]);
    expect(narrow[0]!.proves).toBe('little');
    expect(takeBaseline([shaped('a', 0), shaped('b', 5)])[0]!.proves).toBe('unknown');
    expect(takeBaseline([shaped('a', 0)])).toEqual([]);
  });
});

describe('file names', () => {
  const chains = ['Kern 40 › Linie 2', 'Ostra R1 › Tarn 1'];
  const sources = ['Contralto', 'Cello'];
  const read = (name: string, pattern = '') => readName(name, pattern, chains, sources);

  it.each([
    ['Kern40_Linie2_room.wav', 'room'],
    ['Kern 40 - Linie 2 - Room 2.flac', 'room'],
    ['room.wav', 'room'],
    ['Roomy 40_take1.wav', 'performance'],
    ['room mic_take1.wav', 'performance'],
    ['Kern40_bedroom.wav', 'performance'],
  ])('%s holds %s', (name, programme) => expect(read(name).programme).toBe(programme));

  it('are read by a pattern', () => {
    const pattern = '{chain}_{take}_{source}';
    expect(matchPattern(pattern, 'Kern40-Linie2_3_Cello.wav')).toEqual({
      chain: 'Kern40-Linie2',
      take: '3',
      source: 'Cello',
    });
    expect(read('Kern40-Linie2_3_Cello.wav', pattern)).toEqual({
      chain: 0,
      take: 3,
      source: 1,
      programme: 'performance',
      detail: '',
    });
  });

  it('that do not fit the pattern are read by their words', () => {
    expect(read('ostra r1 tarn 1 take 12.wav', '{chain}_{take}_{source}')).toMatchObject({
      chain: 1,
      take: 12,
      source: null,
    });
  });

  it('tell steps of the test programme', () => {
    expect(read('Kern40_Linie2_off-axis 90.wav')).toMatchObject({
      programme: 'off-axis',
      detail: '90',
    });
    expect(read('Kern40_Linie2_distance 30 cm.wav')).toMatchObject({
      programme: 'distance',
      detail: '30',
    });
    expect(read('Kern40_Linie2_room tone.wav')).toMatchObject({ programme: 'room' });
    expect(read('Kern40_Linie2_untreated.wav')).toMatchObject({
      programme: 'treatment',
      detail: 'untreated',
    });
    expect(read('Kern40_Linie2_pattern_figure-eight.wav')).toMatchObject({
      programme: 'pattern',
      detail: 'figure-eight',
    });
    expect(read('Kern40_Linie2_pattern_supercardioid.wav').detail).toBe('supercardioid');
    expect(read('Standard 3_Linie2_knocks.wav').detail).toBe('');
    expect(read('Kern40_Linie2_windscreen.wav')).toMatchObject({
      programme: 'switch',
      detail: 'windscreen',
    });
    expect(read('Kern40_Linie2_knocks desk.wav')).toMatchObject({
      programme: 'knocks',
      detail: 'desk',
    });
    expect(read('Kern40_plosives_t2.wav', '{chain}_{step}_{take}')).toMatchObject({
      programme: 'plosives',
      take: 2,
    });
  });

  it('patterns that cannot work are refused in a sentence', () => {
    expect(patternFault('')).toBeNull();
    expect(patternFault('{chain} - {anything} {anything}')).toBeNull();
    expect(patternFault('takes')).toContain('at least one field');
    expect(patternFault('{chain}_{mic}')).toContain('no field {mic}');
    expect(patternFault('{chain}_{chain}')).toContain('twice');
    expect(patternFault('{chain}{take}')).toContain('tells them apart');
    expect(patternFault(`{chain}${'x'.repeat(300)}`)).toContain('under 200');
  });

  it('with marks of pattern languages in them are harmless', () => {
    expect(matchPattern('({chain})*', '(Kern)*.wav')).toEqual({ chain: 'Kern' });
    expect(matchPattern('{chain}+', 'Kern.wav')).toBeNull();
  });
});

it('names steps as people say them', () => {
  expect(programmeLabel('off-axis', '90')).toBe('test sound off axis, 90°');
  expect(programmeLabel('distance', '30')).toBe('speech at a distance, 30 cm');
  expect(programmeLabel('room', '')).toBe('silence in the room');
  expect(programmeLabel('distance', '0')).toBe('speech, touching the microphone');
  expect(programmeLabel('own', 'key clicks')).toBe('key clicks');
});

describe('a step as it is planned', () => {
  it('has the usual details unless others are named', () => {
    expect(detailsOf({ programme: 'off-axis', details: [] })).toEqual(['0', '90', '180']);
    expect(detailsOf({ programme: 'off-axis', details: ['45'] })).toEqual(['45']);
    expect(detailsOf({ programme: 'room', details: [] })).toEqual(['']);
    expect(detailsOf({ programme: 'knocks', details: [] })).toEqual(['']);
  });

  it.each([
    ['room', ['loud'], 'no details'],
    ['own', [], 'Say for'],
    ['switch', ['pad', 'Pad'], 'twice'],
    ['off-axis', ['90°'], 'without its unit'],
    ['off-axis', ['400'], 'up to 360'],
    ['distance', ['-3'], 'not a number'],
    ['distance', ['0', '7.5'], null],
    ['pattern', [], null],
    ['own', ['key clicks'], null],
  ] as const)('%s with %j', (programme, details, fault) => {
    const said = plannedFault({ programme, details: [...details] });
    if (fault === null) expect(said).toBeNull();
    else expect(said).toContain(fault);
  });
});

it('the log is set against the plan', () => {
  const line = {
    chain: 'Ostra R1',
    takeNumber: 1,
    done: true,
    plannedGainDb: 55,
    gainDb: 48,
    plannedDistanceM: 0.3,
    distanceM: 0.4,
  };
  const remarks = logRemarks([
    line,
    { ...line, takeNumber: 2, gainDb: 55, distanceM: 0.31 },
    { ...line, chain: 'Kern 40', gainDb: 55.3, distanceM: null },
    { ...line, chain: 'Moor D1', done: false },
  ]);
  expect(remarks).toEqual([
    'Ostra R1 was recorded at 48 dB, planned 55.',
    'Ostra R1 stood at 40 cm, planned 30 cm.',
    'The takes of Ostra R1 were not at one gain (48, 55 dB).',
  ]);
});
