import { createHash, randomInt } from 'node:crypto';
import { CODE_WORDS } from '@/core/design/words';
import { db } from '../database';
import { UserError } from '../errors';
import { mayTry } from '../limits';
import { isFirstStart } from './service';
import { readSecret, writeSecret } from './store';

const NAME = 'setup word';
const WORDS = 4;

const hashOf = (word: string) =>
  createHash('sha256').update(word.trim().toLowerCase()).digest('hex');

/**
 * Makes the word without which nobody becomes the owner of a bank that has none; it is told in the terminal
 * only, and kept as a hash. @returns null when there is an owner
 */
export async function freshSetupWord(): Promise<string | null> {
  if (!(await isFirstStart())) return null;
  const words = Array.from({ length: WORDS }, () => CODE_WORDS[randomInt(CODE_WORDS.length)]);
  const word = words.join('-').toLowerCase();
  await writeSecret(db(), NAME, hashOf(word));
  return word;
}

/** @throws UserError when the word is not the one that the terminal shows */
export async function requireSetupWord(word: string, place: string): Promise<void> {
  if (!(await mayTry('setup word', place))) {
    throw new UserError(429, 'Too many words were tried; wait a quarter of an hour.');
  }
  if ((await readSecret(db(), NAME)) !== hashOf(word)) {
    throw new UserError(
      403,
      'This is not the setup word; the terminal in which Zeitbank was started shows it.',
    );
  }
}
