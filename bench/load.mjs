// Three hundred listeners at once through the real interface, all in one sitting: `node bench/load.mjs`. Each
// downloads its clips and answers at the pace of a quick person. Needs a build; bounded to a few minutes. More than
// three hundred come one after another, as seats fall free: `node bench/load.mjs 2000` fills the largest sitting there
// is in a quarter of an hour. `node bench/load.mjs 300 two` spreads them over two web processes, each with a worker, on
// one PostgreSQL.
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
const AT_ONCE = 300;
const SEATS = 2000;
const TRIALS = LISTENERS > AT_ONCE ? 2 : 4;
/** From one answer to the next; two clips of 7.5 s are not heard faster. */
const TRIAL_MS = 20_000;

const bank = await startBank(4392);
const banks = process.argv[3] === 'two' ? [bank, await startBank(4394, { beside: bank })] : [bank];
try {
  const sealing = Date.now();
  const { token, sittingId } = await openSitting(bank, {
    seats: SEATS,
    trials: TRIALS,
    title: 'A crowd',
  });
  const sealedMs = Date.now() - sealing;
  const listeners = Array.from(
    { length: LISTENERS },
    (_, i) => new Listener(banks[i % banks.length], token, `Listener ${i + 1}`),
  );
  const began = Date.now();
  const machine = watchMachine();
  const webSeconds = () => banks.reduce((sum, one) => sum + processorSeconds(one, 'web.mjs'), 0);
  const used = webSeconds();
  let bytes = 0;
  const sit = async (listener) => {
    await pause(TRIAL_MS * Math.random());
    await listener.join();
    while (!listener.finished) {
      const from = Date.now();
      // Added up only once it is known: others add meanwhile.
      const heard = await listener.hear();
      bytes += heard;
      await pause(Math.max(0, TRIAL_MS * (0.75 + 0.5 * Math.random()) - (Date.now() - from)));
      await listener.answer();
    }
  };
  const coming = listeners.values();
  const seat = async () => {
    for (const listener of coming) await sit(listener);
  };
  await Promise.all(Array.from({ length: Math.min(AT_ONCE, LISTENERS) }, seat));
  const seconds = (Date.now() - began) / 1000;
  const web = (webSeconds() - used).toFixed(0);
  const ms = listeners.flatMap(({ answerMs }) => answerMs);
  const found = await reckon(bank, sittingId, listeners);
  const lost = found.lost + found.doubled;
  console.log(
    `sealing ${SEATS} seats of ${TRIALS} trials: ${(sealedMs / 1000).toFixed(1)} s; ${LISTENERS} listeners, ${banks.length} web and ${banks.length} worker, ${seconds.toFixed(0)} s: ${found.acknowledged} answers, ${lost} lost or doubled; an answer takes ` +
      `${quantile(ms, 0.5).toFixed(0)} ms (median), ${quantile(ms, 0.99).toFixed(0)} ms (99 %), ` +
      `${Math.max(...ms).toFixed(0)} ms at most; ${(bytes / 1e6 / seconds).toFixed(1)} MB/s of clips; ` +
      `${machine()}; web used ${web} s`,
  );
  if (lost > 0) process.exitCode = 1;
} finally {
  for (const one of banks.toReversed()) await one.stop();
}
