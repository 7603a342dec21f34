import { UserError } from '../errors';
import type { SignedIn } from './store';

/**
 * @param does what nobody else does, after "Only the owner of this Zeitbank"
 * @throws UserError (403) for everybody else
 */
export function requireOwner({ role }: Pick<SignedIn, 'role'>, does: string): void {
  if (role !== 'owner') throw new UserError(403, `Only the owner of this Zeitbank ${does}.`);
}
