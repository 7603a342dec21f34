import 'server-only';
import { notFound } from 'next/navigation';
import { connection } from 'next/server';
import { z } from 'zod';
import { readingOnce } from './database';
import { UserError } from './errors';
import { live } from './live';
import type { SignedIn } from './sign-in/service';
import type { Right } from './sign-in/roles';
import { withRightOrSignIn } from './sign-in/session';

/** The address of every page of a comparison. */
export type ComparisonParams = { params: Promise<{ id: string }> };

/** What an address asks for, on a page that lists something. */
export interface Asked {
  searchParams: Promise<Record<string, string | string[] | undefined>>;
}

/**
 * Reads a comparison's page for whoever is signed in and has the right to it; what is not theirs, or not there, is not found.
 * @returns what was read, the engineer's name, and the mark of changes taken before reading
 */
export async function readPage<T>(
  { params }: ComparisonParams,
  read: (engineer: SignedIn, id: string) => Promise<T>,
  right: Right = 'work',
): Promise<T & { name: string; seen: string }> {
  await connection();
  const engineer = await withRightOrSignIn(right);
  const id = z.uuid().safeParse((await params).id);
  if (!id.success) notFound();
  const seen = live().mark(id.data);
  const seenNow = await orNotFound(() => readingOnce(() => read(engineer, id.data)));
  return { ...seenNow, name: engineer.name, seen };
}

/** Reads for a page; what is not theirs, or not there, is not found. */
export async function orNotFound<T>(read: () => Promise<T>): Promise<T> {
  try {
    return await read();
  } catch (error) {
    if (error instanceof UserError && error.status === 404) notFound();
    throw error;
  }
}
