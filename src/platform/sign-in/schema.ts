import { z } from 'zod';

const PASSWORD_LENGTH = { least: 10, most: 200 };

export const credentials = z.object({
  name: z.string().trim().min(1, 'Write your name.').max(80, 'A name can have 80 characters.'),
  password: z
    .string()
    .min(PASSWORD_LENGTH.least, `A password needs at least ${PASSWORD_LENGTH.least} characters.`)
    .max(PASSWORD_LENGTH.most, `A password can have ${PASSWORD_LENGTH.most} characters.`),
});
export type Credentials = z.infer<typeof credentials>;
