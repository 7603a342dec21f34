/** Sound hardly shrinks; far more than this is a trap. Small files are let through. */
const MOST_RATIO = 60;
const RATIO_FROM_BYTES = 64 << 20;
const MOST_BYTES = 16 * 1024 ** 3;

/** Whether a file of `packed` bytes holds more than sound can be packed to, or than the bank takes. */
export function unpacksToAbsurdly(unpacked: number, packed: number): boolean {
  const ratio = unpacked / Math.max(1, packed);
  return unpacked > MOST_BYTES || (unpacked > RATIO_FROM_BYTES && ratio > MOST_RATIO);
}
