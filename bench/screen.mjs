// A comparison with a thousand takes on screen: `node bench/screen.mjs`. Needs a build and Debian's Chromium.
import { chromium } from 'playwright-core';
import { query, startBank } from './panel.mjs';

const TAKES = 1000;

/** Longest pause between two frames while something is done. */
async function longestFrame(page, work) {
  await page.evaluate(() => {
    window.frames_ = [];
    let before = performance.now();
    const step = (now) => {
      window.frames_.push(now - before);
      before = now;
      window.request_ = requestAnimationFrame(step);
    };
    window.request_ = requestAnimationFrame(step);
  });
  await work();
  return page.evaluate(() => {
    cancelAnimationFrame(window.request_);
    return Math.round(Math.max(...window.frames_));
  });
}

const bank = await startBank(4396);
const browser = await chromium.launch({
  executablePath: '/usr/bin/chromium',
  args: ['--no-sandbox', '--disable-gpu', '--disable-quic', '--disable-background-networking'],
});
try {
  const [{ id }] = await query(
    bank,
    `WITH model AS (SELECT * FROM take WHERE state = 'ready' ORDER BY created_at LIMIT 1),
       sound AS (INSERT INTO audio (byte_length, created_at)
         SELECT 44, now() FROM generate_series(1, $1) RETURNING id),
       made AS (INSERT INTO take (comparison_id, chain_id, audio_id, file_name, state, facts, checks,
           peaks, created_at, programme, detail, source_name)
         SELECT comparison_id, chain_id, sound.id, 'take ' || sound.id || '.wav', state, facts, checks,
           peaks, now(), 'noise', '', source_name FROM model, sound)
     SELECT comparison_id AS id FROM model`,
    [TAKES],
  );
  const page = await (await browser.newContext()).newPage();
  await page.goto(`${bank.base}/sign-in`);
  await page.getByLabel('Name').fill(bank.demo.name);
  await page.getByLabel('Password').fill(bank.demo.password);
  await page.getByRole('button', { name: 'Sign in' }).click();
  await page.getByRole('link', { name: 'Contralto, which chain?' }).waitFor();
  for (const step of ['takes', 'match']) {
    const began = Date.now();
    await page.goto(`${bank.base}/comparisons/${id}/${step}`);
    await page.getByRole('heading', { level: 1 }).waitFor();
    const shown = Date.now() - began;
    const scroll = await longestFrame(page, async () => {
      for (let i = 0; i < 30; i++) {
        await page.mouse.wheel(0, 400);
        await page.waitForTimeout(40);
      }
    });
    console.log(
      `${step} with ${TAKES} more takes: shown after ${shown} ms, longest frame while scrolling ${scroll} ms`,
    );
  }
  await page.goto(`${bank.base}/comparisons/${id}/takes`);
  const next = page.getByRole('button', { name: /next page/i });
  await next.waitFor();
  const turn = await longestFrame(page, async () => {
    for (let i = 0; i < 5; i++) await next.click();
  });
  console.log(`turning pages: longest frame ${turn} ms`);
} finally {
  await browser.close();
  await bank.stop();
}
