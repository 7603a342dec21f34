import { logTo } from './log';

function lineOf(event: (log: ReturnType<typeof logTo>) => void): Record<string, unknown> {
  const lines: string[] = [];
  event(logTo({ write: (line) => void lines.push(line) }));
  expect(lines).toHaveLength(1);
  return JSON.parse(lines[0]!) as Record<string, unknown>;
}

test('an event is one line of JSON with its level and a time that anybody can read', () => {
  const line = lineOf((log) => log.info({ queue: 'takes' }, 'began'));
  expect(line).toMatchObject({ level: 'info', msg: 'began', queue: 'takes', pid: process.pid });
  expect(new Date(line.time as string).getTime()).toBeGreaterThan(Date.now() - 60_000);
});

test('of an error the log keeps what happened, and nothing that people wrote', () => {
  const error = Object.assign(new Error('duplicate key value'), {
    code: '23505',
    detail: 'Key (alias)=(Ottilie) already exists.',
    parameters: ['Ottilie'],
  });
  const line = lineOf((log) => log.error({ err: error }, 'a job failed'));
  expect(line.err).toEqual({
    type: 'Error',
    message: 'duplicate key value',
    stack: error.stack,
    code: '23505',
  });
  expect(JSON.stringify(line)).not.toContain('Ottilie');
});

test('what is thrown without being an error is said as it is', () => {
  expect(lineOf((log) => log.error({ err: 'gone' }, 'x')).err).toEqual({ message: 'gone' });
});
