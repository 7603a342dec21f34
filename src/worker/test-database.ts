import { migrate } from '@/platform/migrate';
import { startBoss } from '@/platform/jobs';
import { type Cluster, startCluster } from './cluster';

/** A throw-away cluster for tests with the whole schema, which each test file copies for itself. */
export async function startTestDatabase(folder: string, root: string): Promise<Cluster> {
  const cluster = await startCluster(folder, false);
  await migrate(cluster.url, root);
  process.env.DATABASE_URL = cluster.url;
  const boss = await startBoss();
  await boss.stop({ graceful: false });
  return cluster;
}
