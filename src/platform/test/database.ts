import { randomBytes } from 'node:crypto';
import pg from 'pg';
import { endPool } from '../database';
import type { Role } from '../sign-in/roles';
import type { Door, SignedIn } from '../sign-in/service';
import { insertAccount } from '../sign-in/store';
import { db } from '../database';

/** Gives the test file a database of its own, with the schema in place. */
export function withTestDatabase(): void {
  const base = process.env.DATABASE_URL ?? '';
  const name = `test_${randomBytes(6).toString('hex')}`;
  const admin = async (statement: string) => {
    const client = new pg.Client({ connectionString: base.replace(/\/[^/]*$/, '/postgres') });
    await client.connect();
    await client.query(statement);
    await client.end();
  };
  const template = base.replace(/^.*\//, '');
  beforeAll(async () => {
    // Its own before it is there: where it cannot be made, what follows finds nothing to write to.
    process.env.DATABASE_URL = base.replace(/\/[^/]*$/, `/${name}`);
    await admin(`CREATE DATABASE ${name} TEMPLATE ${template}`);
  });
  afterAll(async () => {
    await endPool();
    // Not by force, which fails while PostgreSQL itself tidies there: what it does by itself it ends by itself.
    await admin(
      `SELECT pg_terminate_backend(pid) FROM pg_stat_activity
       WHERE datname = '${name}' AND usename = current_user`,
    );
    await admin(`DROP DATABASE ${name}`);
    process.env.DATABASE_URL = base;
  });
}

export const NOON = new Date('2026-05-04T12:00:00Z');

let places = 0;

/** A door at a place that nobody tried before, on a device that nobody knows. */
export function testDoor(device: string | null = null): Door {
  places++;
  return { place: `place ${places}`, device };
}

/** An engineer with an account; the password is not meant to be used. */
export async function testEngineer(name: string): Promise<SignedIn> {
  const id = await insertAccount(db(), name, 'no hash', NOON);
  return { accountId: id, studioId: id, name, role: 'owner' };
}

/** Somebody else who works in the same studio. */
export async function testColleague(
  { studioId }: SignedIn,
  name: string,
  role: Role = 'engineer',
): Promise<SignedIn> {
  const place = { role, studioId, limited: false };
  const id = await insertAccount(db(), name, 'no hash', NOON, place);
  return { accountId: id, studioId, name, role };
}
