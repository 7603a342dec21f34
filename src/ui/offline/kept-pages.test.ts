import { askedToForget, askedToKeep, isKeptPage, isOwnFile, isThePage } from './kept-pages';

it.each([
  ['/comparisons/0d3f/run-sheet', true],
  ['/listen/AbCd_-12', true],
  // Results, the key and everything a route answers stay in the bank.
  ['/comparisons/0d3f/results', false],
  ['/comparisons/0d3f/run-sheet/print', false],
  ['/conduct/AbCd', false],
  ['/train/AbCd', false],
  ['/listen', false],
  ['/api/listen/AbCd/key', false],
  ['/api/listen/AbCd/clip/x', false],
  ['/', false],
])('of pages %s is kept: %s', (pathname, kept) => {
  expect(isKeptPage(pathname)).toBe(kept);
});

it('only the product’s own files are kept beside pages', () => {
  expect(isOwnFile('/_next/static/chunks/a1.js')).toBe(true);
  expect(isOwnFile('/_next/image')).toBe(false);
  expect(isOwnFile('/api/uploads/x')).toBe(false);
});

it.each([
  [{ keep: ['https://bank.example/listen/a'] }, ['https://bank.example/listen/a']],
  [{ keep: [1] }, []],
  [{ type: 'CACHE_URLS' }, []],
  ['keep', []],
  [null, []],
])('of the message %j it is asked to keep %j', (message, addresses) => {
  expect(askedToKeep(message)).toEqual(addresses);
});

it.each([
  [{ forget: true }, true],
  [{ forget: 'all' }, false],
  [{ keep: [] }, false],
  ['forget', false],
  [null, false],
])('of the message %j it is asked to forget: %s', (message, asked) => {
  expect(askedToForget(message)).toBe(asked);
});

it('a refusal and a way to the sign-in are no pages', () => {
  expect(isThePage({ status: 200, redirected: false })).toBe(true);
  expect(isThePage({ status: 200, redirected: true })).toBe(false);
  expect(isThePage({ status: 404, redirected: false })).toBe(false);
});
