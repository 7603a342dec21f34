import { randomUUID } from 'node:crypto';
import { db } from '@/platform/database';
import type { SignedIn } from '@/platform/sign-in/service';
import { NOON, testEngineer, withTestDatabase } from '@/platform/test/database';
import { one } from '@/platform/one';
import { closeSitting } from '@/steps/sitting/service';
import { HERE, bankWithClips, CHAIN_NAMES, openTestSitting } from '@/steps/test/bank';
import { servedCopy } from '@/worker/tasks';
import {
  clipForConductor,
  conduct,
  linkOfCode,
  makeConductorLink,
  viewForConductor,
} from './conductor';
import { type Answering, type Conducting, shortCode } from './schema';
import { answer, clipFor, finishStage, join, viewFor } from './service';

withTestDatabase();

const DEVICE = 'the device at the desk';
let engineer: SignedIn;
let bank: Awaited<ReturnType<typeof bankWithClips>>;
beforeAll(async () => {
  engineer = await testEngineer('Mirela Voss');
  bank = await bankWithClips(engineer);
});

async function openRoom() {
  const { token, sittingId } = await openTestSitting(engineer, bank.comparisonId, {
    room: 'together',
  });
  const { token: conductor } = await makeConductorLink(engineer, sittingId, NOON);
  return { token, sittingId, conductor };
}

const arrive = (token: string, alias: string) =>
  join(token, { alias, playback: 'loudspeakers', consent: true }, HERE, NOON);

const given = (position: number): Answering => ({
  position,
  answer: { choice: 'first' },
  key: randomUUID(),
  heardS: [0, 0],
  switches: 0,
  durationS: 0,
});

describe('a room', () => {
  it('is led trial by trial; phones answer once all was played, and wait for each other', async () => {
    const { token, conductor } = await openRoom();
    const [ada, ben] = [await arrive(token, 'Ada'), await arrive(token, 'Ben')];
    expect(await viewFor(token, ada)).toMatchObject({ phase: 'waiting', position: 0, clips: [] });
    expect(await viewForConductor(conductor, DEVICE)).toMatchObject({
      position: 0,
      joined: 2,
      trials: 3,
    });

    await conduct(conductor, DEVICE, { what: 'next', from: 0 }, NOON);
    // A second click from the same place moves nothing.
    await conduct(conductor, DEVICE, { what: 'next', from: 0 }, NOON);
    const [seen, other] = [await viewFor(token, ada), await viewFor(token, ben)];
    expect(seen).toMatchObject({ phase: 'trial', position: 1, roomHeard: false });
    expect(seen.clips).toEqual(other.clips);
    expect(seen.clips.map(({ address }) => address)).toEqual(['', '']);
    const led = await viewForConductor(conductor, DEVICE);
    expect(led.clips.map(({ word }) => word)).toEqual(seen.clips.map(({ word }) => word));

    await expect(answer(token, ada, given(1), NOON)).rejects.toMatchObject({ status: 409 });
    await expect(conduct(conductor, DEVICE, { what: 'next', from: 1 }, NOON)).rejects.toThrow(
      'Play every',
    );
    await conduct(conductor, DEVICE, { what: 'heard', from: 1 }, NOON);
    await answer(token, ada, given(1), NOON);
    expect((await viewFor(token, ada)).phase).toBe('waiting');
    expect(await viewForConductor(conductor, DEVICE)).toMatchObject({ heard: true, answered: 1 });

    // The room goes on without Ben, who finds it where it is; his missed trial stays open for nobody.
    await conduct(conductor, DEVICE, { what: 'next', from: 1 }, NOON);
    await conduct(conductor, DEVICE, { what: 'heard', from: 2 }, NOON);
    await expect(answer(token, ben, given(1), NOON)).rejects.toMatchObject({ status: 409 });
    await answer(token, ben, given(2), NOON);
    const key = given(2);
    await answer(token, ada, key, NOON);
    await answer(token, ada, key, NOON);
    await conduct(conductor, DEVICE, { what: 'next', from: 2 }, NOON);
    await conduct(conductor, DEVICE, { what: 'heard', from: 3 }, NOON);
    await conduct(conductor, DEVICE, { what: 'next', from: 3 }, NOON);
    await conduct(conductor, DEVICE, { what: 'next', from: 4 }, NOON);
    expect((await viewFor(token, ada)).phase).toBe('finished');
    expect(await viewForConductor(conductor, DEVICE)).toMatchObject({ position: 4, clips: [] });
  });

  it('sets its level and practises before the first trial, and keeps nothing of that as an answer', async () => {
    const { token, conductor, sittingId } = await openRoom();
    const ada = await arrive(token, 'Ada');
    const led = () => viewForConductor(conductor, DEVICE);
    const move = (what: Conducting['what'], from = 0) =>
      conduct(conductor, DEVICE, { what, from }, NOON);
    expect(await led()).toMatchObject({ stage: 'joining', clips: [], answered: 0 });
    await move('level');
    const level = await led();
    expect(level).toMatchObject({ stage: 'level', position: 0 });
    expect(level.clips).toHaveLength(1);
    expect(await viewFor(token, ada)).toMatchObject({ phase: 'waiting', roomStage: 'level' });
    await clipForConductor(conductor, DEVICE, level.clips[0]!.address);

    await move('practice');
    await move('practice');
    const seen = await viewFor(token, ada);
    expect(seen).toMatchObject({ phase: 'practice', position: 0, roomHeard: false });
    // Phones have the words, and no address of any sound.
    expect(seen.clips.map(({ address }) => address)).toEqual(['', '']);
    expect(seen.clips.map(({ word }) => word)).toEqual((await led()).clips.map(({ word }) => word));
    // Before all was played nobody has practised.
    await finishStage(token, ada, { stage: 'practice' });
    expect(await led()).toMatchObject({ answered: 0 });
    await move('heard');
    await finishStage(token, ada, { stage: 'practice' });
    expect(await led()).toMatchObject({ answered: 1, heard: true });
    expect((await viewFor(token, ada)).phase).toBe('waiting');

    await move('next');
    // The stages lie behind: they move nothing any more.
    await move('level');
    expect(await led()).toMatchObject({ position: 1, heard: false });
    expect((await viewFor(token, ada)).phase).toBe('trial');
    expect(await db().rows('SELECT 1 FROM answer WHERE sitting_id = $1', [sittingId])).toEqual([]);
  });

  it('keeps how long each clip was heard, and how long an answer took, by its own clock', async () => {
    const { token, conductor, sittingId } = await openRoom();
    const [ada, ben] = [await arrive(token, 'Ada'), await arrive(token, 'Ben')];
    const later = (seconds: number) => new Date(NOON.getTime() + 1000 * seconds);
    await conduct(conductor, DEVICE, { what: 'next', from: 0 }, later(0));
    await conduct(conductor, DEVICE, { what: 'heard', from: 1, heardS: [2.5, 3] }, later(8));
    await answer(token, ada, given(1), later(20));
    // It is played once more for those who still think.
    await conduct(conductor, DEVICE, { what: 'heard', from: 1, heardS: [7, 6.5] }, later(25));
    await answer(token, ben, { ...given(1), heardS: [90, 90], durationS: 400 }, later(31));
    const rows = await db().rows(
      `SELECT heard_s AS "heardS", duration_s AS "durationS", server_s AS "serverS", hasty FROM answer
       WHERE sitting_id = $1 ORDER BY seat`,
      [sittingId],
    );
    expect(rows).toEqual([
      { heardS: [2.5, 3], durationS: 20, serverS: 20, hasty: false },
      { heardS: [7, 6.5], durationS: 31, serverS: 31, hasty: false },
    ]);
    // The next trial begins without what was heard of the last.
    await conduct(conductor, DEVICE, { what: 'next', from: 1 }, later(40));
    await conduct(conductor, DEVICE, { what: 'heard', from: 2 }, later(50));
    await answer(token, ada, given(2), later(52));
    const second = await db().rows(
      'SELECT heard_s AS "heardS", server_s AS "serverS" FROM answer WHERE sitting_id = $1 AND position = 2',
      [sittingId],
    );
    expect(second).toEqual([{ heardS: [0, 0], serverS: 12 }]);
  });

  it('tells its conductor no chain, and plays each clip equally loud', async () => {
    const { token, conductor, sittingId } = await openRoom();
    await arrive(token, 'Cleo');
    await conduct(conductor, DEVICE, { what: 'next', from: 0 }, NOON);
    const view = await viewForConductor(conductor, DEVICE);
    const ids = await db().rows<{ id: string }>(
      'SELECT id::text FROM chain UNION SELECT id::text FROM take',
    );
    for (const secret of [...CHAIN_NAMES, ...ids.map(({ id }) => id)]) {
      expect(JSON.stringify(view)).not.toContain(secret);
    }
    const lengths = new Set<number>();
    for (const { address } of view.clips) {
      lengths.add(
        (await servedCopy((await clipForConductor(conductor, DEVICE, address)).order)).length,
      );
    }
    expect(lengths.size).toBe(1);
    // Phones get no sound of the trials, and the conductor none of another trial.
    await expect(clipFor(token, undefined, view.clips[0]!.address)).rejects.toMatchObject({
      status: 401,
    });
    const { address } = await one(
      db().rows<{ address: string }>(
        'SELECT address FROM trial_clip WHERE sitting_id = $1 AND seat = 1 AND position = 3',
        [sittingId],
      ),
    );
    await expect(clipForConductor(conductor, DEVICE, address)).rejects.toMatchObject({
      status: 404,
    });
    await closeSitting(engineer, bank.comparisonId, sittingId, NOON);
    await expect(
      conduct(conductor, DEVICE, { what: 'heard', from: 1 }, NOON),
    ).rejects.toMatchObject({
      status: 409,
    });
    await expect(viewForConductor('a-link-that-is-made-up', DEVICE)).rejects.toMatchObject({
      status: 404,
    });
    await expect(viewForConductor(token, DEVICE)).rejects.toMatchObject({ status: 404 });
  });
});

describe('a conductor’s link', () => {
  it('is kept as a hash only, and belongs to the first device that plays', async () => {
    const { sittingId, conductor } = await openRoom();
    const stored = await db().rows('SELECT * FROM conductor_link WHERE sitting_id = $1', [
      sittingId,
    ]);
    expect(JSON.stringify(stored)).not.toContain(conductor);
    // Looking is not playing: whoever sends the link may have it looked at by a machine on its way.
    await viewForConductor(conductor, undefined);
    await viewForConductor(conductor, 'another device');
    await expect(
      conduct(conductor, undefined, { what: 'next', from: 0 }, NOON),
    ).rejects.toMatchObject({
      status: 401,
    });
    await conduct(conductor, DEVICE, { what: 'next', from: 0 }, NOON);
    for (const device of [undefined, 'another device']) {
      await expect(viewForConductor(conductor, device)).rejects.toThrow('another device');
      await expect(conduct(conductor, device, { what: 'heard', from: 1 }, NOON)).rejects.toThrow(
        'another device',
      );
    }
    // The phone is lost: another link, another device, the same place.
    const { token } = await makeConductorLink(engineer, sittingId, NOON);
    expect(await viewForConductor(token, 'another device')).toMatchObject({ position: 1 });
    await conduct(token, 'another device', { what: 'heard', from: 1 }, NOON);
  });

  it('is made by people of the studio only, for rooms only', async () => {
    const { sittingId } = await openRoom();
    const stranger = await testEngineer('Nobody Here');
    await expect(makeConductorLink(stranger, sittingId, NOON)).rejects.toMatchObject({
      status: 404,
    });
    const home = await openTestSitting(engineer, bank.comparisonId);
    await expect(makeConductorLink(engineer, home.sittingId, NOON)).rejects.toMatchObject({
      status: 404,
    });
  });
});

describe('a short code', () => {
  const codeOf = async (sittingId: string) => {
    const { code } = await one(
      db().rows<{ code: string }>('SELECT code FROM sitting WHERE id = $1', [sittingId]),
    );
    return code;
  };

  it('leads to the open sitting for a day, and nowhere afterwards', async () => {
    const { token, sittingId } = await openTestSitting(engineer, bank.comparisonId);
    const code = await codeOf(sittingId);
    expect(shortCode.parse({ code: ` ${code.toLowerCase()} ` }).code).toBe(code);
    expect(await linkOfCode(code, 'here', NOON)).toEqual({ token });
    const later = new Date(NOON.getTime() + 25 * 3600 * 1000);
    await expect(linkOfCode(code, 'here', later)).rejects.toMatchObject({ status: 404 });
    await closeSitting(engineer, bank.comparisonId, sittingId, NOON);
    await expect(linkOfCode(code, 'here', NOON)).rejects.toMatchObject({ status: 404 });
  });

  it('cannot be guessed at leisure', async () => {
    const later = new Date(NOON.getTime() + 48 * 3600 * 1000);
    for (let i = 0; i < 60; i++) {
      await expect(linkOfCode('222222', 'there', later)).rejects.toMatchObject({ status: 404 });
    }
    await expect(linkOfCode('222222', 'there', later)).rejects.toMatchObject({ status: 429 });
    await expect(linkOfCode('222222', 'another place', later)).rejects.toMatchObject({
      status: 404,
    });
  });
});
