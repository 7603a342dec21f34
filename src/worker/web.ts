import { createServer, type IncomingMessage, type ServerResponse } from 'node:http';
import next from 'next';
import { z } from 'zod';
import { ADDRESS_HEADER, clientAddress } from '@/platform/client-address';
import { hostsOf, mayBeAsked } from '@/platform/hosts';
import { log } from '@/platform/log';
import { openStreams } from '@/platform/open-streams';

const settings = z
  .object({
    HOST: z.string(),
    PORT: z.coerce.number().int(),
    ZEITBANK_ROOT: z.string(),
    ZEITBANK_HOSTS: z.string().optional(),
    /** How many proxies of ours stand in front and say whom they pass on. */
    ZEITBANK_PROXIES: z.coerce.number().int().min(0).max(9).default(0),
  })
  .parse(process.env);

const hosts = hostsOf(settings.ZEITBANK_HOSTS, settings.HOST);
/** Pages are only read; whatever changes something is a route. */
const READING = new Set(['GET', 'HEAD']);
const CLOSE_IDLE_EVERY_MS = 50;
/** What a proxy says of the outside, believed only where there is one. */
const TOLD_BY_PROXIES = ['x-forwarded-host', 'x-forwarded-proto', 'x-forwarded-port', 'forwarded'];

function refuse(response: ServerResponse, status: number, sentence: string): void {
  response.writeHead(status, { 'content-type': 'text/plain; charset=utf-8', connection: 'close' });
  response.end(`${sentence}\n`);
}

/** Refuses at the door what no page or route should have to think of. @returns whether it may come in */
function admit(request: IncomingMessage, response: ServerResponse): boolean {
  const { headers } = request;
  const forwarded = headers[ADDRESS_HEADER];
  const told = Array.isArray(forwarded) ? forwarded.join(',') : forwarded;
  const { ZEITBANK_PROXIES: proxies } = settings;
  headers[ADDRESS_HEADER] = clientAddress(request.socket.remoteAddress ?? '', told, proxies);
  if (proxies === 0) for (const name of TOLD_BY_PROXIES) delete headers[name];
  const outside = headers['x-forwarded-host'];
  const asked = [headers.host, ...(typeof outside === 'string' ? [outside] : [])];
  if (!asked.every((host) => mayBeAsked(host, hosts))) {
    refuse(response, 421, 'This bank is not known by this name; ZEITBANK_HOSTS lists its names.');
    return false;
  }
  if (!READING.has(request.method ?? '') && !request.url?.startsWith('/api/')) {
    refuse(response, 405, 'Pages are only read.');
    return false;
  }
  return true;
}

async function main(): Promise<void> {
  const { HOST: hostname, PORT: port, ZEITBANK_ROOT: dir } = settings;
  const app = next({ dev: false, dir, hostname, port });
  await app.prepare();
  const handle = app.getRequestHandler();
  let stopping = false;
  const server = createServer((request, response) => {
    // Otherwise a connection that is in use goes on, and with it what should have ended.
    if (stopping) response.shouldKeepAlive = false;
    if (!admit(request, response)) return;
    handle(request, response).catch((error: unknown) => {
      log.error({ err: error }, 'web: a request failed');
      if (response.headersSent) response.destroy();
      else refuse(response, 500, 'Something went wrong here; what was stored before is kept.');
    });
  });
  const stop = () => {
    if (stopping) return;
    stopping = true;
    for (const end of openStreams) end();
    // What is being answered is answered; then nothing is left to wait for.
    server.close(() => process.exit(0));
    setInterval(() => server.closeIdleConnections(), CLOSE_IDLE_EVERY_MS);
  };
  process.on('SIGTERM', stop);
  process.on('SIGINT', stop);
  process.once('disconnect', () => process.exit(0));
  server.listen(port, hostname, () => process.send?.('ready'));
}

main().catch((error: unknown) => {
  log.fatal({ err: error }, 'web: ended');
  process.exit(1);
});
