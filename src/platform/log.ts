import pino from 'pino';

/** What a log may know of an error: a database's own fields would quote what people wrote. */
function bare(error: unknown) {
  if (!(error instanceof Error)) return { message: String(error) };
  const { name, message, stack } = error;
  const code = 'code' in error && typeof error.code === 'string' ? error.code : undefined;
  return { type: name, message, stack, code };
}

/** A log that writes to a stream of one's own. */
export function logTo(stream: pino.DestinationStream): pino.Logger {
  return pino(
    {
      base: { pid: process.pid },
      timestamp: pino.stdTimeFunctions.isoTime,
      formatters: { level: (level) => ({ level }) },
      serializers: { err: bare },
    },
    stream,
  );
}

/**
 * One JSON line per event on standard error; no names of chains or listeners belong here. Lines
 * are written before the call returns, so that a process that dies has said why.
 */
export const log = logTo(pino.destination({ dest: 2, sync: true }));
