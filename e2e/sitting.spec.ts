import { expect, type Page, test } from '@playwright/test';
import {
  EVERY_TASK,
  faults,
  joinRoom,
  openSitting,
  query,
  setRoomLevel,
  settleIn,
  signIn,
  step,
  walkParts,
} from './bank';
import { one } from '../src/platform/one';

test('every task is walked to its end on a phone, with the network cut in between', async ({
  page,
  browser,
}) => {
  test.setTimeout(420_000);
  await signIn(page);
  const { id, token } = await openSitting(page, EVERY_TASK, {});
  const context = await browser.newContext({ viewport: { width: 390, height: 844 } });
  const listener = await context.newPage();
  await settleIn(listener, `/listen/${token}`, 'Walker');
  await walkParts(listener, EVERY_TASK, async (part, answer) => {
    expect(await faults(listener), part.task).toEqual([]);
    if (part.task === 'line') {
      // Letters and digits of a remark are no keys of the trial.
      await listener.getByText('Add a remark').click();
      const remark = listener.getByLabel('In your own words');
      await remark.pressSequentially('1 is boxy, 2 a bit ?');
      await expect(remark).toHaveValue('1 is boxy, 2 a bit ?');
      expect(await faults(listener), 'remark').toEqual([]);
      await remark.blur();
    }
    if (part.task !== 'reference') return answer();
    await context.setOffline(true);
    await answer();
    await expect(
      listener.getByText('Your answer is kept and is sent as soon as it can be.'),
    ).toBeVisible();
    await context.setOffline(false);
  });
  await expect(listener.getByRole('heading', { name: /^Thank you/ })).toBeVisible();
  const { count } = await one(
    query<{ count: number }>('SELECT count(*)::int AS count FROM answer WHERE sitting_id = $1', [
      id,
    ]),
  );
  expect(count).toBe(EVERY_TASK.length + 1);
  const remarks = await query('SELECT remark FROM answer WHERE sitting_id = $1 AND remark <> $2', [
    id,
    '',
  ]);
  expect(remarks).toEqual([{ remark: '1 is boxy, 2 a bit ?' }]);
  await context.close();
});

test('in the room: the conductor plays, phones answer, and a reload loses no place', async ({
  page,
  browser,
}) => {
  test.setTimeout(540_000);
  await signIn(page);
  const parts = EVERY_TASK.filter(({ task }) => ['pair', 'line'].includes(task));
  const { id, conductor, code } = await openSitting(page, parts, { room: 'together' });
  const context = await browser.newContext();
  const stage = await context.newPage();
  await stage.goto(`/conduct/${conductor}`);
  await expect(stage.getByText(code)).toBeVisible();
  expect(await faults(stage)).toEqual([]);

  const phones: Page[] = [];
  for (const alias of ['Room Rosa', 'Room Rolf']) {
    const phone = await (
      await browser.newContext({ viewport: { width: 390, height: 844 } })
    ).newPage();
    await phone.goto('/listen');
    await phone.getByLabel('Code').fill(code.toLowerCase());
    await phone.getByRole('button', { name: 'Join' }).click();
    await expect(phone.getByText('The sound comes from the loudspeakers')).toBeVisible();
    await expect(phone.getByText('Headphones')).toBeHidden();
    await joinRoom(phone, alias);
    phones.push(phone);
  }
  await expect(stage.getByText('2 listeners have joined.')).toBeVisible();
  const [rosa, rolf] = phones as [Page, Page];
  // A phone in a room is asked for no headphones, and says what goes on.
  await setRoomLevel(stage);
  await expect(rosa.getByText('The level of the room is being set.')).toBeVisible();
  expect(await faults(stage)).toEqual([]);
  await stage.getByRole('button', { name: 'Practise one trial' }).click();
  await expect(rosa.getByText('Practice; nothing of it counts')).toBeVisible();
  await stage.getByRole('button', { name: 'Play each in turn' }).click();
  await expect(rosa.getByText('Now choose.')).toBeVisible({ timeout: 90_000 });
  await rosa.getByRole('button', { name: 'Spool suits better' }).click();
  await rosa.getByRole('button', { name: 'Done with this trial' }).click();
  await expect(rosa.getByText('You have practised; the first trial comes soon.')).toBeVisible();
  await expect(stage.getByText('1 of 2 have practised; 1 is still thinking.')).toBeVisible();
  await stage.getByRole('button', { name: 'Begin the trials' }).click();

  await expect(rosa.getByRole('heading', { name: 'Asked as pair?' })).toBeVisible();
  await expect(rosa.getByText('answering opens when all were played')).toBeVisible();
  await stage.getByRole('button', { name: 'Play each in turn' }).click();
  await expect(rosa.getByText('Now choose.')).toBeVisible({ timeout: 90_000 });
  // The conductor's page comes back to its place; so does a phone that fell asleep.
  await stage.reload();
  await rolf.reload();
  await expect(stage.getByText('0 of 2 have answered; 2 are still thinking.')).toBeVisible();
  for (const phone of phones) {
    expect(await faults(phone)).toEqual([]);
    await phone
      .getByRole('button', { name: /suits better$/ })
      .first()
      .click();
    await phone.getByRole('button', { name: 'Done with this trial' }).click();
    await expect(phone.getByRole('heading', { name: /^Kept/ })).toBeVisible();
  }
  await expect(stage.getByText('All have answered.')).toBeVisible();
  // On the way to the next trial nothing of this one can be played, however long the way is.
  let goOn = () => {};
  const held = new Promise<void>((resolve) => (goOn = resolve));
  await stage.route(`**/api/conduct/${conductor}/move`, async (route) => {
    await held;
    await route.continue();
  });
  await stage.getByRole('button', { name: 'Next trial' }).click();
  await expect(stage.getByRole('button', { name: /^(Play each in turn|Stop)$/ })).toBeDisabled();
  goOn();

  await expect(rosa.getByRole('heading', { name: 'Asked as line?' })).toBeVisible();
  await stage.getByRole('button', { name: 'Play each in turn' }).click();
  await expect(rosa.getByText('Now place each slip on the line.')).toBeVisible({
    timeout: 180_000,
  });
  const words = await rosa.getByRole('slider').all();
  const names = await Promise.all(words.map((slip) => slip.getAttribute('aria-label')));
  expect(names.length).toBe(6);
  for (const name of names) {
    await rosa.getByRole('slider', { name: name ?? '', exact: true }).focus();
    await rosa.keyboard.press('ArrowRight');
  }
  await rosa.getByRole('button', { name: 'Done with this trial' }).click();
  await expect(stage.getByText('1 of 2 have answered; 1 is still thinking.')).toBeVisible();
  await stage.getByRole('button', { name: 'End the sitting' }).click();
  await expect(rosa.getByRole('heading', { name: /^Thank you/ })).toBeVisible();
  await expect(rolf.getByRole('heading', { name: /^Thank you/ })).toBeVisible();
  const rows = await query<{ alias: string; position: number }>(
    `SELECT alias, position FROM answer JOIN listener ON listener.id = listener_id
     WHERE answer.sitting_id = $1 ORDER BY alias, position`,
    [id],
  );
  expect(rows).toEqual([
    { alias: 'Room Rolf', position: 1 },
    { alias: 'Room Rosa', position: 1 },
    { alias: 'Room Rosa', position: 2 },
  ]);
});

test('a plan is tried on simulated panels, rehearsed, and sealed; breaking the seal is no secret', async ({
  page,
  context,
}) => {
  test.setTimeout(420_000);
  await signIn(page);
  await page.getByRole('link', { name: 'Contralto, which chain?' }).click();
  await step(page, 'Sitting').click();
  // The demo's own sitting, which is not for a room, is the oldest.
  await page.getByRole('button', { name: 'Plan another like this' }).last().click();
  await page.getByRole('button', { name: 'Suggest parts for that time' }).click();
  await expect(page.getByRole('heading', { name: /^Part 1: Odd one out/ })).toBeVisible();
  const pairs = page.getByRole('region', { name: 'Part 3' });
  await pairs.getByRole('checkbox', { name: /^Adaptive/ }).check();
  await page.getByLabel('Add a part').click();
  await page.getByRole('option', { name: 'From memory' }).click();
  // Few listeners, so that thousands of panels of them leave the machine to the other tests.
  const listeners = page.getByLabel('Listeners, at most');
  const planned = await listeners.inputValue();
  await listeners.fill('3');
  await page.getByRole('button', { name: /Try on 2000 simulated panels/ }).click();
  const chance = page.getByRole('table', { name: 'Chance to find a difference' });
  await expect(chance.getByText(/^\d+ %$/).first()).toBeVisible({ timeout: 120_000 });
  await listeners.fill(planned);

  await page.getByRole('button', { name: 'Rehearse' }).click();
  const [rehearsal] = await Promise.all([
    context.waitForEvent('page'),
    page.getByRole('link', { name: 'walk through it as a listener' }).click(),
  ]);
  await expect(rehearsal.getByText('A rehearsal: walk through it')).toBeVisible();
  await rehearsal.close();
  const before = await query("SELECT id FROM sitting WHERE purpose = 'panel'");

  const title = `Sealed ${before.length}`;
  await page.getByLabel('What listeners are told they hear').fill(title);
  await page.getByRole('button', { name: 'Seal and open' }).click();
  await page.getByRole('button', { name: 'Seal for good' }).click();
  await expect(page.getByText(`${title}.`).first()).toBeVisible();
  // How even the orders are is counted, but where answers lead them nothing is said of them.
  const balance = page.getByText(/^Odd one out: each recording is heard \d+ times/);
  await expect(balance.first()).toBeVisible();
  await expect(page.getByText('chosen as each listener answers').first()).toBeVisible();
  await page.getByRole('button', { name: 'Break the seal' }).first().click();
  await page.getByLabel('Why it must be').fill('A loudspeaker broke in the middle.');
  const breaking = page.getByRole('button', { name: 'Break it' });
  await expect(breaking).toBeDisabled();
  await page.getByLabel(/^Type the title/).fill(title);
  await breaking.click();
  await expect(page.getByText(/The seal was broken .*A loudspeaker broke/)).toBeVisible();
});
