import { copyWarnings, isDue, isTrialDue, KEPT, lastDue, toThin } from './keeping';

const DAY_MS = 24 * 3600 * 1000;
const at = (text: string) => new Date(text);
/** One copy at three each night, the last on this day. */
const nights = (last: string, count: number) =>
  Array.from({ length: count }, (_, i) => ({
    madeAt: new Date(at(last).getTime() - i * DAY_MS),
  }));
const days = (copies: readonly { madeAt: Date }[]) =>
  copies.map(({ madeAt }) => madeAt.toISOString().slice(0, 10));

it('keeps seven days, four weeks and twelve months of nightly copies', () => {
  const all = nights('2026-11-29T03:00:00Z', 400);
  const gone = new Set(toThin(all, at('2026-11-29T03:05:00Z'), KEPT));
  const kept = days(all.filter((copy) => !gone.has(copy)));
  expect(kept).toEqual([
    // Seven days, the first of which is the newest of this week and month too.
    ...['2026-11-29', '2026-11-28', '2026-11-27', '2026-11-26'],
    ...['2026-11-25', '2026-11-24', '2026-11-23'],
    // The newest of three more weeks of seven days.
    ...['2026-11-22', '2026-11-15', '2026-11-08'],
    // The newest of eleven more months.
    ...['2026-10-31', '2026-09-30', '2026-08-31', '2026-07-31', '2026-06-30', '2026-05-31'],
    ...['2026-04-30', '2026-03-31', '2026-02-28', '2026-01-31', '2025-12-31'],
  ]);
});

it('thinned every night, what is left reaches back through weeks and months without a gap', () => {
  let kept: { madeAt: Date }[] = [];
  for (let night = 0; night < 500; night++) {
    const madeAt = new Date(at('2025-07-01T03:00:00Z').getTime() + night * DAY_MS);
    kept.push({ madeAt });
    const gone = new Set(toThin(kept, madeAt, KEPT));
    kept = kept.filter((copy) => !gone.has(copy));
    expect(kept.length).toBeLessThanOrEqual(7 + 4 + 12);
    const ages = kept.map((copy) => (madeAt.getTime() - copy.madeAt.getTime()) / DAY_MS).reverse();
    const gaps = ages.map((age, i) => ({ age, gap: age - (ages[i - 1] ?? 0) }));
    // A day for a week, a week for three of them, a month for eleven.
    for (const { age, gap } of gaps)
      expect(gap).toBeLessThanOrEqual(age < 7 ? 1 : age < 21 ? 7 : 31);
    if (night > 365) expect(Math.max(...ages)).toBeGreaterThan(300);
  }
});

it('never takes the newest away, however old it is', () => {
  const all = nights('2020-01-10T03:00:00Z', 3);
  expect(days(toThin(all, at('2026-11-29T03:00:00Z'), KEPT))).toEqual(['2020-01-09', '2020-01-08']);
});

describe('a copy is due', () => {
  const now = new Date(2026, 10, 29, 12, 0, 0);
  const due = lastDue(now);
  const before = (hours: number) => new Date(due.getTime() - hours * 3600 * 1000);
  const after = (hours: number) => before(-hours);
  const nights = { usedSince: before(100), lastMadeAt: null, lastFailedAt: null };

  it('from three in the morning on, once', () => {
    expect([due.getHours(), due.getDate()]).toEqual([3, 29]);
    expect(lastDue(new Date(2026, 10, 29, 2, 59)).getDate()).toBe(28);
    expect(isDue(nights, now)).toBe(true);
    expect(isDue({ ...nights, lastMadeAt: before(1) }, now)).toBe(true);
    expect(isDue({ ...nights, lastMadeAt: after(0.1) }, now)).toBe(false);
  });

  it('not in a bank that nobody used by then', () => {
    expect(isDue({ ...nights, usedSince: null }, now)).toBe(false);
    expect(isDue({ ...nights, usedSince: after(1) }, now)).toBe(false);
  });

  it('again an hour after one that failed', () => {
    expect(isDue({ ...nights, lastFailedAt: new Date(now.getTime() - 59 * 60_000) }, now)).toBe(
      false,
    );
    expect(isDue({ ...nights, lastFailedAt: new Date(now.getTime() - 61 * 60_000) }, now)).toBe(
      true,
    );
  });

  it('for trial once a week', () => {
    expect(isTrialDue(null, now)).toBe(true);
    expect(isTrialDue(new Date(now.getTime() - 6.9 * DAY_MS), now)).toBe(false);
    expect(isTrialDue(new Date(now.getTime() - 7 * DAY_MS), now)).toBe(true);
  });
});

describe('an owner is told', () => {
  const now = at('2026-11-29T12:00:00Z');
  const ago = (days: number) => new Date(now.getTime() - days * DAY_MS);
  const well = {
    usedSince: ago(300),
    lastMadeAt: ago(0.4),
    lastFailedAt: null,
    lastFailed: null,
    lastTriedAt: ago(3),
    lastTrialFailed: null,
    bytes: 1e9,
    freeBytes: 1e10,
    sameDisk: false,
  };

  it.each([
    ['nothing where all is well', {}, []],
    [
      'nothing of a bank of yesterday',
      { usedSince: ago(1), lastMadeAt: null, lastTriedAt: null },
      [],
    ],
    ['that none was made', { lastMadeAt: null, usedSince: ago(5.5) }, ['5 days old']],
    ['of an old one', { lastMadeAt: ago(3.2) }, ['newest copy is 3 days old']],
    ['why the last failed', { lastFailedAt: ago(0.1), lastFailed: 'no room.' }, ['no room.']],
    ['not of a failure that a copy followed', { lastFailedAt: ago(2), lastFailed: 'no room.' }, []],
    ['what did not come back', { lastTrialFailed: 'torn.' }, ['did not come back: torn.']],
    ['that trials stopped', { lastTriedAt: ago(15) }, ['for 15 days']],
    ['of a short disk', { freeBytes: 1.9e9 }, ['less room']],
    ['of one disk for both', { sameDisk: true }, ['both are gone']],
  ])('%s', (_, change, said) => {
    const warnings = copyWarnings({ ...well, ...change }, now);
    expect(warnings).toHaveLength(said.length);
    said.forEach((words, i) => expect(warnings[i]).toContain(words));
  });
});
