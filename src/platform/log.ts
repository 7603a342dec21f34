/** One line per event on standard error; no names of chains or listeners belong here. */
export function log(level: 'info' | 'error', message: string): void {
  process.stderr.write(`${level === 'error' ? 'error: ' : ''}${message}\n`);
}
