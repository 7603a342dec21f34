/** Bad use or bad input: one line on standard error, exit 2. */
export class InputError extends Error {
  override name = 'InputError';
}
