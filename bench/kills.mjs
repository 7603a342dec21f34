// Twenty listeners answer while web, worker and PostgreSQL are killed a hundred times: `node bench/kills.mjs`.
// No acknowledged answer may be lost or doubled. Needs a build; bounded to a quarter of an hour.
import { Listener, openSitting, pause, query, reckon, startBank } from './panel.mjs';

const KILLS = Number(process.argv[2] ?? 100);
const LISTENERS = 20;
const TRIALS = 120;
const MOST_MS = 15 * 60 * 1000;
const PARTS = ['web.mjs', 'postgres', 'worker.mjs'];

const bank = await startBank(4391);
try {
  const { token, sittingId } = await openSitting(bank, {
    seats: 100,
    trials: TRIALS,
    title: 'Killed on purpose',
  });
  const listeners = Array.from(
    { length: LISTENERS },
    (_, i) => new Listener(bank, token, `Listener ${i + 1}`),
  );
  await Promise.all(listeners.map((listener) => listener.join()));
  const began = Date.now();
  let over = false;
  const answering = listeners.map(async (listener) => {
    while (!over && !listener.finished) {
      await listener.answer();
      await pause(500 + 1500 * Math.random());
    }
  });
  let kills = 0;
  while (kills < KILLS && Date.now() - began < MOST_MS) {
    await pause(300 + 2700 * Math.random());
    if (bank.kill(PARTS[kills % PARTS.length])) kills++;
  }
  over = true;
  await Promise.all(answering);
  const found = await reckon(bank, sittingId, listeners);
  const [{ count }] = await query(
    bank,
    'SELECT count(DISTINCT (listener_id, position))::int AS count FROM answer WHERE sitting_id = $1',
    [sittingId],
  );
  const seconds = Math.round((Date.now() - began) / 1000);
  console.log(
    `${kills} kills in ${seconds} s, ${LISTENERS} listeners: ${found.acknowledged} answers acknowledged, ` +
      `${count} kept, ${found.lost} lost, ${found.doubled} doubled, ${found.unknown} kept without an acknowledgement`,
  );
  if (kills < KILLS || found.lost > 0 || found.doubled > 0 || found.unknown !== 0) {
    process.exitCode = 1;
  }
} finally {
  await bank.stop();
}
