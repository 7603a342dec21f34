import { z } from 'zod';
import { listQueryOf } from '@/platform/list-query';

export const heardQuery = listQueryOf(['newest', 'oldest']);
export type HeardQuery = z.infer<typeof heardQuery>;
