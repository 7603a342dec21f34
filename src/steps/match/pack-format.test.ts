import { createHash, randomInt } from 'node:crypto';
import { sha256Hex } from '@/core/design/seal';
import { CODE_WORDS } from '@/core/design/words';
import {
  keyDocument,
  manifestOf,
  manifestSchema,
  packKey,
  packManifest,
  packWords,
  readMe,
} from './pack-format';

const hash = 'ab'.repeat(32);
const facts = {
  title: 'Contralto, quiet verse',
  question: 'Which suits better?',
  sampleRateHz: 48000,
  channels: 1,
  seconds: 7.5,
  level: { method: 'loudness' as const, target: -24.1 },
  clips: ['Walnut', 'Harbour', 'Lantern'].map((word) => ({
    word,
    file: `${word}.wav`,
    sha256: hash,
  })),
  seal: hash,
};

it('words follow the draw, each once', () => {
  expect(packWords(3, () => 0)).toEqual(CODE_WORDS.slice(0, 3));
  expect(packWords(2, (below) => below - 1)).toEqual([...CODE_WORDS].reverse().slice(0, 2));
  expect(new Set(packWords(12, (below) => randomInt(below))).size).toBe(12);
});

it('the manifest lists clips by word, whatever order the chains have', () => {
  const manifest = manifestOf(facts);
  expect(manifest.clips.map(({ word }) => word)).toEqual(['Harbour', 'Lantern', 'Walnut']);
  expect(packManifest.parse(JSON.parse(JSON.stringify(manifest)))).toEqual(manifest);
  expect(() => packManifest.parse({ ...manifest, chains: ['Kern 40'] })).toThrow();
});

it('its schema is a JSON Schema that names every field', () => {
  const schema = JSON.parse(manifestSchema()) as {
    $schema: string;
    required: string[];
    additionalProperties: boolean;
  };
  expect(schema.$schema).toContain('2020-12');
  expect(schema.additionalProperties).toBe(false);
  expect(schema.required).toEqual(
    expect.arrayContaining(['format', 'clips', 'seal', 'sampleRateHz', 'level']),
  );
});

it('the seal is the hash of the key file, byte for byte', async () => {
  const key = {
    document: 'zeitbank blind pack key 2' as const,
    pack: 'p',
    clips: [{ word: 'Walnut', chain: 'Kern 40 › Linie 2', sha256: hash }],
    nonce: 'n0nce',
  };
  const text = keyDocument(key);
  expect(packKey.parse(JSON.parse(text))).toEqual(key);
  expect(await sha256Hex(text)).toBe(createHash('sha256').update(text, 'utf8').digest('hex'));
});

it('tells in plain text what is there and how to verify it', () => {
  const text = readMe(manifestOf(facts));
  expect(text).toContain('sha256sum key.json');
  expect(text).toContain(hash);
  expect(text).toContain('3 clips of 7.50 s');
});
