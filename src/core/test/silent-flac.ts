/** CRC with the highest bit first, as RFC 9639 has it. */
function crc(bytes: readonly number[], polynomial: number, bits: number): number {
  const top = 1 << (bits - 1);
  const mask = (1 << bits) - 1;
  let value = 0;
  for (const byte of bytes) {
    value ^= byte << (bits - 8);
    for (let i = 0; i < 8; i++)
      value = (value & top ? (value << 1) ^ polynomial : value << 1) & mask;
  }
  return value;
}

/** A number as UTF-8 codes it, which FLAC uses beyond what Unicode needs. */
const coded = (n: number): number[] => [...Buffer.from(String.fromCodePoint(n), 'utf8')];

/**
 * A FLAC file (RFC 9639) of 16 bits at 48 kHz that holds nothing but silence, as small as it can be: each frame
 * is a dozen bytes for 65535 samples.
 * @param claimed samples that the file says it holds
 */
export function silentFlac(frames: number, channels: number, claimed: number): Buffer {
  const info = new Array<number>(34).fill(0);
  info.splice(0, 4, 0xff, 0xff, 0xff, 0xff);
  info[10] = 48000 >> 12;
  info[11] = (48000 >> 4) & 0xff;
  info[12] = ((48000 & 0xf) << 4) | ((channels - 1) << 1);
  info[13] = (15 << 4) | Math.floor(claimed / 2 ** 32);
  info.splice(14, 4, ...[24, 16, 8, 0].map((shift) => (claimed / 2 ** shift) & 0xff));
  const bytes = [...Buffer.from('fLaC'), 0x80, 0, 0, 34, ...info];
  for (let i = 0; i < frames; i++) {
    const head = [0xff, 0xf8, 0x7a, ((channels - 1) << 4) | 0x08, ...coded(i), 0xff, 0xfe];
    head.push(crc(head, 0x07, 8));
    const frame = [...head, ...new Array<number>(3 * channels).fill(0)];
    const sum = crc(frame, 0x8005, 16);
    bytes.push(...frame, sum >> 8, sum & 0xff);
  }
  return Buffer.from(bytes);
}
