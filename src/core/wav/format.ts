/** How samples lie in a WAV file. `bitDepth` is the width of the container of one sample. */
export interface WavFormat {
  sampleRateHz: number;
  channels: number;
  bitDepth: 16 | 24 | 32 | 64;
  encoding: 'pcm' | 'float';
  /** Speaker positions (WAVE_FORMAT_EXTENSIBLE), 0 when not given. */
  channelMask: number;
}

/** What `bext` and LIST/INFO chunks say; kept as text. */
export interface WavMetadata {
  description?: string;
  originator?: string;
  originationDate?: string;
  originationTime?: string;
  /** Samples since midnight. */
  timeReferenceSamples?: number;
  /** LIST/INFO entries by their four-letter name. */
  info?: Record<string, string>;
}

export interface WavHeader {
  format: WavFormat;
  /** Byte at which the samples begin. */
  dataOffset: number;
  /** Bytes of whole frames that are really there. */
  dataBytes: number;
  frames: number;
  durationS: number;
  metadata: WavMetadata;
  /** Sentences about what was odd but could be read. */
  warnings: string[];
}

/** Random access to bytes: a buffer, a file, or rows of a database. Reads past the end are short. */
export interface ByteSource {
  readonly byteLength: number;
  read(offset: number, length: number): Promise<Uint8Array>;
}

/** A file that cannot be read as WAV: what is wrong, and at which byte. */
export class WavError extends Error {
  constructor(
    message: string,
    readonly byteOffset: number,
  ) {
    super(`${message} (at byte ${byteOffset})`);
    this.name = 'WavError';
  }
}

export function bytesSource(bytes: Uint8Array): ByteSource {
  return {
    byteLength: bytes.byteLength,
    read: (offset, length) => Promise.resolve(bytes.subarray(offset, offset + length)),
  };
}

/** Bytes of one frame (one sample of every channel). */
export function frameBytes(format: WavFormat): number {
  return format.channels * (format.bitDepth / 8);
}
