// An upgrade while fifty people listen: two web processes over one bank behind a small proxy, ended and started again one
// after the other as a new version would be: `node bench/rolling.mjs`. No acknowledged answer may be lost or doubled,
// and every listener comes to the end. Needs a build; some four minutes.
import http from 'node:http';
import { Listener, openSitting, pause, query, reckon, startBank } from './panel.mjs';

const LISTENERS = 50;
const TRIALS = 30;
const ROUNDS = 3;
const PORTS = [4391, 4392];
const PROXY_PORT = 4390;

/** How often a request went to the other process, and how often neither took it. */
const told = { moved: 0, refused: 0 };

/** Asks one process, and the other where the first does not listen; what was begun is never sent twice. */
function pass(request, response, body, ports) {
  const [port, ...others] = ports;
  const onward = http.request(
    {
      host: '127.0.0.1',
      port,
      method: request.method,
      path: request.url,
      headers: request.headers,
    },
    (answer) => {
      response.writeHead(answer.statusCode, answer.headers);
      answer.pipe(response);
    },
  );
  onward.on('error', (error) => {
    if (error.code === 'ECONNREFUSED' && others.length > 0) {
      told.moved++;
      pass(request, response, body, others);
      return;
    }
    told.refused++;
    if (response.headersSent) response.destroy();
    else response.writeHead(502).end();
  });
  onward.end(body);
}

let turn = 0;
const proxy = http.createServer((request, response) => {
  const parts = [];
  request.on('data', (part) => parts.push(part));
  request.on('end', () => {
    const first = turn++ % 2;
    pass(request, response, Buffer.concat(parts), [PORTS[first], PORTS[1 - first]]);
  });
});

const ready = async (port) => {
  for (let i = 0; i < 240; i++) {
    const up = await fetch(`http://127.0.0.1:${port}/api/health`).catch(() => null);
    if (up?.ok) return;
    await pause(250);
  }
  throw new Error(`the process on ${port} did not come back`);
};

const first = await startBank(PORTS[0]);
const second = await startBank(PORTS[1], { beside: first });
try {
  await new Promise((resolve) => proxy.listen(PROXY_PORT, '127.0.0.1', resolve));
  const { token, sittingId } = await openSitting(first, {
    seats: LISTENERS,
    trials: TRIALS,
    title: 'Upgraded on the way',
  });
  const bank = { ...first, base: `http://127.0.0.1:${PROXY_PORT}` };
  const listeners = Array.from(
    { length: LISTENERS },
    (_, i) => new Listener(bank, token, `Listener ${i + 1}`),
  );
  await Promise.all(listeners.map((listener) => listener.join()));
  const began = Date.now();
  let left = LISTENERS;
  const answering = listeners.map(async (listener) => {
    while (!listener.finished) {
      await listener.answer();
      await pause(1000 + 2000 * Math.random());
    }
    left--;
  });
  let restarts = 0;
  for (let round = 0; round < ROUNDS; round++) {
    for (const [i, own] of [first, second].entries()) {
      await pause(4000);
      process.kill(own.pidOf('web.mjs'), 'SIGTERM');
      await pause(1000);
      await ready(PORTS[i]);
      restarts++;
    }
  }
  const during = left;
  await Promise.all(answering);
  const found = await reckon(first, sittingId, listeners);
  const [{ count }] = await query(
    first,
    'SELECT count(DISTINCT (listener_id, position))::int AS count FROM answer WHERE sitting_id = $1',
    [sittingId],
  );
  const slowest = Math.max(...listeners.flatMap(({ answerMs }) => answerMs));
  console.log(
    `${restarts} restarts under ${LISTENERS} listeners (${during} were still answering after the last) in ${Math.round((Date.now() - began) / 1000)} s: ` +
      `${found.acknowledged} answers acknowledged, ${count} kept of ${LISTENERS * TRIALS}, ${found.lost} lost, ${found.doubled} doubled, ` +
      `${found.unknown} kept without an acknowledgement; ${told.moved} requests went to the other process, ${told.refused} were asked again; slowest answer ${Math.round(slowest)} ms`,
  );
  if (count !== LISTENERS * TRIALS || found.lost > 0 || found.doubled > 0) process.exitCode = 1;
} finally {
  proxy.close();
  proxy.closeAllConnections();
  await second.stop();
  await first.stop();
}
