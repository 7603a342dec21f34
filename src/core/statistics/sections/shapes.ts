import { z } from 'zod';

export const p = z.number().min(0).max(1);
export const orNull = <T extends z.ZodType>(shape: T) => shape.nullable();
export const count = z.int().min(0);
export const interval = z.tuple([z.number(), z.number()]);
/** Id of a chain or listener, or its name in a results file. */
export const name = z.string();
