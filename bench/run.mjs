// Speed, as ratios within one run: `node bench/run.mjs`; one alone by its name,
// as `node bench/run.mjs claims 2000`. The first needs ffmpeg; builds nothing else.
import { execFileSync, spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { build } from 'esbuild';

const ROUNDS = 5;
const root = path.resolve(import.meta.dirname, '..');
const folder = mkdtempSync(path.join(os.tmpdir(), 'zeitbank-bench-'));

function median(values) {
  return [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)];
}

async function bundled(name) {
  const outfile = path.join(folder, `${name}.cjs`);
  const entryPoints = [path.join(root, `bench/${name}.ts`)];
  const tsconfig = path.join(root, 'tsconfig.json');
  await build({
    entryPoints,
    outfile,
    tsconfig,
    bundle: true,
    platform: 'node',
    logLevel: 'error',
  });
  return outfile;
}

/** Ten minutes of stereo noise that swells and fades, 24 bits at 48 kHz. */
function writeLongFile(file) {
  const frames = 48000 * 600;
  const out = Buffer.alloc(44 + frames * 6);
  out.write('RIFF', 0);
  out.writeUInt32LE(36 + frames * 6, 4);
  out.write('WAVEfmt ', 8);
  [16, 0x20001, 48000, 288000, 0x180006].forEach((x, i) => out.writeUInt32LE(x, 16 + 4 * i));
  out.write('data', 36);
  out.writeUInt32LE(frames * 6, 40);
  let [state, left, right] = [1, 0, 0];
  const noise = () => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    return state / 2147483648 - 1;
  };
  for (let n = 0, at = 44; n < frames; n++, at += 6) {
    const swell = 0.55 + 0.45 * Math.sin(n / 25000);
    left = 0.9 * left + 0.1 * noise();
    right = 0.9 * right + 0.1 * noise();
    out.writeIntLE(Math.round(8388607 * swell * left), at, 3);
    out.writeIntLE(Math.round(8388607 * swell * right), at + 3, 3);
  }
  writeFileSync(file, out);
}

function seconds(command, args) {
  const began = process.hrtime.bigint();
  const done = spawnSync(command, args, { stdio: 'ignore' });
  if (done.status !== 0) throw new Error(`${command} failed`);
  return Number(process.hrtime.bigint() - began) / 1e9;
}

const [alone, ...given] = process.argv.slice(2);

async function everything() {
  execFileSync(process.execPath, [path.join(root, 'scripts/bundle.mjs'), 'cli'], { cwd: root });
  if (spawnSync('ffmpeg', ['-version']).status === 0) {
    const file = path.join(folder, 'long.wav');
    writeLongFile(file);
    const ours = [path.join(root, 'dist/cli.cjs'), 'measure', file];
    const theirs = ['-nostats', '-i', file, '-af', 'ebur128=peak=true', '-f', 'null', '-'];
    const ratios = [];
    for (let round = 0; round < ROUNDS; round++) {
      ratios.push(seconds(process.execPath, ours) / seconds('ffmpeg', theirs));
    }
    const list = ratios.map((ratio) => ratio.toFixed(2)).join(' ');
    console.log(
      `measure / ffmpeg ebur128=peak=true, 10 min stereo: median ${median(ratios).toFixed(2)} (${list})`,
    );
  } else {
    console.log('measure: ffmpeg is not installed, so there is nothing to compare with');
  }
  execFileSync(process.execPath, [await bundled('match')], { stdio: 'inherit' });
  execFileSync(process.execPath, [await bundled('takes')], { stdio: 'inherit' });
  execFileSync(process.execPath, [await bundled('copies')], { stdio: 'inherit' });
}

try {
  if (alone) {
    execFileSync(process.execPath, [await bundled(alone), ...given], { stdio: 'inherit' });
  } else await everything();
} finally {
  rmSync(folder, { recursive: true, force: true });
}
