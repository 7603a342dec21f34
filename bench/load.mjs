// Three hundred listeners at once through the real interface: `node bench/load.mjs`. Each downloads its
// clips and answers at the pace of a quick person. Needs a build; bounded to a few minutes. `node bench/load.mjs
// 300 two` spreads them over two web processes, each with a worker, on one PostgreSQL.
import {
  Listener,
  openSitting,
  pause,
  processorSeconds,
  quantile,
  reckon,
  startBank,
  watchMachine,
} from './panel.mjs';

const LISTENERS = Number(process.argv[2] ?? 300);
/** Listeners of one sitting; seats are left for those whose joining is acknowledged too late. */
const CROWD = 75;
const SEATS = 100;
const TRIALS = 4;
/** From one answer to the next; two clips of 7.5 s are not heard faster. */
const TRIAL_MS = 20_000;

const bank = await startBank(4392);
const banks = process.argv[3] === 'two' ? [bank, await startBank(4394, bank)] : [bank];
try {
  const sittings = [];
  for (let i = 0; i * CROWD < LISTENERS; i++) {
    sittings.push(
      await openSitting(bank, { seats: SEATS, trials: TRIALS, title: `Crowd ${i + 1}` }),
    );
  }
  const listeners = Array.from(
    { length: LISTENERS },
    (_, i) =>
      new Listener(
        banks[i % banks.length],
        sittings[Math.floor(i / CROWD)].token,
        `Listener ${i + 1}`,
      ),
  );
  const began = Date.now();
  const machine = watchMachine();
  const webSeconds = () => banks.reduce((sum, one) => sum + processorSeconds(one, 'web.mjs'), 0);
  const used = webSeconds();
  let bytes = 0;
  await Promise.all(
    listeners.map(async (listener) => {
      await pause(TRIAL_MS * Math.random());
      await listener.join();
      while (!listener.finished) {
        const from = Date.now();
        const heard = await listener.hear();
        bytes += heard;
        await pause(Math.max(0, TRIAL_MS * (0.75 + 0.5 * Math.random()) - (Date.now() - from)));
        await listener.answer();
      }
    }),
  );
  const seconds = (Date.now() - began) / 1000;
  const web = (webSeconds() - used).toFixed(0);
  const ms = listeners.flatMap(({ answerMs }) => answerMs);
  let [acknowledged, lost] = [0, 0];
  for (const { token, sittingId } of sittings) {
    const own = listeners.filter((listener) => listener.token === token);
    const found = await reckon(bank, sittingId, own);
    acknowledged += found.acknowledged;
    lost += found.lost + found.doubled;
  }
  console.log(
    `${LISTENERS} listeners, ${banks.length} web and ${banks.length} worker, ${seconds.toFixed(0)} s: ${acknowledged} answers, ${lost} lost or doubled; an answer takes ` +
      `${quantile(ms, 0.5).toFixed(0)} ms (median), ${quantile(ms, 0.99).toFixed(0)} ms (99 %), ` +
      `${Math.max(...ms).toFixed(0)} ms at most; ${(bytes / 1e6 / seconds).toFixed(1)} MB/s of clips; ` +
      `${machine()}; web used ${web} s`,
  );
  if (lost > 0) process.exitCode = 1;
} finally {
  for (const one of banks.toReversed()) await one.stop();
}
