import { rmSync } from 'node:fs';
import path from 'node:path';
import { expect, test } from '@playwright/test';
import { OwnBank } from './own-bank';

// What guards blindness, doors and data has one try: once is a fault.
test.describe.configure({ retries: 0 });

test('a bank of one’s own: its owner, its doors, and what it keeps', async ({ page }) => {
  test.setTimeout(300_000);
  const bank = new OwnBank();
  try {
    await bank.start();
    const word = /Setup word +(\S+)/.exec(bank.said)?.[1] ?? '';
    expect(word).toMatch(/^([a-z]+-){3}[a-z]+$/);

    // A page elsewhere whose name was made to point here gets nothing, and cannot claim the bank.
    const claim = { 'content-type': 'application/json', host: 'rebound.example' };
    for (const [method, address] of [
      ['GET', '/sign-in'],
      ['POST', '/api/sign-in'],
      ['GET', '/api/health'],
    ]) {
      expect((await bank.send(method!, address!, claim)).status, address).toBe(421);
    }
    const own = { host: `bank.example:${bank.port}` };
    expect((await bank.send('GET', '/api/health', own)).status).toBe(200);
    // Told by no proxy of ours, so believed by nobody.
    const told = { ...own, 'x-forwarded-host': 'rebound.example' };
    expect((await bank.send('GET', '/api/health', told)).status).toBe(200);
    expect((await bank.send('POST', '/sign-in', own)).status).toBe(405);

    await page.goto(bank.base);
    await page.getByLabel('Name').fill('Ilse Brandt');
    await page.getByLabel('Password').fill('lantern under snow');
    await page.getByLabel('Setup word').fill('otter-otter-otter-otter');
    await page.getByRole('button', { name: 'Open' }).click();
    await expect(page.getByText('This is not the setup word')).toBeVisible();
    await page.getByLabel('Setup word').fill(word);
    await page.getByRole('button', { name: 'Open' }).click();
    await expect(page.getByRole('link', { name: 'Ilse Brandt' })).toBeVisible();

    // A body is counted while it comes, whatever it promised.
    const before = bank.peakMb();
    const big = await bank
      .send(
        'POST',
        '/api/sign-in',
        { 'content-type': 'application/json' },
        { chunks: 300, bytes: 1 << 20 },
      )
      .catch((error: NodeJS.ErrnoException) => ({
        status: error.code === 'ECONNRESET' || error.code === 'EPIPE' ? 413 : 0,
      }));
    expect(big.status).toBe(413);
    expect(bank.peakMb() - before).toBeLessThan(100);

    // The password is changed, and what was signed in elsewhere is out.
    const elsewhere = await page.context().storageState();
    await page.getByRole('link', { name: 'Ilse Brandt' }).click();
    await page.getByLabel('Password now').fill('lantern under snow');
    await page.getByLabel('New password').fill('a heron by the river');
    await page.getByRole('button', { name: 'Change password' }).click();
    await expect(page.getByText('signed out everywhere else')).toBeVisible();
    await expect(page.getByRole('link', { name: 'Ilse Brandt' })).toBeVisible();
    const session = elsewhere.cookies.find(({ name }) => name === 'zeitbank')?.value;
    const old = await bank.send('PUT', '/api/account', { cookie: `zeitbank=${session}` });
    expect(old.status).toBe(401);

    // A web process that hangs is started again.
    const hung = bank.pidOf('web.mjs');
    process.kill(hung, 'SIGSTOP');
    await expect.poll(() => bank.said, { timeout: 90_000 }).toContain('does not answer');
    await expect
      .poll(
        () =>
          fetch(`${bank.base}/api/health`).then(
            ({ ok }) => ok,
            () => false,
          ),
        {
          timeout: 60_000,
        },
      )
      .toBe(true);
    expect(bank.pidOf('web.mjs')).not.toBe(hung);

    // The password of the database is lost: the bank and its owner are still there.
    await bank.stop();
    rmSync(path.join(bank.folder, 'postgres.secret'));
    await bank.start();
    expect(bank.said).not.toContain('Setup word');
    await page.goto(`${bank.base}/account`);
    await expect(page.getByRole('heading', { name: 'Ilse Brandt, owner' })).toBeVisible();
  } finally {
    await bank.remove();
  }
});
