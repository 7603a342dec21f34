import { chmodSync, existsSync, mkdtempSync, rmSync, statSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import pg from 'pg';
import { startCluster } from './cluster';

let folder: string;
beforeAll(() => {
  folder = mkdtempSync(path.join(os.tmpdir(), 'cluster '));
  // As root the server runs as another user, who must be able to enter.
  chmodSync(folder, 0o755);
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));

async function ask(url: string, text: string): Promise<Record<string, string>[]> {
  const client = new pg.Client({ connectionString: url });
  client.on('error', () => undefined);
  await client.connect();
  try {
    return (await client.query<Record<string, string>>(text)).rows;
  } finally {
    await client.end();
  }
}

it('keeps its data through a proper stop, a killed server and a killed starter', async () => {
  const first = await startCluster(folder);
  await ask(first.url, 'CREATE TABLE kept (word text)');
  await ask(first.url, `INSERT INTO kept VALUES ('once')`);
  const settings = await ask(
    first.url,
    `SELECT current_setting('listen_addresses') AS listen, current_setting('unix_socket_directories') AS socket`,
  );
  expect(settings).toEqual([{ listen: '127.0.0.1', socket: '' }]);
  await expect(ask(first.url.replace(/:[^:@]*@/, ':wrong@'), 'SELECT 1')).rejects.toThrow(
    /password/,
  );

  // The server is killed: it comes back on the same port.
  first.process().kill('SIGKILL');
  await new Promise((resolve) => first.process().once('exit', resolve));
  for (let i = 0; ; i++) {
    try {
      await first.restart();
      break;
    } catch (error) {
      if (i === 20) throw error;
      await new Promise((resolve) => setTimeout(resolve, 500));
    }
  }
  expect(await ask(first.url, 'SELECT word FROM kept')).toEqual([{ word: 'once' }]);

  // Whoever started it is gone without stopping it: the next start takes over.
  const second = await startCluster(folder);
  expect(await ask(second.url, 'SELECT word FROM kept')).toEqual([{ word: 'once' }]);
  await expect(ask(first.url, 'SELECT 1')).rejects.toThrow();
  await second.stop();
  await expect(ask(second.url, 'SELECT 1')).rejects.toThrow();
  expect(statSync(path.join(folder, 'postgres.secret')).mode & 0o077).toBe(0);
});

it('begins anew when its folder was cleared', async () => {
  rmSync(path.join(folder, 'postgres.secret'));
  const again = await startCluster(folder, false);
  await expect(ask(again.url, 'SELECT word FROM kept')).rejects.toThrow(/does not exist/);
  await again.stop();
  expect(existsSync(path.join(folder, 'postgres.secret'))).toBe(true);
});
