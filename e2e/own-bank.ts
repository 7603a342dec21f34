import { type ChildProcess, spawn } from 'node:child_process';
import { chmodSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import http from 'node:http';
import os from 'node:os';
import path from 'node:path';
import { expect, type Page } from '@playwright/test';
import { childOf } from './bank';

/** A bank of somebody's own, empty, beside the demo's. */
export class OwnBank {
  readonly folder = mkdtempSync(path.join(os.tmpdir(), 'zeitbank-doors-'));
  readonly port = 4470 + Math.floor(Math.random() * 300);
  private child: ChildProcess | null = null;
  said = '';

  get base(): string {
    return `http://127.0.0.1:${this.port}`;
  }

  async start(): Promise<void> {
    chmodSync(this.folder, 0o755);
    this.said = '';
    this.child = spawn(process.execPath, ['dist/services/supervisor.mjs'], {
      cwd: path.resolve(__dirname, '..'),
      stdio: ['ignore', 'pipe', 'inherit'],
      env: {
        ...process.env,
        PORT: String(this.port),
        HOST: '127.0.0.1',
        ZEITBANK_MODE: 'start',
        ZEITBANK_ROOT: path.resolve(__dirname, '..'),
        ZEITBANK_DATA: this.folder,
        ZEITBANK_HOSTS: 'bank.example',
      },
    });
    this.child.stdout?.on('data', (part: Buffer) => (this.said += part.toString()));
    await expect.poll(() => this.said, { timeout: 90_000 }).toContain('Stop with Ctrl-C');
  }

  pidOf(part: string): number {
    const pid = childOf(this.child?.pid ?? 0, part);
    if (pid === null) throw new Error(`no ${part} runs`);
    return pid;
  }

  /** Makes the owner, as the first visit does. */
  async claim(page: Page, name: string, password: string): Promise<void> {
    await page.goto(this.base);
    await page.getByLabel('Name').fill(name);
    await page.getByLabel('Password').fill(password);
    await page.getByLabel('Setup word').fill(/Setup word +(\S+)/.exec(this.said)?.[1] ?? '');
    await page.getByRole('button', { name: 'Open' }).click();
    await expect(page.getByRole('link', { name })).toBeVisible();
  }

  /** Ends it as a power cut would. */
  async kill(): Promise<void> {
    await this.end('SIGKILL');
  }

  async stop(): Promise<void> {
    await this.end('SIGTERM');
  }

  /** Stops it, and leaves nothing of it behind. */
  async remove(): Promise<void> {
    await this.stop();
    rmSync(this.folder, { recursive: true, force: true });
  }

  private async end(signal: NodeJS.Signals): Promise<void> {
    const { child } = this;
    if (!child || child.exitCode !== null || child.signalCode !== null) return;
    const ended = new Promise((resolve) => child.once('exit', resolve));
    child.kill(signal);
    await ended;
  }

  /** One request as no browser would send it. @returns status and the memory that the web process took for it */
  async send(
    method: string,
    address: string,
    headers: Record<string, string>,
    body?: { chunks: number; bytes: number },
  ): Promise<{ status: number; cookies: string[] }> {
    return new Promise((resolve, reject) => {
      const request = http.request(
        { port: this.port, host: '127.0.0.1', method, path: address, headers },
        (response) => {
          response.resume();
          resolve({
            status: response.statusCode ?? 0,
            cookies: response.headers['set-cookie'] ?? [],
          });
        },
      );
      request.on('error', reject);
      const chunk = Buffer.alloc(body?.bytes ?? 0, ' ');
      let sent = 0;
      const more = () => {
        while (sent < (body?.chunks ?? 0)) {
          sent++;
          if (!request.write(chunk)) return void request.once('drain', more);
        }
        request.end();
      };
      more();
    });
  }

  /** Memory that the web process held at most so far, MB. */
  peakMb(): number {
    const status = readFileSync(`/proc/${this.pidOf('web.mjs')}/status`, 'utf8');
    return Number(/VmHWM:\s+(\d+)/.exec(status)?.[1]) / 1024;
  }
}
