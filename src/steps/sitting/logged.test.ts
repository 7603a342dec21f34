import { eventQuery } from '@/platform/events/schema';
import { eventsOf } from '@/platform/events/service';
import type { SignedIn } from '@/platform/sign-in/service';
import { NOON, testEngineer, withTestDatabase } from '@/platform/test/database';
import { answeredSitting } from '@/steps/test/answered';
import { bankWithClips, openTestSitting } from '@/steps/test/bank';
import { breakSeal, closeSitting, forget, listenByName } from './service';

withTestDatabase();

const logged = async (owner: SignedIn) =>
  (await eventsOf(owner, eventQuery.parse({ sort: 'oldest' }))).lines;

it('what bears on a sitting’s blindness stands in the log, once each', async () => {
  const owner = await testEngineer('Mirela Voss');
  const { comparisonId, clipSetId } = await bankWithClips(owner);
  await listenByName(owner, comparisonId, { clipSetId }, false, NOON);
  const { sittingId, seal } = await openTestSitting(owner, comparisonId);
  await expect(listenByName(owner, comparisonId, { clipSetId }, false, NOON)).rejects.toThrow();
  await listenByName(owner, comparisonId, { clipSetId }, true, NOON);
  const breaking = { reason: 'somebody said a name', title: 'Clarinet, bridge' };
  await breakSeal(owner, comparisonId, sittingId, breaking, NOON);
  await closeSitting(owner, comparisonId, sittingId, NOON);
  await closeSitting(owner, comparisonId, sittingId, NOON);
  const lines = await logged(owner);
  expect(lines.map(({ action }) => action)).toEqual([
    'sealed',
    'heard by name',
    'seal broken',
    'closed',
  ]);
  expect(lines[0]?.about).toBe(`“Clarinet, bridge”, seal ${seal}`);
  expect(lines[2]?.about).toBe('“Clarinet, bridge”: somebody said a name');
  expect(lines.every((line) => line.comparisonId === comparisonId)).toBe(true);
});

it('says that somebody was forgotten, and not who', async () => {
  const owner = await testEngineer('Ossian Falk');
  const { comparisonId, chainIds } = await bankWithClips(owner);
  const sittingId = await answeredSitting(owner, comparisonId, {
    aliases: ['Gone Gerda', 'Here Henk'],
    liking: chainIds,
  });
  await forget(owner, comparisonId, sittingId, 1, NOON);
  await expect(forget(owner, comparisonId, sittingId, 7, NOON)).rejects.toThrow();
  const lines = await logged(owner);
  expect(lines.map(({ action }) => action)).toEqual(['sealed', 'closed', 'forgotten']);
  expect(JSON.stringify(lines)).not.toContain('Gerda');
});
