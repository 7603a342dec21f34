import { z } from 'zod';
import { isDatabaseAway, UserError } from './errors';
import { failureOf } from './failure';
import { log } from './log';

const withCode = (code: string) => Object.assign(new Error('x'), { code });

it('knows when the database is away, also by what crossed a thread as text', () => {
  for (const code of ['ECONNREFUSED', 'ECONNRESET', '57P01', '57P03', '08006']) {
    expect(isDatabaseAway(withCode(code))).toBe(true);
  }
  for (const text of [
    'Connection terminated unexpectedly',
    'terminating connection due to administrator command',
    'connect ECONNREFUSED 127.0.0.1:5432',
    'timeout exceeded when trying to connect',
    'the database system is starting up',
  ]) {
    expect(isDatabaseAway(new Error(text))).toBe(true);
  }
  expect(isDatabaseAway(new AggregateError([withCode('ECONNREFUSED')]))).toBe(true);
  expect(isDatabaseAway(withCode('23505'))).toBe(false);
  expect(isDatabaseAway('no error')).toBe(false);
});

it('says that the disk is full, whoever found out', () => {
  for (const error of [
    withCode('53100'),
    withCode('ENOSPC'),
    new Error('could not extend file "base/1": No space left on device'),
  ]) {
    expect(failureOf(error)).toMatchObject({ status: 507 });
    expect(failureOf(error).message).toContain('make room');
  }
});

it('tells a sentence and never what went wrong inside', () => {
  const logged = jest.spyOn(log, 'error').mockReturnValue(undefined);
  expect(failureOf(new UserError(409, 'Taken.'))).toEqual({ status: 409, message: 'Taken.' });
  expect(failureOf(withCode('ECONNREFUSED')).status).toBe(503);
  const inside = failureOf(new Error('password=secret at /srv/x.ts'));
  expect(inside.status).toBe(500);
  expect(inside.message).not.toMatch(/secret|srv/);
  // What was foreseen is nobody's fault here.
  expect(logged).toHaveBeenCalledTimes(1);
  logged.mockRestore();
});

it('gives the first sentence of a refused form', () => {
  const shape = z.object({ name: z.string().min(1, 'Write a name.') });
  const { error } = shape.safeParse({ name: '' });
  expect(failureOf(error)).toEqual({ status: 400, message: 'Write a name.' });
});
