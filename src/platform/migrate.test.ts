import { readdirSync } from 'node:fs';
import path from 'node:path';
import { db } from './database';
import { migrate } from './migrate';
import { NOON, testEngineer, withTestDatabase } from './test/database';
import { one } from './one';

withTestDatabase();

const root = path.resolve(__dirname, '../..');
const migrations = readdirSync(path.join(root, 'db/migrations'));

/** How many steps lie between now and the time before a migration. */
const since = (number: string) => migrations.filter((name) => name >= number).length;

describe('sources', () => {
  const OLD = {
    comparison: 'SELECT title, source_name, brief FROM comparison ORDER BY title',
    take: 'SELECT file_name, source_name FROM take ORDER BY file_name',
    passage: 'SELECT name, source_name FROM passage ORDER BY name',
    line: 'SELECT position, source_name FROM run_line ORDER BY position',
    order: 'SELECT plan FROM bench_order ORDER BY created_at',
  };
  const read = async (queries: Record<string, string>) =>
    Object.fromEntries(
      await Promise.all(
        Object.entries(queries).map(async ([name, text]) => [name, await db().rows(text)] as const),
      ),
    );

  it('come out of names, also of those that no source has any more, and go back into them', async () => {
    const url = process.env.DATABASE_URL ?? '';
    const { studioId } = await testEngineer('Mirela Voss');
    // Back to before there were sources.
    await migrate(url, root, since('0015'));
    const further = [
      { name: 'Cello', capture: 'replayed', passages: 'low pedal' },
      { name: 'Viola', capture: 'at once', passages: '' },
    ];
    const briefs = [{ capture: 'one after another', furtherSources: further }, {}];
    const ids: string[] = [];
    for (const [i, brief] of briefs.entries()) {
      const { id } = await one(
        db().rows<{ id: string }>(
          `INSERT INTO comparison (owner_id, title, question, source_name, simulated, brief, created_at)
         VALUES ($1, $2, '', 'Contralto', false, $3, $4) RETURNING id`,
          [studioId, `No ${i}`, JSON.stringify(brief), NOON],
        ),
      );
      ids.push(id);
    }
    const id = ids[0]!;
    const { audio } = await one(
      db().rows<{ audio: number }>(
        'INSERT INTO audio (byte_length, created_at) VALUES (1, $1) RETURNING id AS audio',
        [NOON],
      ),
    );
    const sources = [null, 'Cello', 'Once called so', 'Viola', 'Once called so'];
    for (const [i, name] of sources.entries()) {
      await db().rows(
        `INSERT INTO take (comparison_id, audio_id, file_name, source_name, created_at)
         VALUES ($1, $2, $3, $4, $5)`,
        [id, audio, `${i}.wav`, name, NOON],
      );
      await db().rows(
        'INSERT INTO passage (comparison_id, position, name, source_name) VALUES ($1, $2, $3, $4)',
        [id, i, `passage ${i}`, name],
      );
    }
    const { chain } = await one(
      db().rows<{ chain: string }>(
        `INSERT INTO chain (comparison_id, position, name, items) VALUES ($1, 0, 'Kern', '')
       RETURNING id AS chain`,
        [id],
      ),
    );
    for (const [i, name] of ['Cello', null, 'Only on the sheet'].entries()) {
      await db().rows(
        `INSERT INTO run_line (comparison_id, day, position, chain_id, source_name, programme,
           take_number, minutes) VALUES ($1, 1, $2, $3, $4, 'performance', 1, 3)`,
        [id, i, chain, name],
      );
    }
    await db().rows(
      'INSERT INTO bench_order (comparison_id, plan, created_at) VALUES ($1, $2, $3)',
      [id, JSON.stringify({ takes: 2, sourceName: 'Viola' }), NOON],
    );
    const before = await read(OLD);

    await migrate(url, root);
    const named = (table: string, by: string) =>
      db().rows<{ name: string }>(
        `SELECT source.name FROM ${table} JOIN source ON source.id = source_id ORDER BY ${table}.${by}`,
      );
    const all = ['Contralto', 'Cello', 'Once called so', 'Viola', 'Once called so'];
    expect((await named('take', 'file_name')).map(({ name }) => name)).toEqual(all);
    expect((await named('passage', 'position')).map(({ name }) => name)).toEqual(all);
    expect((await named('run_line', 'position')).map(({ name }) => name)).toEqual([
      'Cello',
      'Contralto',
      'Only on the sheet',
    ]);
    expect(
      await db().rows(
        'SELECT position, name, capture, passages FROM source WHERE comparison_id = $1 ORDER BY position',
        [id],
      ),
    ).toEqual([
      { position: 0, name: 'Contralto', capture: 'one after another', passages: '' },
      { position: 1, name: 'Cello', capture: 'replayed', passages: 'low pedal' },
      { position: 2, name: 'Viola', capture: 'at once', passages: '' },
      { position: 3, name: 'Once called so', capture: 'at once', passages: '' },
      { position: 4, name: 'Only on the sheet', capture: 'at once', passages: '' },
    ]);
    expect(
      await db().rows(
        `SELECT name, plan FROM bench_order JOIN source ON source.id = (plan->>'sourceId')::uuid`,
      ),
    ).toMatchObject([{ name: 'Viola', plan: { takes: 2 } }]);

    await migrate(url, root, since('0015'));
    const after = await read(OLD);
    expect({ ...after, comparison: null }).toEqual({ ...before, comparison: null });
    const orphans = ['Once called so', 'Only on the sheet'];
    expect(after.comparison).toEqual([
      {
        title: 'No 0',
        source_name: 'Contralto',
        brief: {
          capture: 'one after another',
          furtherSources: [
            ...further,
            ...orphans.map((name) => ({ name, capture: 'at once', passages: '' })),
          ],
        },
      },
      {
        title: 'No 1',
        source_name: 'Contralto',
        brief: { capture: 'at once', furtherSources: [] },
      },
    ]);
    await migrate(url, root);
    expect((await named('take', 'file_name')).map(({ name }) => name)).toEqual(all);
  });
});

describe('every step', () => {
  /** Everything that stands in the schema, as PostgreSQL itself describes it. */
  const schema = () =>
    Promise.all(
      [
        `SELECT table_name, column_name, data_type, is_nullable, column_default
         FROM information_schema.columns WHERE table_schema = 'public' AND table_name <> 'migration'
         ORDER BY table_name, column_name`,
        `SELECT conrelid::regclass::text AS table, conname, pg_get_constraintdef(oid) AS means
         FROM pg_constraint WHERE connamespace = 'public'::regnamespace ORDER BY 1, 2`,
        `SELECT indexname, indexdef FROM pg_indexes WHERE schemaname = 'public' ORDER BY indexname`,
        `SELECT viewname, definition FROM pg_views WHERE schemaname = 'public' ORDER BY viewname`,
        `SELECT tgname, pg_get_triggerdef(oid) AS means FROM pg_trigger WHERE NOT tgisinternal ORDER BY tgname`,
      ].map((text) => db().rows(text)),
    );

  it('can be gone back, and leads to the same place again', async () => {
    const url = process.env.DATABASE_URL ?? '';
    const before = await schema();
    for (const steps of [1, 3, 7, migrations.length]) {
      await migrate(url, root, steps);
      expect(await schema()).not.toEqual(before);
      await migrate(url, root);
      expect(await schema()).toEqual(before);
    }
  });

  it('is gone back whole: nothing of the product is left', async () => {
    const url = process.env.DATABASE_URL ?? '';
    await migrate(url, root, migrations.length);
    const [columns, , , views] = await schema();
    expect({ columns, views }).toEqual({ columns: [], views: [] });
    await migrate(url, root);
  });
});
