import { z } from 'zod';
import { type Answering, answering } from '../schema';

/** Answers that the server has not acknowledged yet; they outlive a reload and a closed tab. */
const stored = z.array(answering);

function nameOf(token: string): string {
  return `zeitbank answers ${token}`;
}

export function readOutbox(token: string): Answering[] {
  try {
    return stored.parse(JSON.parse(localStorage.getItem(nameOf(token)) ?? '[]'));
  } catch {
    return [];
  }
}

export function writeOutbox(token: string, answers: readonly Answering[]): void {
  try {
    if (answers.length === 0) localStorage.removeItem(nameOf(token));
    else localStorage.setItem(nameOf(token), JSON.stringify(answers));
  } catch {
    // Without storage (a private window) the answer still waits in memory.
  }
}
