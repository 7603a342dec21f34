// Large banks through the real interface: `node bench/large.mjs [contexts|long|many]`. Needs a build and, for
// long takes, some 40 GB of disk; says how long, and how much memory the worker took at most.
import {
  peakMemoryMb,
  pause,
  processorSeconds,
  query,
  send,
  startBank,
  watchMachine,
} from './panel.mjs';

const PIECE = 8 << 20;

/** A made-up take: noise that swells, 24 bits mono; the same performance for every chain, quietly different. */
function* takeBytes({ sampleRateHz, seconds, gain }) {
  const frames = sampleRateHz * seconds;
  const header = Buffer.alloc(44);
  header.write('RIFF', 0);
  header.writeUInt32LE(36 + frames * 3, 4);
  header.write('WAVEfmt ', 8);
  [16, 0x10001, sampleRateHz, sampleRateHz * 3, 0x180003].forEach((x, i) =>
    header.writeUInt32LE(x, 16 + 4 * i),
  );
  header.write('data', 36);
  header.writeUInt32LE(frames * 3, 40);
  yield header;
  let [state, low] = [1, 0];
  // Seven seconds of noise, again and again: making noise must not be what is timed.
  const noise = Float64Array.from({ length: sampleRateHz * 7 }, () => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    low = 0.9 * low + 0.1 * (state / 2147483648 - 1);
    return low;
  });
  for (let second = 0; second < seconds; second++) {
    const out = Buffer.alloc(sampleRateHz * 3);
    const swell = gain * (0.6 + 0.4 * Math.sin(1.7 * second));
    const from = (second % 7) * sampleRateHz;
    for (let n = 0; n < sampleRateHz; n++) {
      out.writeIntLE(Math.round(8388607 * swell * noise[from + n]), 3 * n, 3);
    }
    yield out;
  }
}

/** Sends a file by the resumable protocol, in the pieces that the page uses. */
async function upload(bank, comparisonId, filename, bytes, source) {
  const value = (text) => Buffer.from(text).toString('base64');
  const headers = { cookie: bank.cookie, origin: bank.base, 'tus-resumable': '1.0.0' };
  const made = await fetch(`${bank.base}/api/uploads`, {
    method: 'POST',
    headers: {
      ...headers,
      'upload-length': String(bytes),
      'upload-metadata': `filename ${value(filename)},comparisonId ${value(comparisonId)},pattern ${value('{chain}_{take}')}`,
    },
  });
  if (made.status !== 201) throw new Error(`${filename}: ${await made.text()}`);
  const address = new URL(made.headers.get('location'), bank.base);
  let [offset, waiting, held] = [0, [], 0];
  const pass = async (most) => {
    const body = Buffer.concat(waiting);
    const piece = body.subarray(0, most);
    const response = await fetch(address, {
      method: 'PATCH',
      headers: {
        ...headers,
        'content-type': 'application/offset+octet-stream',
        'upload-offset': String(offset),
      },
      body: piece,
    });
    if (response.status !== 204) throw new Error(`${filename}: ${await response.text()}`);
    offset += piece.length;
    waiting = [body.subarray(piece.length)];
    held = waiting[0].length;
  };
  for (const part of source) {
    waiting.push(part);
    held += part.length;
    while (held >= PIECE) await pass(PIECE);
  }
  if (held > 0) await pass(held);
}

/** Waits until the work of a comparison is done; of all of them when none is named. */
async function settled(bank, comparisonId = null) {
  for (;;) {
    const [{ open }] = await query(
      bank,
      `SELECT count(*)::int AS open FROM work
       WHERE ($1::uuid IS NULL OR comparison_id = $1) AND state IN ('waiting', 'running')`,
      [comparisonId],
    );
    if (open === 0) return;
    await pause(250);
  }
}

const since = (began) => (performance.now() - began) / 1000;
const process_ = {
  highPassHz: 60,
  eq: [{ shape: 'bell', hz: 2500, q: 1, db: 3 }],
  compressor: { thresholdDb: 0, ratio: 3, kneeDb: 6, attackMs: 10, releaseMs: 120 },
  deEsser: { fromHz: 6000, thresholdDb: -12, mostDb: 6 },
};

/** A comparison with takes of one performance, ready to be matched. */
async function withTakes(bank, { chains, takesEach = 1, sampleRateHz, seconds }) {
  const draft = { title: 'Large', question: '', sourceName: 'Noise', passageName: 'Whole' };
  const { id: comparisonId } = await send(bank, 'POST', '/api/comparisons', draft);
  const chainIds = [];
  for (let i = 0; i < chains; i++) {
    const chain = { name: `Chain${i + 1}`, items: '', priceCents: null };
    chainIds.push((await send(bank, 'POST', `/api/comparisons/${comparisonId}/chains`, chain)).id);
  }
  const bytes = 44 + sampleRateHz * seconds * 3;
  const began = performance.now();
  const takes = chains * takesEach;
  for (let i = 0; i < takes; i++) {
    const source = takeBytes({ sampleRateHz, seconds, gain: 0.3 + (0.35 * i) / takes });
    const name = `Chain${(i % chains) + 1}_${Math.floor(i / chains) + 1}.wav`;
    await upload(bank, comparisonId, name, bytes, source);
  }
  const arrived = since(began);
  await settled(bank, comparisonId);
  const gb = (takes * bytes) / 1e9;
  console.log(
    `  ${takes} takes of ${seconds} s at ${sampleRateHz} Hz, ${gb.toFixed(2)} GB: arrived after ${arrived.toFixed(1)} s ` +
      `(${((1000 * gb) / arrived).toFixed(0)} MB/s, with making the sound), checked after ${since(began).toFixed(1)} s`,
  );
  const states = await query(
    bank,
    'SELECT state, count(*)::int AS count FROM take WHERE comparison_id = $1 GROUP BY state',
    [comparisonId],
  );
  console.log(`  ${states.map(({ state, count }) => `${count} ${state}`).join(', ')}`);
  return { comparisonId, chainIds };
}

async function everyContext(bank, { comparisonId, chainIds }, { fromS, toS, backing }) {
  const [{ passage }] = await query(
    bank,
    'SELECT id AS passage FROM passage WHERE comparison_id = $1',
    [comparisonId],
  );
  await send(bank, 'PUT', `/api/comparisons/${comparisonId}/passages/${passage}`, { fromS, toS });
  const contexts = [
    { kind: 'raw' },
    { kind: 'alike', settings: process_ },
    { kind: 'tailored', settings: Object.fromEntries(chainIds.map((id) => [id, process_])) },
    ...(backing ? [{ kind: 'mix', balanceDb: 0 }] : []),
    { kind: 'toned', settings: { phase: 'minimum', smoothing: 'third', limitDb: 9 } },
  ];
  const began = performance.now();
  const beganAt = Date.now();
  const machine = watchMachine();
  const used = processorSeconds(bank, 'worker.mjs');
  await send(bank, 'POST', `/api/comparisons/${comparisonId}/match`, {
    passageId: passage,
    method: 'loudness',
    referenceChainId: chainIds[0],
    contexts,
    offsets: {},
  });
  await settled(bank, comparisonId);
  const seconds = since(began);
  const sets = await query(
    bank,
    `SELECT clip_set.state, clip_set.remark, facts ->> 'worstResidualLu' AS residual,
       recipe #>> '{context,kind}' AS kind, updated_at AS done
     FROM clip_set JOIN work ON subject_id = clip_set.id WHERE clip_set.comparison_id = $1 ORDER BY updated_at`,
    [comparisonId],
  );
  const ready = sets.filter(({ state }) => state === 'ready');
  const worst = Math.max(...ready.map(({ residual }) => Number(residual)));
  console.log(
    `  ${ready.length} of ${contexts.length} contexts of ${chainIds.length} clips of ${toS - fromS} s rendered and verified in ` +
      `${seconds.toFixed(1)} s; worst residual ${worst.toFixed(4)} LU; ` +
      `worker used ${(processorSeconds(bank, 'worker.mjs') - used).toFixed(1)} s; ${machine()}`,
  );
  const after = sets.map(({ kind, done }) => `${kind} ${((done - beganAt) / 1000).toFixed(1)} s`);
  console.log(`  done after: ${after.join(', ')}`);
  for (const { state, remark } of sets) if (state !== 'ready') console.log(`  ${state}: ${remark}`);
}

async function addBacking(bank, comparisonId, seconds) {
  const bytes = 44 + 48000 * seconds * 3;
  await upload(
    bank,
    comparisonId,
    'backing.wav',
    bytes,
    takeBytes({ sampleRateHz: 48000, seconds, gain: 0.47 }),
  );
  await settled(bank, comparisonId);
  const [{ id }] = await query(
    bank,
    `SELECT id FROM take WHERE comparison_id = $1 AND file_name = 'backing.wav'`,
    [comparisonId],
  );
  const change = { takeIds: [id], programme: 'backing' };
  await send(bank, 'PUT', `/api/comparisons/${comparisonId}/takes`, change);
  // Takes are set against each other anew when one changes its part.
  await settled(bank, comparisonId);
}

const RUNS = {
  contexts: async (bank) => {
    console.log('a set in every context');
    const made = await withTakes(bank, { chains: 8, sampleRateHz: 48000, seconds: 40 });
    await addBacking(bank, made.comparisonId, 41);
    await everyContext(bank, made, { fromS: 4, toS: 34, backing: true });
  },
  long: async (bank) => {
    console.log('takes of three hours');
    const made = await withTakes(bank, { chains: 3, sampleRateHz: 96000, seconds: 3 * 3600 });
    await everyContext(bank, made, { fromS: 9000, toS: 9030, backing: false });
  },
  many: async (bank) => {
    console.log('two hundred files');
    await withTakes(bank, { chains: 20, takesEach: 10, sampleRateHz: 48000, seconds: 60 });
  },
};

const wanted = process.argv[2] ? [process.argv[2]] : Object.keys(RUNS);
for (const name of wanted) {
  const bank = await startBank(4393);
  try {
    // The demo's own takes and clips are still being made when its pages answer.
    await settled(bank);
    await RUNS[name](bank);
    console.log(`  the worker took ${peakMemoryMb(bank)} MB at most`);
  } finally {
    await bank.stop();
  }
}
