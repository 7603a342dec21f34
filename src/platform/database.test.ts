import { db, pool, readingOnce, transaction } from './database';
import { withTestDatabase } from './test/database';
import { one } from './one';

withTestDatabase();

beforeAll(() => db().rows('CREATE TABLE note (id int PRIMARY KEY, words text)'));
beforeEach(() => db().rows('DELETE FROM note'));

const count = async () =>
  (await db().rows<{ count: number }>('SELECT count(*)::int AS count FROM note'))[0]!.count;

it('asks for no statement to be compiled, which takes longer than any of them runs', async () => {
  expect(await db().rows('SHOW jit')).toEqual([{ jit: 'off' }]);
});

describe('a transaction', () => {
  it('is what the bank is inside of it: more of them than connections finish, each by one', async () => {
    const connect = jest.spyOn(pool(), 'connect');
    const query = jest.spyOn(pool(), 'query');
    const many = 3 * (pool().options.max ?? 10);
    const seen = await Promise.all(
      Array.from({ length: many }, (_, i) =>
        transaction(async (tx) => {
          await tx.rows('INSERT INTO note VALUES ($1, $2)', [i, 'x']);
          const { own } = await one(
            db().rows<{ own: boolean }>('SELECT EXISTS (SELECT 1 FROM note WHERE id = $1) AS own', [
              i,
            ]),
          );
          return own;
        }),
      ),
    );
    expect(seen).toEqual(Array.from({ length: many }, () => true));
    expect(connect).toHaveBeenCalledTimes(many);
    expect(query).not.toHaveBeenCalled();
    jest.restoreAllMocks();
    expect(await count()).toBe(many);
  });

  it('takes back what was written either way when it fails', async () => {
    await expect(
      transaction(async () => {
        await db().rows("INSERT INTO note VALUES (1, 'x')");
        throw new Error('no');
      }),
    ).rejects.toThrow('no');
    expect(await count()).toBe(0);
  });

  it('leaves the bank to what goes on after it', async () => {
    let go: () => void = () => undefined;
    const gate = new Promise<void>((resolve) => (go = resolve));
    const { late } = await transaction(async (tx) => {
      await tx.rows("INSERT INTO note VALUES (1, 'x')");
      return { late: gate.then(count) };
    });
    go();
    expect(await late).toBe(1);
  });
});

describe('reading once', () => {
  it('asks the same once, and anew after something was written', async () => {
    const query = jest.spyOn(pool(), 'query');
    const seen = await readingOnce(async () => {
      const found = [await count(), await count()];
      await db().rows("INSERT INTO note VALUES (1, 'x')");
      found.push(await count());
      await transaction((tx) => tx.rows("INSERT INTO note VALUES (2, 'y')"));
      found.push(await count(), await count());
      return found;
    });
    expect(seen).toEqual([0, 0, 1, 2, 2]);
    expect(query).toHaveBeenCalledTimes(4);
    jest.restoreAllMocks();
  });

  it('tells questions apart by what is given with them, and answers by who asked', async () => {
    await db().rows("INSERT INTO note VALUES (1, 'x'), (2, 'y')");
    await readingOnce(async () => {
      const of = (id: number) =>
        db().rows<{ words: string }>('SELECT words FROM note WHERE id >= $1 ORDER BY id', [id]);
      const mine = await of(1);
      mine.reverse();
      expect((await of(1)).map(({ words }) => words)).toEqual(['x', 'y']);
      expect((await of(2)).map(({ words }) => words)).toEqual(['y']);
    });
  });
});
