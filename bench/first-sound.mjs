// From the tap to the first sound on a connection of 10 Mbit/s: `node bench/first-sound.mjs`. Needs a build and
// Debian's Chromium.
import { chromium } from 'playwright-core';
import { openSitting, startBank } from './panel.mjs';

const BITS_PER_S = 10e6;
const LATENCY_MS = 20;

/** Taps, and waits until the page says that something sounds. @returns milliseconds */
async function soundAfter(page, button) {
  const began = Date.now();
  await button.click();
  await page.locator('[data-sounding], [aria-pressed=true]').first().waitFor();
  return Date.now() - began;
}

const bank = await startBank(4395);
const browser = await chromium.launch({
  executablePath: '/usr/bin/chromium',
  args: ['--no-sandbox', '--disable-gpu', '--disable-quic', '--disable-background-networking'],
});
try {
  const { token } = await openSitting(bank, { seats: 4, trials: 3, title: 'By a thin wire' });
  const page = await (await browser.newContext()).newPage();
  const session = await page.context().newCDPSession(page);
  await session.send('Network.enable');
  const throughput = BITS_PER_S / 8;
  await session.send('Network.emulateNetworkConditions', {
    offline: false,
    latency: LATENCY_MS,
    downloadThroughput: throughput,
    uploadThroughput: throughput,
  });
  const began = Date.now();
  await page.goto(`${bank.base}/listen/${token}`);
  await page.getByLabel('A name for you').fill('Wire');
  await page.getByRole('checkbox').check();
  console.log(`the page is usable after ${Date.now() - began} ms`);
  await page.getByRole('button', { name: 'Begin' }).click();
  const play = page.getByRole('button', { name: 'Play' });
  await play.waitFor();
  const tapped = Date.now();
  await play.click();
  await page.getByRole('button', { name: /^(Stop|Pause)/ }).waitFor();
  console.log(`level: first sound ${Date.now() - tapped} ms after the tap, tapped at once`);
  await page.getByRole('button', { name: 'The level is comfortable' }).click();
  const slips = page.getByRole('button', { name: /^Hear / });
  await slips.first().waitFor();
  console.log(
    `practice: ${await soundAfter(page, slips.first())} ms after the tap, tapped at once`,
  );
  await page.waitForTimeout(2600);
  await slips.nth(1).click();
  await page.getByText('Now choose.').waitFor();
  await page.getByRole('button', { name: 'Spool suits better' }).click();
  await page.getByRole('button', { name: 'Begin the sitting' }).click();
  await page.getByText('Pair 1 of').waitFor();
  console.log(
    `first trial: ${await soundAfter(page, slips.first())} ms after the tap, tapped at once`,
  );
} finally {
  await browser.close();
  await bank.stop();
}
