import 'server-only';
import { existsSync } from 'node:fs';
import type { Browser } from 'playwright-core';
import { config } from './config';
import { UserError } from './errors';
import { log } from './log';
import type { Paper } from './paper';
import { SESSION_COOKIE } from './sign-in/cookie';

/** Where Debian's package and others of its kind put the browser. */
const BROWSERS = ['/usr/bin/chromium', '/usr/bin/chromium-browser'];
/** A long report takes seconds; whatever takes longer hangs. */
const LONGEST_MS = 90_000;

const browserPath = () => BROWSERS.find((path) => existsSync(path)) ?? null;

/** Whether pages can be printed here. */
export const canPrint = () => browserPath() !== null;

/** One at a time: a browser takes much of the memory that answers want. */
let before: Promise<unknown> = Promise.resolve();

/**
 * A page of this bank as a PDF, printed by the browser that is installed beside it, as whoever asks would see it.
 * @param path of the page, from the root
 * @param cookie session of whoever asks; nothing else lets the browser in
 * @throws UserError where no browser is installed, or the page could not be printed
 */
export async function printed(path: string, cookie: string, paper: Paper): Promise<Uint8Array> {
  const executablePath = browserPath();
  if (executablePath === null) {
    throw new UserError(
      409,
      'No Chromium is installed on the bank’s machine; print the report from your browser instead.',
    );
  }
  const mine = before.then(() => print(executablePath, path, cookie, paper));
  before = mine.catch(() => undefined);
  return mine;
}

async function print(
  executablePath: string,
  path: string,
  cookie: string,
  paper: Paper,
): Promise<Uint8Array> {
  // Its own sandbox needs a user of its own; the only pages it opens are the bank's.
  const isRoot = process.getuid?.() === 0;
  let browser: Browser | undefined;
  try {
    // Only where something is printed; who looks at the report on screen needs none of it.
    const { chromium } = await import('playwright-core');
    browser = await chromium.launch({
      executablePath,
      timeout: LONGEST_MS,
      // How this process ends is its own affair; the browser ends when its pipe closes.
      handleSIGINT: false,
      handleSIGTERM: false,
      handleSIGHUP: false,
      args: ['--disable-gpu', '--disable-background-networking', '--disable-sync'].concat(
        isRoot ? '--no-sandbox' : [],
      ),
    });
    const url = config().ZEITBANK_ITSELF;
    const context = await browser.newContext({ viewport: { width: 660, height: 960 } });
    context.setDefaultTimeout(LONGEST_MS);
    await context.addCookies([{ name: SESSION_COOKIE, value: cookie, url }]);
    const page = await context.newPage();
    const answer = await page.goto(`${url}${path}`, { waitUntil: 'load' });
    if (answer?.status() === 404) throw new UserError(404, 'There is no report to print yet.');
    if (!answer?.ok()) throw new Error(`the page answered ${answer?.status()}`);
    // Pictures are drawn once the page is awake.
    const drawing = page.locator('[data-drawing]');
    while ((await drawing.count()) > 0) await drawing.first().waitFor({ state: 'detached' });
    await page.evaluate(async () => {
      await document.fonts.ready;
      await new Promise((drawn) => requestAnimationFrame(() => requestAnimationFrame(drawn)));
    });
    return await page.pdf({ format: paper });
  } catch (error) {
    if (error instanceof UserError) throw error;
    log.error({ err: error }, 'a page was not printed');
    throw new UserError(
      503,
      'The report could not be printed on the bank’s machine; nothing was changed. Print it from your browser instead.',
    );
  } finally {
    await browser?.close();
  }
}
