import { createServer, type Server } from 'node:http';
import { PAPERS } from '@/ui/tokens';

const LOOK_EVERY_S = 2;

// A page that is fetched in the moment when nobody answers is lost to the browser's own error: it asks first.
const LOOK_AGAIN = `setInterval(() => fetch(location.href).then(() => location.reload(), () => {}), ${LOOK_EVERY_S * 1000});`;

const escaped = (text: string) =>
  text.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('>', '&gt;');

/** What stands at the bank's address while nothing else can. */
export class Notice {
  private server: Server | null = null;
  /** One sentence of what goes on. */
  said = '';

  private page(): string {
    const { ink, sheet, soft } = PAPERS.light;
    return `<!doctype html><html lang="en"><meta charset="utf-8">
<noscript><meta http-equiv="refresh" content="${LOOK_EVERY_S}"></noscript>
<meta name="viewport" content="width=device-width"><title>Zeitbank</title>
<body style="font: 1.0625rem/1.5 sans-serif; color: ${ink}; background: ${sheet}; max-width: 36rem; margin: 3rem auto; padding: 0 1.25rem">
<p style="font: 600 1rem serif">Zeitbank</p>
<h1 style="font: 600 1.75rem serif; margin: 1.5rem 0 0.5rem">A copy is being brought back</h1>
<p role="status">${escaped(this.said)}</p>
<p style="color: ${soft}">This page goes on by itself. Leave the machine running; if it stops, the bank is as it was.</p>
<script>${LOOK_AGAIN}</script>`;
  }

  listen(port: number, host: string): Promise<void> {
    const server = createServer((request, response) => {
      const headers = { 'retry-after': String(LOOK_EVERY_S), 'cache-control': 'no-store' };
      if (request.url?.startsWith('/api/')) {
        response.writeHead(503, { ...headers, 'content-type': 'application/json' });
        response.end(JSON.stringify({ error: 'A copy of this bank is being brought back; wait.' }));
        return;
      }
      response.writeHead(503, { ...headers, 'content-type': 'text/html; charset=utf-8' });
      response.end(this.page());
    });
    this.server = server;
    return new Promise((resolve, reject) => {
      server.once('error', reject);
      server.listen(port, host, () => resolve());
    });
  }

  close(): Promise<void> {
    const { server } = this;
    this.server = null;
    if (!server) return Promise.resolve();
    return new Promise((resolve) => {
      server.close(() => resolve());
      server.closeAllConnections();
    });
  }
}
