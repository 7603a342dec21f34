import { z } from 'zod';
import { INVITED } from './roles';

const PASSWORD_LENGTH = { least: 10, most: 200 };

const password = z
  .string()
  .min(PASSWORD_LENGTH.least, `A password needs at least ${PASSWORD_LENGTH.least} characters.`)
  .max(PASSWORD_LENGTH.most, `A password can have ${PASSWORD_LENGTH.most} characters.`);

export const credentials = z.object({
  name: z.string().trim().min(1, 'Write your name.').max(80, 'A name can have 80 characters.'),
  password,
});
/** Signing in; with the setup word the first account is made. */
export const signingIn = credentials.extend({
  setupWord: z
    .string()
    .trim()
    .min(1, 'The terminal in which Zeitbank was started shows this word.')
    .max(100, 'The setup word is shorter.')
    .optional(),
});
export type SigningIn = z.infer<typeof signingIn>;

export const passwordChange = z.object({
  current: z.string().min(1, 'Write the password you have now.').max(PASSWORD_LENGTH.most),
  next: password,
});
/** For what is asked twice. */
export const withPassword = passwordChange.pick({ current: true });

export type PasswordChange = z.infer<typeof passwordChange>;

export const inviting = z.object({
  role: z.enum(INVITED),
  /** Sees no comparison but those that are shown to them. */
  limited: z.boolean().default(false),
  meantFor: z.string().trim().min(1, 'Say for whom it is.').max(80, 'Keep it under 80 characters.'),
});
export type Inviting = z.input<typeof inviting>;

/** The secret of an invitation, as it stands in the address. */
export const invitationToken = z.string().regex(/^[A-Za-z0-9_-]{32}$/);

/** Whoever has an invitation's link makes their account. */
export const accepting = credentials.extend({ token: z.string().pipe(invitationToken) });

/** Whether somebody may come in. */
export const access = z.object({ allowed: z.boolean() });

/** Which comparisons somebody sees. */
export const shownDraft = z.object({
  limited: z.boolean(),
  comparisonIds: z
    .array(z.uuid())
    .max(500, 'At most 500 comparisons can be picked; show all instead.'),
});
export type ShownDraft = z.infer<typeof shownDraft>;

export type Credentials = z.infer<typeof credentials>;
