import pg from 'pg';
import { migrate } from '@/platform/migrate';
import { startBoss } from '@/platform/jobs';
import { type Cluster, startCluster } from './cluster';

/** What each test file copies. */
const TEMPLATE = 'untouched';

/**
 * A throw-away cluster for tests with the whole schema, which each test file copies for itself.
 * Nobody can connect to what is copied: a late word of one file would be in the banks of all others.
 */
export async function startTestDatabase(folder: string, root: string): Promise<Cluster> {
  const cluster = await startCluster(folder, false);
  await migrate(cluster.url, root);
  process.env.DATABASE_URL = cluster.url;
  const boss = await startBoss();
  await boss.stop({ graceful: false });
  const [url, server] = [new URL(cluster.url), new URL(cluster.url)];
  const schema = url.pathname.slice(1);
  url.pathname = `/${TEMPLATE}`;
  server.pathname = '/postgres';
  const client = new pg.Client({ connectionString: server.toString() });
  await client.connect();
  await client.query(`DROP DATABASE IF EXISTS ${TEMPLATE}`);
  await client.query(`CREATE DATABASE ${TEMPLATE} TEMPLATE ${schema} ALLOW_CONNECTIONS false`);
  await client.end();
  process.env.DATABASE_URL = url.toString();
  return cluster;
}
