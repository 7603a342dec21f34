// A bank that grew for years: `node bench/bank.mjs [share]`, a share of 1 being the whole. Needs a build and some 5 GB of disk. Fills a demo bank by plain
// SQL with copies of its finished comparison until there are 1,000 comparisons, 30,000 takes and 1,000,000 answers,
// and with 2,000 panel members; then opens every page of the engineer 20 times, one after another.
import { openSitting, Listener, pause, quantile, query, send, startBank } from './panel.mjs';

const share = Number(process.argv[2] ?? 1);
const COMPARISONS = 1000 * share;
const TAKES = 30_000 * share;
const ANSWERS = 1_000_000 * share;
const PANELISTS = Math.round(2000 * share);
const OPENINGS = 20;
const BATCH = 40;
/** PostgreSQL's own counters follow after ten seconds at most. */
const COUNTED_AFTER_MS = 11_000;

/** Columns that point at what all copies share. */
const SHARED = ['owner_id', 'account_id', 'gear_id', 'panelist_id', 'former_chain_id'];
/** Text in which chains' ids stand. */
const WITH_IDS = ['sealed_key', 'analysis', 'recipe', 'shape', 'offsets', 'facts'];
const UNIQUE = ['token', 'address'];

/** What is copied, in the order of its keys, and by which condition. */
const TABLES = [
  ['comparison', 'id = $1'],
  ['source', 'comparison_id = $1'],
  ['passage', 'comparison_id = $1'],
  ['chain', 'comparison_id = $1'],
  ['chain_item', 'chain_id IN (SELECT id FROM chain WHERE comparison_id = $1)'],
  ['take', 'comparison_id = $1'],
  ['run_line', 'comparison_id = $1'],
  ['clip_set', 'comparison_id = $1'],
  ['clip', 'comparison_id = $1'],
  ['settling_clip', 'clip_set_id IN (SELECT id FROM clip_set WHERE comparison_id = $1)'],
  ['sitting', 'id = $3'],
  ['part', 'sitting_id = $3'],
  ['listener', 'sitting_id = $3'],
  ['trial', 'sitting_id = $3'],
  ['trial_clip', 'sitting_id = $3'],
  ['answer', 'sitting_id = $3'],
  ['work', 'comparison_id = $1'],
];

async function prepare(bank) {
  await query(
    bank,
    `CREATE FUNCTION bench_id(uuid, int) RETURNS uuid LANGUAGE sql IMMUTABLE AS
       $$ SELECT overlay(overlay(md5($1::text || ' ' || $2) placing '4' from 13) placing '8' from 17)::uuid $$`,
  );
  await query(
    bank,
    `CREATE FUNCTION bench_text(body text, ids uuid[], n int) RETURNS text LANGUAGE plpgsql IMMUTABLE AS $$
     DECLARE id uuid; BEGIN
       FOREACH id IN ARRAY ids LOOP body := replace(body, id::text, bench_id(id, n)::text); END LOOP;
       RETURN body; END $$`,
  );
}

/** How a column of a copy is made of the original's. */
function copied(name, type, table) {
  // Its chains come after it.
  if (table === 'comparison' && name === 'reference_chain_id') return 'NULL';
  if (WITH_IDS.includes(name) && (type === 'jsonb' || type === 'text')) {
    return `bench_text(o.${name}::text, $4::uuid[], n)::${type}`;
  }
  if (UNIQUE.includes(name)) return `md5(o.${name} || n)`;
  if (type === 'uuid' && !SHARED.includes(name)) return `bench_id(o.${name}, n)`;
  return `o.${name}`;
}

async function fill(bank) {
  const [{ comparison, sitting, answers }] = await query(
    bank,
    `SELECT comparison_id AS comparison, sitting.id AS sitting, count(*)::int AS answers
     FROM sitting JOIN answer ON answer.sitting_id = sitting.id WHERE state = 'closed'
     GROUP BY sitting.id ORDER BY answers DESC LIMIT 1`,
  );
  const [{ takes, chains }] = await query(
    bank,
    `SELECT (SELECT count(*)::int FROM take WHERE comparison_id = $1) AS takes,
       (SELECT array_agg(id) FROM chain WHERE comparison_id = $1) AS chains`,
    [comparison],
  );
  const copies = Math.max(COMPARISONS, Math.ceil(TAKES / takes), Math.ceil(ANSWERS / answers));
  const columns = await query(
    bank,
    `SELECT table_name AS of, column_name AS name, data_type AS type FROM information_schema.columns
     WHERE table_schema = 'public' AND is_generated = 'NEVER' ORDER BY ordinal_position`,
  );
  await prepare(bank);
  const began = performance.now();
  for (let from = 1; from <= copies; from += BATCH) {
    const to = Math.min(copies, from + BATCH - 1);
    for (const [table, condition] of TABLES) {
      const own = columns.filter(({ of }) => of === table);
      await query(
        bank,
        `INSERT INTO ${table} (${own.map(({ name }) => name).join(', ')})
         SELECT ${own.map(({ name, type }) => copied(name, type, table)).join(', ')}
         FROM ${table} o, generate_series(split_part($2, '-', 1)::int, split_part($2, '-', 2)::int) n
         WHERE o.${condition} AND $3::uuid IS NOT NULL AND $4::uuid[] IS NOT NULL AND $1::uuid IS NOT NULL`,
        [comparison, `${from}-${to}`, sitting, chains],
      );
    }
  }
  await query(
    bank,
    `UPDATE comparison SET reference_chain_id = bench_id(o.reference_chain_id, n)
     FROM comparison o, generate_series(1, $2::int) n
     WHERE o.id = $1 AND comparison.id = bench_id(o.id, n)`,
    [comparison, copies],
  );
  await query(
    bank,
    `UPDATE sitting SET seal = encode(sha256(convert_to(sealed_key, 'UTF8')), 'hex')
     WHERE state = 'closed' AND id <> $1`,
    [sitting],
  );
  await query(
    bank,
    `INSERT INTO panelist (owner_id, alias, created_at)
     SELECT owner_id, 'Member ' || n, now() FROM comparison, generate_series(1, $2) n WHERE id = $1`,
    [comparison, PANELISTS],
  );
  // As the bank itself does after many rows came in.
  await query(bank, 'VACUUM ANALYZE');
  const [made] = await query(
    bank,
    `SELECT (SELECT count(*)::int FROM comparison) AS comparisons, (SELECT count(*)::int FROM take) AS takes,
       (SELECT count(*)::int FROM sitting WHERE state = 'closed') AS "closed sittings",
       (SELECT count(*)::int FROM answer) AS answers, (SELECT count(*)::int FROM panelist) AS "panel members"`,
  );
  const words = Object.entries(made).map(
    ([what, count]) => `${count.toLocaleString('en')} ${what}`,
  );
  console.log(
    `Filled in ${((performance.now() - began) / 1000).toFixed(0)} s: ${words.join(', ')}.`,
  );
  return { comparison, sitting, last: { comparison, n: copies } };
}

async function transactions(bank) {
  await pause(COUNTED_AFTER_MS);
  const [row] = await query(
    bank,
    `SELECT xact_commit::int AS count, extract(epoch FROM clock_timestamp())::float8 AS at
     FROM pg_stat_database WHERE datname = current_database()`,
  );
  return row;
}

/** Opens a page again and again. @returns milliseconds each, bytes of HTML, and queries of one opening */
async function open(bank, address, before, quietPerS) {
  const ms = [];
  let bytes = 0;
  for (let i = 0; i < OPENINGS; i++) {
    const began = performance.now();
    const response = await fetch(`${bank.base}${address}`, { headers: { cookie: bank.cookie } });
    bytes = (await response.arrayBuffer()).byteLength;
    ms.push(performance.now() - began);
    if (response.status !== 200) throw new Error(`${address}: ${response.status}`);
  }
  const after = await transactions(bank);
  const own = after.count - before.count - quietPerS * (after.at - before.at);
  return { ms, bytes, queries: own / OPENINGS, after };
}

const bank = await startBank(3391);
try {
  const { comparison, sitting, last } = await fill(bank);
  await send(bank, 'GET', '/api/gear', undefined).catch(() => undefined);
  const [copy] = await query(bank, 'SELECT bench_id($1, $3) AS id, bench_id($2, $3) AS sitting', [
    comparison,
    sitting,
    last.n,
  ]);
  const base = `/comparisons/${copy.id}`;
  // The item that the most chains hold.
  const [item] = await query(
    bank,
    'SELECT gear_id AS id FROM chain_item GROUP BY gear_id ORDER BY count(*) DESC LIMIT 1',
    [],
  );
  const pages = {
    list: '/',
    'list, last page': '/?page=40',
    'list, searched': '/?q=contralto&sort=title',
    question: `${base}/question`,
    chains: `${base}/chains`,
    takes: `${base}/takes`,
    'takes measured': `${base}/takes?tab=measured`,
    'run sheet': `${base}/run-sheet`,
    match: `${base}/match`,
    sitting: `${base}/sitting`,
    results: `${base}/results`,
    together: `${base}/together`,
    decision: `${base}/decision`,
    gear: '/gear',
    panel: '/panel',
    decisions: '/decisions',
    heard: '/decisions/heard',
    'heard, searched': '/decisions/heard?q=contralto&sort=oldest',
    'shortest bench': '/decisions/shortest?q=contralto',
    bridge: '/decisions/bridge',
    'gear item': `/gear/${item.id}`,
    people: '/people',
    copies: '/copies',
    log: '/log',
    bin: '/bin',
    training: '/training',
    reports: '/reports',
    search: '/api/search?q=halde%20take',
    'search, one letter': '/api/search?q=h',
  };
  const one = await transactions(bank);
  const two = await transactions(bank);
  let before = two;
  const quietPerS = (two.count - one.count) / (two.at - one.at);
  console.log('page, p50 ms, p95 ms, kB of HTML, queries');
  for (const [name, address] of Object.entries(pages)) {
    try {
      const { ms, bytes, queries, after } = await open(bank, address, before, quietPerS);
      before = after;
      const figures = [quantile(ms, 0.5), quantile(ms, 0.95), bytes / 1024, queries];
      const over = quantile(ms, 0.95) > 1000 || bytes > 400 * 1024 || queries > 25.5;
      console.log(
        `${name.padEnd(18)}${figures.map((x) => x.toFixed(0).padStart(7)).join('')}${over ? '  OVER' : ''}`,
      );
    } catch (error) {
      console.log(`${name.padEnd(18)} ${error.message}`);
    }
  }
  const { token } = await openSitting(bank, {
    seats: 20,
    trials: 15,
    title: 'Adaptive',
    adaptive: true,
  });
  const listeners = Array.from({ length: 6 }, (_, i) => new Listener(bank, token, `Ear ${i}`));
  for (const listener of listeners) await listener.join();
  for (let trial = 0; trial < 10; trial++) {
    for (const listener of listeners) {
      await listener.hear();
      await listener.answer();
    }
  }
  const all = listeners.flatMap(({ answerMs }) => answerMs);
  console.log(
    `adaptive answers, sent and taken: median ${quantile(all, 0.5).toFixed(1)} ms, p95 ${quantile(all, 0.95).toFixed(1)} ms`,
  );
} finally {
  await bank.stop();
}
