import { Random } from '@/core/signal/random';
import { THIRD_OCTAVES } from '@/core/spectrum/bands';
import { db } from '@/platform/database';
import type { SignedIn } from '@/platform/sign-in/service';
import { NOON, testEngineer, withTestDatabase } from '@/platform/test/database';
import type { Chain } from '@/steps/chains/schema';
import { changeChain, chainsOf } from '@/steps/chains/service';
import { sourcesSeen } from '@/steps/comparisons/service';
import { giveMarks, lockDecision } from '@/steps/decision/service';
import type { GearDraft } from '@/steps/gear/schema';
import { addGear, removeGear } from '@/steps/gear/service';
import { resultsOf, withoutStandings, writeStandings } from '@/steps/results/service';
import { analysed, answeredSitting } from '@/steps/test/answered';
import { bankWithClips, CHAIN_NAMES } from '@/steps/test/bank';
import { plainGear } from '@/steps/test/gear';
import { gearStory, heardList, proposeBench } from './service';

withTestDatabase();

let engineer: SignedIn;
let bank: Awaited<ReturnType<typeof bankWithClips>>;
let sittingId: string;
let capsule: string;
let preamp: string;
let unused: string;
const FIRST = '00000000-0000-0000-0000-000000000000';
const LATE = new Date('2029-05-06T09:00:00Z');
const ALL = { q: '', sort: 'newest', page: 1 } as const;

const draft = (name: string, kind: GearDraft['kind']) =>
  plainGear(name, { kind, priceCents: 40_000 });

beforeAll(async () => {
  engineer = await testEngineer('Mirela Voss');
  bank = await bankWithClips(engineer);
  capsule = await addGear(engineer, draft('Ufer C1', 'microphone'), NOON);
  preamp = await addGear(engineer, draft('Steg P2', 'preamp'), NOON);
  unused = await addGear(engineer, draft('Grat M9', 'microphone'), NOON);
  const chains = await chainsOf(engineer, bank.comparisonId);
  for (const [i, { id, ...chain }] of chains.entries()) {
    const held = [[capsule], [preamp], [capsule, preamp]][i]!;
    const gear = held.map((gearId) => ({ gearId, settings: {} }));
    await changeChain(engineer, bank.comparisonId, id, { ...chain, gear });
  }
  const [best, middle, worst] = [2, 0, 1].map((i) => bank.chainIds[i]!) as [string, string, string];
  sittingId = await answeredSitting(engineer, bank.comparisonId, {
    aliases: Array.from({ length: 12 }, (_, i) => `L${i + 1}`),
    // Most like the third chain best; of the other two nobody has a common opinion.
    liking: (listener) => (listener % 2 === 0 ? [best, middle, worst] : [best, worst, middle]),
    parts: [{ trials: 3 }],
    random: new Random(7),
  });
  await analysed(sittingId);
});

describe('what was heard of an item', () => {
  it('is how each chain that holds it stood, with the figures of the results', async () => {
    const { result } = await resultsOf(engineer, bank.comparisonId, sittingId);
    const picture = result?.across?.picture[0];
    expect(picture?.claimed).toBe(true);
    const story = await gearStory(engineer, capsule, 1);
    expect(story.places).toBe(2);
    expect(story.outcomes).toEqual([
      { outcome: 'won', times: 1 },
      { outcome: 'may be the best', times: 0 },
      { outcome: 'behind', times: 1 },
      { outcome: 'nothing shown', times: 0 },
    ]);
    expect(story.standings.map(({ chain, outcome }) => [chain, outcome])).toEqual([
      [CHAIN_NAMES[0], 'behind'],
      [CHAIN_NAMES[2], 'won'],
    ]);
    for (const row of story.standings) {
      const shown = picture?.chains.find(({ chain }) => chain === row.chain);
      expect([row.value, row.low, row.high]).toEqual([shown?.value, shown?.from, shown?.to]);
      expect(row).toMatchObject({ listeners: 12, chains: 3, simulated: false, context: 'raw' });
    }
  });

  it('names the chains that hold it, what was marked and what was decided', async () => {
    const { comparisonId, chainIds } = bank;
    await giveMarks(
      engineer,
      comparisonId,
      [{ of: 'gear', id: capsule, criterion: 'mount', value: '2', remark: 'the clip slips' }],
      NOON,
    );
    const uses = [
      { use: 'clarinet', verdict: 'chosen' as const, chainId: chainIds[2]! },
      { use: 'loud guitar', verdict: 'rejected' as const, chainId: chainIds[1]! },
    ];
    const decided = {
      uses,
      reasons: [{ text: 'Liked by all.', rests: 'heard' as const }],
      wouldChange: '',
      decidedBy: 'Mirela Voss',
      listenAgain: null,
    };
    await lockDecision(engineer, comparisonId, { draft: decided, version: 0, sittingId }, NOON);
    const story = await gearStory(engineer, capsule, 1);
    expect(story.holders).toMatchObject({
      all: 2,
      rows: [{ chain: CHAIN_NAMES[0] }, { chain: CHAIN_NAMES[2] }],
    });
    expect(story.marks).toMatchObject([
      { criterion: 'mount', value: '2', remark: 'the clip slips', by: engineer.name },
    ]);
    // Only the use that is about a chain with it.
    expect(story.decisions.map(({ uses: of }) => of.map(({ use }) => use))).toEqual([['clarinet']]);
    const other = await gearStory(engineer, preamp, 1);
    expect(other.decisions[0]?.uses.map(({ use }) => use)).toEqual(['clarinet', 'loud guitar']);
  });

  it('tells the gains that were logged for it, by source', async () => {
    const { comparisonId, chainIds } = bank;
    const source = (await sourcesSeen(engineer, comparisonId))[0]!;
    for (const [i, [chain, gainDb, done]] of (
      [
        [0, 38, true],
        [2, 46, true],
        [2, 40, true],
        [1, 60, true],
        [0, 70, false],
      ] as const
    ).entries()) {
      await db().rows(
        `INSERT INTO run_line (comparison_id, day, position, chain_id, source_id, programme, take_number, minutes, done, gain_db)
         VALUES ($1, 1, $2, $3, $4, 'performance', 1, 1, $5, $6)`,
        [comparisonId, i, chainIds[chain]!, source.id, done, gainDb],
      );
    }
    const { gains } = await gearStory(engineer, capsule, 1);
    expect(gains).toEqual([{ source: source.name, lines: 3, least: 38, median: 40, most: 46 }]);
  });

  it('tells how the test sound moved over the years, for the chains with it alone', async () => {
    const { comparisonId, chainIds } = bank;
    const flat = THIRD_OCTAVES.map(() => -40);
    const duller = flat.map((level, i) => (i > 25 ? level - 4 : level));
    const recorded: [chain: number, written: string | null, arrived: Date, bands: number[]][] = [
      [2, '2026-03-02', LATE, flat],
      [2, '2026-03-02', LATE, flat],
      [2, null, LATE, duller],
      // Another chain with it, once; and one without it.
      [0, null, LATE, flat],
      [1, '2026-03-02', LATE, flat],
      [1, '2027-03-02', LATE, duller],
    ];
    const [source] = await sourcesSeen(engineer, comparisonId);
    for (const [i, [chain, originationDate, arrived, thirdsDb]] of recorded.entries()) {
      await db().rows(
        `WITH made AS (INSERT INTO audio (byte_length, created_at) VALUES (0, $6) RETURNING id)
         INSERT INTO take (comparison_id, chain_id, source_id, audio_id, file_name, programme, state, facts, created_at)
         SELECT $1, $2, $3, id, $4, 'tone', 'ready', $5, $6 FROM made`,
        [
          comparisonId,
          chainIds[chain]!,
          source!.id,
          `test ${i}.wav`,
          JSON.stringify({ metadata: { originationDate }, features: { thirdsDb } }),
          arrived,
        ],
      );
    }
    const { drifts } = await gearStory(engineer, capsule, 1);
    expect(drifts).toMatchObject([
      {
        chain: CHAIN_NAMES[2],
        first: '2026-03-02',
        repeats: 1,
        repeatsDb: 0.5,
        days: [{ on: '2029-05-06', most: { centerHz: 10_000 } }],
      },
    ]);
    expect(drifts[0]!.days[0]!.moved.map(({ centerHz, db: by }) => [centerHz, by])).toEqual(
      [10_000, 12_500, 16_000, 20_000].map((centerHz) => [centerHz, -4]),
    );
    expect((await gearStory(engineer, preamp, 1)).drifts.map(({ chain }) => chain)).toEqual(
      expect.arrayContaining([CHAIN_NAMES[1], CHAIN_NAMES[2]]),
    );
    await db().rows(`DELETE FROM take WHERE file_name LIKE 'test %'`);
  });

  it('tells how its own noise moved, at the input, where the gain was logged', async () => {
    const { comparisonId, chainIds } = bank;
    const [source] = await sourcesSeen(engineer, comparisonId);
    const log = (chain: number, gainDb: number) =>
      db().rows(
        `INSERT INTO run_line (comparison_id, day, position, chain_id, source_id, programme, take_number, minutes, done, gain_db)
         VALUES ($1, 9, $2, $3, $4, 'resistor', 1, 1, true, $5)`,
        [comparisonId, chain, chainIds[chain]!, source!.id, gainDb],
      );
    await log(2, 50);
    const recorded: [chain: number, day: string, aWeightedDbfs: number][] = [
      [2, '2026-03-02', -70],
      [2, '2027-03-02', -66],
      // No gain was logged for that one.
      [0, '2026-03-02', -70],
      [0, '2027-03-02', -60],
    ];
    for (const [i, [chain, originationDate, aWeightedDbfs]] of recorded.entries()) {
      await db().rows(
        `WITH made AS (INSERT INTO audio (byte_length, created_at) VALUES (0, $6) RETURNING id)
         INSERT INTO take (comparison_id, chain_id, source_id, audio_id, file_name, programme, state, facts, created_at)
         SELECT $1, $2, $3, id, $4, 'resistor', 'ready', $5, $6 FROM made`,
        [
          comparisonId,
          chainIds[chain]!,
          source!.id,
          `resistor ${i}.wav`,
          JSON.stringify({ metadata: { originationDate }, features: { aWeightedDbfs } }),
          LATE,
        ],
      );
    }
    const { noises } = await gearStory(engineer, capsule, 1);
    expect(noises).toMatchObject([
      { chain: CHAIN_NAMES[2], first: '2026-03-02', days: [{ on: '2027-03-02', moved: true }] },
    ]);
    expect(noises[0]!.days[0]!.byDb).toBeCloseTo(4, 10);
    await db().rows(`DELETE FROM take WHERE file_name LIKE 'resistor %'`);
    await db().rows(`DELETE FROM run_line WHERE programme = 'resistor'`);
  });

  it('says so where nothing is known, stays when it is removed, and is nobody else’s', async () => {
    const nothing = await gearStory(engineer, unused, 1);
    expect(nothing).toMatchObject({ places: 0, standings: [], words: [], holders: { all: 0 } });
    await removeGear(engineer, unused, NOON);
    expect((await gearStory(engineer, unused, 1)).gear.deleted).toBe(true);
    const stranger = await testEngineer('Looking In');
    await expect(gearStory(stranger, capsule, 1)).rejects.toMatchObject({ status: 404 });
  });
});

describe('what was heard over all comparisons', () => {
  it('is found by voice, passage or chain, with who won', async () => {
    const list = await heardList(engineer, ALL);
    expect(list).toMatchObject({ found: 1, all: 1 });
    expect(list.lines[0]).toMatchObject({
      claimed: true,
      chains: 3,
      listeners: 12,
      leaders: [{ chain: CHAIN_NAMES[2] }],
    });
    const found = async (q: string) => (await heardList(engineer, { ...ALL, q })).found;
    // A chain that lost was heard there, too.
    expect(await found(CHAIN_NAMES[1]!.toUpperCase())).toBe(1);
    expect(await found(list.lines[0]!.source)).toBe(1);
    expect(await found('trombone')).toBe(0);
    expect(await found('%')).toBe(0);
  });

  it('is of one’s own studio only', async () => {
    const stranger = await testEngineer('Passing By');
    expect(await heardList(stranger, ALL)).toMatchObject({ found: 0, all: 0, lines: [] });
  });

  it('stands in the order asked for, newest first', async () => {
    const other = await testEngineer('Tidy Tina');
    const own = await bankWithClips(other);
    for (const title of ['first', 'second']) {
      const id = await answeredSitting(other, own.comparisonId, {
        aliases: ['a', 'b', 'c', 'd'],
        liking: own.chainIds,
        change: { title },
        // Asked twice in one place, it stands there once.
        parts: [{}, {}],
      });
      await analysed(id);
    }
    const newest = (await heardList(other, ALL)).lines.map((line) => line.sittingId);
    const oldest = (await heardList(other, { ...ALL, sort: 'oldest' })).lines;
    expect(newest).toHaveLength(2);
    expect(oldest.map((line) => line.sittingId)).toEqual([...newest].reverse());
    expect(Number(oldest[0]?.closedAt)).toBeLessThanOrEqual(Number(oldest[1]?.closedAt));
  });
});

describe('the shortest bench', () => {
  const names = async (q: string) => {
    const proposal = await proposeBench(engineer, q);
    return [proposal?.picks.map(({ name }) => name), proposal?.wildcard?.name ?? null];
  };

  it('is what led in places like it, and a cheap one that was never behind there', async () => {
    const [line] = (await heardList(engineer, ALL)).lines;
    const words = `${line!.source.toUpperCase()} ${line!.passage}`;
    const proposal = await proposeBench(engineer, words);
    expect(proposal).toMatchObject({ places: 1, simulated: false, twins: [] });
    const [pick] = proposal!.picks;
    expect(pick).toMatchObject({ name: CHAIN_NAMES[2], priceCents: 80_000, alike: { won: 1 } });
    expect(pick!.elsewhere).toEqual({
      won: 0,
      'may be the best': 0,
      behind: 0,
      'nothing shown': 0,
    });
    // Both others cost less, but were behind.
    expect(proposal!.picks).toHaveLength(1);
    expect(proposal!.wildcard).toBeNull();

    const cheap = await addGear(
      engineer,
      { ...draft('Rain 1', 'microphone'), priceCents: 9_000 },
      NOON,
    );
    const other = await bankWithClips(engineer);
    await db().rows('UPDATE comparison SET created_at = $2 WHERE id = $1', [
      other.comparisonId,
      LATE,
    ]);
    const [{ id, ...first }, { id: next, ...second }] = (await chainsOf(
      engineer,
      other.comparisonId,
    )) as [Chain, Chain];
    const held = (...ids: string[]) => ids.map((gearId) => ({ gearId, settings: {} }));
    await changeChain(engineer, other.comparisonId, id, {
      ...first,
      name: 'Rain',
      gear: held(cheap),
    });
    // The winner once more, under another name: it is one chain.
    await changeChain(engineer, other.comparisonId, next, {
      ...second,
      name: 'Renamed',
      gear: held(capsule, preamp),
    });
    expect(await names(words)).toEqual([['Renamed'], 'Rain']);
    // Elsewhere it is the same chain as well.
    expect(await names('trombone')).toEqual([['Renamed'], 'Rain']);
    expect(await proposeBench(engineer, 'trombone')).toMatchObject({ places: 0 });
    // What is not on the list any more cannot be set up.
    await db().rows('UPDATE gear SET deleted_at = now() WHERE id = $1', [cheap]);
    expect(await names(words)).toEqual([['Renamed'], null]);
  });

  it('leaves out what was heard with names told or under a broken seal', async () => {
    const [line] = (await heardList(engineer, ALL)).lines;
    for (const [change, back] of [
      [`reveal = 'after each part'`, `reveal = 'after closing'`],
      [
        `seal_broken_at = now(), seal_broken_reason = 'looked'`,
        `seal_broken_at = NULL, seal_broken_reason = NULL`,
      ],
    ]) {
      await db().rows(`UPDATE sitting SET ${change} WHERE id = $1`, [sittingId]);
      expect(await proposeBench(engineer, line!.source)).toMatchObject({ places: 0, picks: [] });
      await db().rows(`UPDATE sitting SET ${back} WHERE id = $1`, [sittingId]);
    }
    expect(await proposeBench(engineer, line!.source)).toMatchObject({ places: 1 });
  });

  it('asks nothing where nothing is asked, and knows only one’s own studio', async () => {
    expect(await proposeBench(engineer, ' %& ')).toBeNull();
    const stranger = await testEngineer('Wondering By');
    expect(await proposeBench(stranger, 'clarinet')).toMatchObject({
      places: 0,
      picks: [],
      wildcard: null,
    });
  });
});

describe('sittings that were closed before', () => {
  const rows = () =>
    db().rows('SELECT * FROM chain_standing WHERE sitting_id = $1 ORDER BY part, chain_id', [
      sittingId,
    ]);
  const waiting = async () => {
    const ids: string[] = [];
    for (let one = await withoutStandings(FIRST); one; one = await withoutStandings(one.id)) {
      ids.push(one.id);
    }
    return ids;
  };

  it('are written down from their stored reading, to the same', async () => {
    const before = await rows();
    expect(before).toHaveLength(3);
    expect(await waiting()).not.toContain(sittingId);
    await db().rows('DELETE FROM chain_standing WHERE sitting_id = $1', [sittingId]);
    await db().rows('UPDATE sitting SET standings = NULL WHERE id = $1', [sittingId]);
    expect(await waiting()).toContain(sittingId);
    await writeStandings({ id: sittingId, comparisonId: bank.comparisonId }, NOON);
    expect(await rows()).toEqual(before);
    expect(await waiting()).not.toContain(sittingId);
  });

  it('are read anew where another version read them', async () => {
    await db().rows(
      `UPDATE sitting SET analysis = '{"reading": "old"}', standings = NULL WHERE id = $1`,
      [sittingId],
    );
    await writeStandings({ id: sittingId, comparisonId: bank.comparisonId }, NOON);
    const [job] = await db().rows<{ state: string }>(
      `SELECT state FROM work WHERE subject_id = $1 ORDER BY updated_at DESC LIMIT 1`,
      [sittingId],
    );
    expect(job?.state).toBe('waiting');
    await analysed(sittingId);
    expect(await rows()).toHaveLength(3);
  });
});
