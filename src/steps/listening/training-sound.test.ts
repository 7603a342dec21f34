import { db } from '@/platform/database';
import type { SignedIn } from '@/platform/sign-in/service';
import { NOON, testEngineer, withTestDatabase } from '@/platform/test/database';
import { one } from '@/platform/one';
import { bankWithClips, HERE, openTestSitting } from '@/steps/test/bank';
import { clipFor, join, viewFor } from './service';

withTestDatabase();

let engineer: SignedIn;
let bank: Awaited<ReturnType<typeof bankWithClips>>;
beforeAll(async () => {
  engineer = await testEngineer('Mirela Voss');
  bank = await bankWithClips(engineer);
});

async function heardIn(trainingSound: 'music' | 'speech') {
  const { token } = await openTestSitting(engineer, bank.comparisonId, { trainingSound });
  const seat = await join(
    token,
    { alias: trainingSound, playback: 'headphones', consent: true },
    HERE,
    NOON,
  );
  const { clips } = await viewFor(token, seat);
  const { order } = await clipFor(token, seat, clips[0]!.address);
  const kept = await db().rows<{ variant: number }>(
    'SELECT variant FROM settling_clip WHERE clip_set_id = $1 AND master_audio_id = $2',
    [bank.clipSetId, order.audioId],
  );
  return { clips, variants: kept.map(({ variant }) => variant) };
}

it('is of the kind that the sitting was planned with, under the same words and addresses', async () => {
  const music = await heardIn('music');
  const speech = await heardIn('speech');
  expect(speech.clips).toEqual(music.clips);
  expect(music.variants).toEqual([0]);
  expect(speech.variants).toEqual([2]);
  const sealed = await db().rows<{ plan: { trainingSound: string } }>(
    "SELECT sealed_key::jsonb->'plan' AS plan FROM sitting WHERE training_sound = 'speech'",
  );
  expect(sealed.map(({ plan }) => plan.trainingSound)).toEqual(['speech']);
});

it('is music where the clips were made before there was another', async () => {
  await one(
    db().rows(
      `WITH gone AS (DELETE FROM settling_clip WHERE clip_set_id = $1 AND variant > 1 RETURNING 1)
       SELECT count(*) FROM gone`,
      [bank.clipSetId],
    ),
  );
  expect((await heardIn('speech')).variants).toEqual([0]);
});
