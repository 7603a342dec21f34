import { gainRemarks, type GainTake, measuredGains } from './measured-gain';

const take = (chain: string, change: Partial<GainTake> = {}): GainTake => ({
  chain,
  recordedGainDb: 40,
  knob: '',
  rmsDbfs: -21.01,
  truePeakDbtp: -12,
  predictedDb: 42,
  mostDb: 60,
  ...change,
});

it('works out by hand: a sine at -18 dBFS peak needs the gain it was recorded at', () => {
  // A sine whose peak lies at -18 dBFS has a mean square of -21.01 dBFS.
  const [a] = measuredGains([take('Kern'), take('Halde')], null);
  expect(a!.neededDb).toBeCloseTo(40, 2);
  expect(a!.headroomDb).toBeCloseTo(12, 2);
  expect(a!.leftDb).toBeCloseTo(20, 2);
  expect(a).toMatchObject({ sensitivityDb: 0, offDb: null, predictedDb: 42 });
});

it('a chain that is 10 dB quieter at 5 dB more gain is 15 dB less sensitive', () => {
  const [, halde] = measuredGains(
    [take('Kern'), take('Halde', { recordedGainDb: 45, rmsDbfs: -31.01, predictedDb: 57 })],
    'Kern',
  );
  expect(halde!.sensitivityDb).toBeCloseTo(-15, 9);
  expect(halde!.neededDb).toBeCloseTo(55, 2);
  // Data sheets say 15 dB more as well: nothing to check, though the source was quieter than they assumed.
  expect(halde!.offDb).toBeCloseTo(0, 9);
  expect(gainRemarks(halde!)).toEqual([]);
});

it('points at what differs from the data sheets by more than 3 dB, either way', () => {
  const off = (predictedDb: number) =>
    gainRemarks(measuredGains([take('Kern'), take('Halde', { predictedDb })], 'Kern')[1]!);
  expect(off(33)).toEqual([
    'It needs 9 dB more than its data sheets say: check pad, pattern, cable and the gain that was written.',
  ]);
  expect(off(50)[0]).toContain('8 dB less');
  expect(off(44.9)).toEqual([]);
});

it('says who is short of gain, and whose peaks would clip at level', () => {
  const [, ribbon] = measuredGains(
    [take('Kern'), take('Ostra', { rmsDbfs: -51.01, truePeakDbtp: -25, mostDb: 63 })],
    'Kern',
  );
  expect(ribbon!.neededDb).toBeCloseTo(70, 2);
  expect(gainRemarks(ribbon!).slice(0, 2)).toEqual([
    '7 dB short of level.',
    'At level its peaks would clip by 5.0 dB.',
  ]);
});

it('compares with the reference where it is among the takes, else with the first', () => {
  const takes = [take('Kern'), take('Halde', { rmsDbfs: -27.01 })];
  expect(
    measuredGains(takes, 'Halde').map(({ sensitivityDb }) => Math.round(sensitivityDb!)),
  ).toEqual([6, 0]);
  expect(
    measuredGains(takes, 'gone').map(({ sensitivityDb }) => Math.round(sensitivityDb!)),
  ).toEqual([0, -6]);
});

it('says nothing of one take alone, nor of what no data sheet says', () => {
  expect(measuredGains([take('Kern')], null)).toEqual([]);
  const [, unknown] = measuredGains(
    [take('Kern'), take('words only', { predictedDb: null, mostDb: null })],
    'Kern',
  );
  expect(unknown).toMatchObject({ offDb: null, leftDb: null });
  expect(gainRemarks(unknown!)).toEqual([]);
});

it('says of a knob without a scale how far it is to be turned, and nothing in absolute terms', () => {
  // A mean square of -31.01 is a sine at -28, 10 dB under where it should lie; peaks at -22 then come to -12.
  const knob = take('Rinde', {
    recordedGainDb: null,
    knob: 'half past two',
    rmsDbfs: -31.01,
    truePeakDbtp: -22,
  });
  const [rinde, kern] = measuredGains([knob, take('Kern')], null);
  expect(rinde).toMatchObject({ neededDb: null, sensitivityDb: null, leftDb: null, offDb: null });
  expect(rinde!.turnUpDb).toBeCloseTo(10, 2);
  expect(rinde!.headroomDb).toBeCloseTo(12, 2);
  expect(gainRemarks(rinde!)).toEqual([
    'Relative only: 10 dB up from knob at half past two; no data sheet says its gain there.',
  ]);
  // Without a reference of its own the first of known gain is one.
  expect(kern).toMatchObject({ sensitivityDb: 0 });
  expect(measuredGains([knob, take('Kern')], 'Rinde')[1]!.sensitivityDb).toBeNull();
});
