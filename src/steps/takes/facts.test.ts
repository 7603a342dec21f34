import { xorshiftNoise } from '@/core/test/signals';
import { FeatureCollector } from '@/core/checks/features';
import { measure } from '@/core/loudness/meter';
import { FACTS_VERSION, storedFacts } from './facts';

const RATE = 16_000;
const FORMAT = {
  sampleRateHz: RATE,
  channels: 1,
  bitDepth: 24 as const,
  encoding: 'pcm' as const,
  channelMask: 0,
};

/** What the inspection of some sound keeps. */
function factsOf(samples: Float64Array) {
  const collector = new FeatureCollector(RATE, samples.length);
  collector.push([samples]);
  return {
    version: FACTS_VERSION,
    sampleRateHz: RATE,
    channels: 1,
    bitDepth: 24,
    encoding: 'pcm',
    frames: samples.length,
    durationS: samples.length / RATE,
    dataOffset: 44,
    warnings: [],
    metadata: { description: 'take 1' },
    measurement: measure([samples], FORMAT),
    features: collector.finish(),
  };
}

const stored = (facts: object) => storedFacts.parse(JSON.parse(JSON.stringify(facts)));

describe('what is measured of a take', () => {
  it.each([
    ['noise', xorshiftNoise(3, 0.2, 2 * RATE)],
    ['silence', new Float64Array(2 * RATE)],
    ['next to nothing', xorshiftNoise(4, 1e-7, 300)],
    ['full scale', new Float64Array(RATE).fill(1)],
  ])('comes out of the bank as it went in: %s', (_, samples) => {
    const facts = factsOf(samples);
    expect(stored(facts)).toEqual(JSON.parse(JSON.stringify(facts)));
  });

  it('of older versions is read, too: without a version, without bands, without features', () => {
    const { features, ...rest } = factsOf(xorshiftNoise(5, 0.2, RATE));
    const older = { ...rest, version: undefined };
    const bare = {
      ...features,
      thirdsDb: undefined,
      aWeightedDbfs: undefined,
      below120Dbfs: undefined,
    };
    const read = stored({ ...older, features: bare });
    expect(read.version).toBe(1);
    expect(read.features).toEqual(JSON.parse(JSON.stringify(bare)));
    expect(stored(older)).toMatchObject({ version: 1 });
  });

  it('is refused when it is something else', () => {
    const facts = factsOf(xorshiftNoise(6, 0.2, RATE));
    for (const odd of [
      { sampleRateHz: 0 },
      { encoding: 'mp3' },
      { measurement: {} },
      { warnings: 'none' },
      { features: { hum: { hz: 55, levelDbfs: -60 } } },
    ]) {
      expect(storedFacts.safeParse({ ...facts, ...odd }).success).toBe(false);
    }
  });
});
