/** What wrote a document; the same as in package.json. */
export const PROGRAM = 'zeitbank 0.1.0';
