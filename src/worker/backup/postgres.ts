import { type ChildProcess, spawn } from 'node:child_process';
import { existsSync, readdirSync } from 'node:fs';
import path from 'node:path';
import { BackupError } from './file';

const INSTALLED = '/usr/lib/postgresql';

/**
 * PostgreSQL's own programs, as new as the server at least: older ones cannot read it.
 * @param server its version number, as in 150004
 */
export function toolsFor(server: number): string {
  const major = Math.floor(server / 10_000);
  const versions = (existsSync(INSTALLED) ? readdirSync(INSTALLED) : [])
    .map(Number)
    .filter((one) => one >= major && existsSync(path.join(INSTALLED, String(one), 'bin/pg_dump')))
    .sort((x, y) => x - y);
  if (versions.length === 0) {
    throw new BackupError(
      `the programs of PostgreSQL ${major} are missing; install the Debian package postgresql-client-${major} and run again`,
    );
  }
  return path.join(INSTALLED, String(versions[0]), 'bin');
}

/** Where to sign in, as its programs are told: the password never stands in a command line. */
export function signInOf(url: string): { args: string[]; env: NodeJS.ProcessEnv } {
  const { hostname, port, username, password, pathname, searchParams } = new URL(url);
  const env: NodeJS.ProcessEnv = {
    ...process.env,
    PGPASSWORD: decodeURIComponent(password),
    PGOPTIONS: '-c statement_timeout=0',
  };
  for (const [name, variable] of [
    ['sslmode', 'PGSSLMODE'],
    ['sslrootcert', 'PGSSLROOTCERT'],
  ] as const) {
    const value = searchParams.get(name);
    if (value) env[variable] = value;
  }
  return {
    args: [
      ...['-h', decodeURIComponent(hostname)],
      ...['-p', port || '5432'],
      ...['-U', decodeURIComponent(username)],
      ...['-d', pathname.slice(1)],
    ],
    env,
  };
}

/** A program with what it said on its way, for when it fails. */
export interface Tool {
  child: ChildProcess;
  /** @throws BackupError with the last thing it said */
  ended: Promise<void>;
}

export function runTool(bin: string, name: string, args: string[], env: NodeJS.ProcessEnv): Tool {
  const child = spawn(path.join(bin, name), args, { env, stdio: ['pipe', 'pipe', 'pipe'] });
  let said = '';
  child.stderr.on('data', (part: Buffer) => {
    said = (said + part.toString()).slice(-2000);
  });
  // A program that ends early breaks the pipe to it; its exit tells why.
  child.stdin.on('error', () => undefined);
  const ended = new Promise<void>((resolve, reject) => {
    child.once('error', reject);
    child.once('close', (code) => {
      if (code === 0) resolve();
      else {
        const lines = said.trim().split('\n');
        const told = lines.find((line) => /error|fatal/i.test(line)) ?? lines.pop() ?? '';
        reject(
          new BackupError(`${name} failed: ${told.replace(/^.*?(ERROR|error|FATAL): */, '')}`),
        );
      }
    });
  });
  ended.catch(() => undefined);
  return { child, ended };
}
