import { MATCH_METHODS } from '@/core/matching/methods';
import { z } from 'zod';
import { canonicalJson } from '@/core/design/seal';
import { CODE_WORDS } from '@/core/design/words';

/** Name of the format; a reader refuses others. */
export const PACK_FORMAT = 'zeitbank blind pack 1';

const hash = z.string().regex(/^[0-9a-f]{64}$/);

/** What lies in a pack, for whoever reads it without the bank that made it. */
export const packManifest = z
  .object({
    format: z.literal(PACK_FORMAT),
    title: z.string().describe('Which music this is; names no chain.'),
    question: z.string().describe('What listeners are asked.'),
    sampleRateHz: z.int().positive(),
    channels: z.int().positive(),
    seconds: z.number().positive(),
    level: z
      .object({ method: z.enum(MATCH_METHODS), target: z.number() })
      .describe(
        'What was made equal in all clips: LUFS, dBFS for rms and tone, dB of gain for gain.',
      ),
    clips: z
      .array(
        z.object({
          word: z.string().describe('The code word; also the name of the file.'),
          file: z.string(),
          sha256: hash.describe('Of the file as it lies in the pack.'),
        }),
      )
      .min(2),
    seal: hash.describe('SHA-256 of the key document, which is handed out after listening.'),
    answers: z
      .object({
        file: z.literal('answers.csv'),
        columns: z.array(z.string()),
      })
      .describe('How answers are written down, so that they can be read in later.'),
  })
  .strict();
export type PackManifest = z.infer<typeof packManifest>;

/** The key: which word is which chain. Its canonical JSON is what the seal is made of. */
export const packKey = z
  .object({
    document: z.literal('zeitbank blind pack key 2'),
    pack: z.string(),
    /** The hash is of the file as it lies in the pack, so that no other file can be taken for it. */
    clips: z.array(z.object({ word: z.string(), chain: z.string(), sha256: hash })),
    nonce: z.string(),
  })
  .strict();
export type PackKey = z.infer<typeof packKey>;
/** The key as its file holds it. */
export const packKeyText = z
  .string()
  .transform((text, context): unknown => {
    try {
      return JSON.parse(text) as unknown;
    } catch {
      context.addIssue({ code: 'custom', message: 'the key is not JSON' });
      return z.NEVER;
    }
  })
  .pipe(packKey);

/**
 * One word for each clip. No seed: whoever found it by trying would know which word came first.
 * @param draw a whole number below its argument, unpredictable
 */
export function packWords(count: number, draw: (below: number) => number): string[] {
  const left = [...CODE_WORDS];
  return Array.from({ length: count }, () => left.splice(draw(left.length), 1)[0]!);
}

/** The text that is hashed, and that the key file holds to the byte. */
export function keyDocument(key: PackKey): string {
  return canonicalJson(packKey.parse(key));
}

export function manifestSchema(): string {
  return `${JSON.stringify(z.toJSONSchema(packManifest), null, 2)}\n`;
}

const ANSWER_COLUMNS = ['listener', 'trial', 'first', 'second', 'choice', 'remark'];

export function manifestOf(facts: Omit<PackManifest, 'format' | 'answers'>): PackManifest {
  // In the order of the words, which knows nothing of the chains.
  const clips = [...facts.clips].sort((a, b) => a.word.localeCompare(b.word, 'en'));
  return packManifest.parse({
    format: PACK_FORMAT,
    ...facts,
    clips,
    answers: { file: 'answers.csv', columns: ANSWER_COLUMNS },
  });
}

/** The first line of the file that answers are written into. */
export const ANSWERS_CSV = `${ANSWER_COLUMNS.join(',')}\r\n`;

/** What is in the pack and how to check it, for a reader who has nothing but a terminal. */
export function readMe({ title, question, clips, seal, level, seconds }: PackManifest): string {
  return [
    `Blind pack: ${title}`,
    '',
    `${clips.length} clips of ${seconds.toFixed(2)} s, the same music through different recording chains,`,
    level.method === 'gain'
      ? 'at the same gain, so not equally loud. File names are code words and mean nothing.'
      : `matched by ${level.method === 'test' ? 'a test sound' : level.method} to ${level.target.toFixed(2)}. File names are code words and mean nothing.`,
    '',
    `Question: ${question}`,
    '',
    'Listening',
    '  Set a comfortable level once, with any clip, and leave it. Loud listening harms hearing; take breaks.',
    '  Write answers into answers.csv, one line each. "choice" is the word that was chosen, or tie.',
    '',
    'Checking that nothing was changed',
    '  sha256sum *.wav          compare with "sha256" in manifest.json',
    '',
    'Checking the key afterwards',
    '  Whoever made this pack keeps the key, a file key.json, until answers are in. This pack holds its seal:',
    `  ${seal}`,
    '  When you are given key.json:  sha256sum key.json  must print exactly that. Then the key was fixed',
    '  before you listened.',
    '',
    'manifest.json describes the pack for programs; manifest.schema.json is its JSON Schema (2020-12).',
    '',
  ].join('\n');
}
