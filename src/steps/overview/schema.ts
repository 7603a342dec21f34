import type { z } from 'zod';
import { listQueryOf } from '@/platform/list-query';

export const binQuery = listQueryOf(['newest', 'oldest']);
export type BinQuery = z.infer<typeof binQuery>;

export const reportsQuery = listQueryOf(['newest', 'oldest']);
export type ReportsQuery = z.infer<typeof reportsQuery>;
