import { rangeOf } from './send-bytes';

it.each([
  [undefined, { from: 0, to: 100, partial: false }],
  ['bytes=0-9', { from: 0, to: 10, partial: true }],
  ['bytes=90-', { from: 90, to: 100, partial: true }],
  ['bytes=-10', { from: 90, to: 100, partial: true }],
  ['bytes=95-200', { from: 95, to: 100, partial: true }],
  ['bytes=-500', { from: 0, to: 100, partial: true }],
  // What is no single range is answered with the whole (RFC 9110, 14.2).
  ['bytes=0-1,5-6', { from: 0, to: 100, partial: false }],
  ['bytes=-', { from: 0, to: 100, partial: false }],
  ['lines=1-2', { from: 0, to: 100, partial: false }],
  // The last before the first is no range (14.1.2).
  ['bytes=9-3', { from: 0, to: 100, partial: false }],
  ['bytes=0-0x5', { from: 0, to: 100, partial: false }],
])('%s', (header, want) => expect(rangeOf(header, 100)).toEqual(want));

it.each(['bytes=100-', 'bytes=200-300', 'bytes=-0'])('%s cannot be met', (header) =>
  expect(rangeOf(header, 100)).toBeNull(),
);
