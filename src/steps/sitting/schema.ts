import { z } from 'zod';

/** What listeners read must not name a chain; that is checked when the sitting is sealed. */
export const sittingDraft = z.object({
  title: z
    .string()
    .trim()
    .min(1, 'Say in a few words what listeners will hear.')
    .max(120, 'Keep it under 120 characters.'),
  prompt: z
    .string()
    .trim()
    .min(1, 'Write the question that listeners answer.')
    .max(200, 'Keep the question under 200 characters.'),
  tiesAllowed: z.boolean(),
  trialsPerListener: z
    .int('Trials are a whole number.')
    .min(1, 'A listener needs at least one trial.')
    .max(120, 'More than 120 trials tire anyone; 120 is the most.'),
  seats: z
    .int('Seats are a whole number.')
    .min(1, 'At least one listener.')
    .max(100, 'A sitting has at most 100 seats.'),
  codeMode: z.enum(['fresh', 'fixed']),
  /** What is listened to; the newest set of the first passage when left out. */
  clipSetId: z.uuid().optional(),
});
export type SittingDraft = z.infer<typeof sittingDraft>;

/** What an engineer may see of a sitting; nothing of its key. */
export interface Sitting extends SittingDraft {
  id: string;
  clipSetId: string;
  state: 'draft' | 'open' | 'closed';
  token: string;
  seal: string | null;
  simulated: boolean;
  openedAt: Date | null;
  closedAt: Date | null;
}

/** Counts that tell nothing of what was answered. */
export interface SittingCounts {
  joined: number;
  finished: number;
  answers: number;
}

/** What the panel's minutes buy, before they are spent. */
export interface SittingAccount {
  chains: number;
  pairs: number;
  clipSeconds: number;
  minutesEach: number;
  minutesInAll: number;
  judgementsPerPair: number;
  /** Smallest share of choices found in 4 of 5 cases with one judgement as good as another; null: none. */
  detectableShare: number | null;
  neededFor70: number;
}

/** The sealed document; its canonical JSON is what is hashed. */
export const sealedKey = z.object({
  document: z.literal('zeitbank sealed key 1'),
  sitting: z.string(),
  plan: sittingDraft,
  analysis: z.string(),
  chains: z.array(z.object({ id: z.string(), name: z.string(), clipSha256: z.string() })),
  /** Per seat, per trial: index of the first and second chain, and their code words. */
  seats: z.array(z.array(z.tuple([z.int(), z.int(), z.string(), z.string()]))),
  nonce: z.string(),
});
export type SealedKey = z.infer<typeof sealedKey>;
