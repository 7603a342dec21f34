import {
  type ByteSource,
  bytesSource,
  frameBytes,
  WavError,
  type WavFormat,
  type WavHeader,
  type WavMetadata,
} from './format';

const PCM = 1;
const FLOAT = 3;
const EXTENSIBLE = 0xfffe;
const UNKNOWN_SIZE = 0xffffffff;
const MAX_CHUNKS = 2000;
/** Metadata beyond this is skipped, so that a damaged size cannot ask for absurd memory. */
const MAX_METADATA_BYTES = 1 << 20;

/**
 * Reads the header of a RIFF/WAVE, BWF, RF64 or BW64 file (EBU Tech 3285, 3306; ITU-R BS.2088).
 * Unknown chunks are skipped; samples cut short are read as far as they go, with a warning.
 * @throws WavError with the byte at which the file stops making sense
 */
export async function readWavHeader(source: ByteSource): Promise<WavHeader> {
  const start = await source.read(0, 12);
  if (source.byteLength === 0) throw new WavError('the file is empty', 0);
  if (start.length < 12) throw new WavError('the file is too short for a WAV header', 0);
  const outer = fourCc(start, 0);
  if (outer !== 'RIFF' && outer !== 'RF64' && outer !== 'BW64') {
    throw new WavError(`this is not a WAV file: it begins with ${printable(start)}`, 0);
  }
  if (fourCc(start, 8) !== 'WAVE') {
    throw new WavError('this RIFF file does not hold WAVE sound', 8);
  }
  const warnings: string[] = [];
  const metadata: WavMetadata = {};
  let format: WavFormat | null = null;
  let data: { offset: number; bytes: number } | null = null;
  let longDataBytes: number | null = null;
  let offset = 12;
  for (let count = 0; offset + 8 <= source.byteLength; count++) {
    if (count >= MAX_CHUNKS) throw new WavError(`more than ${MAX_CHUNKS} chunks`, offset);
    const head = await source.read(offset, 8);
    const id = fourCc(head, 0);
    let size = view(head).getUint32(4, true);
    const body = offset + 8;
    const available = source.byteLength - body;
    if (id === 'data') {
      if (data) break;
      if (size === UNKNOWN_SIZE) {
        if (longDataBytes !== null && longDataBytes <= Number.MAX_SAFE_INTEGER) {
          size = longDataBytes;
        } else {
          size = available;
          warnings.push('the length of the samples is not stated; read to the end of the file');
        }
      }
      if (size > available) {
        warnings.push(`the file is cut short: ${available} of ${size} bytes of samples are there`);
      }
      data = { offset: body, bytes: Math.min(size, available) };
    } else if (id === 'fmt ') {
      if (size < 16) throw new WavError(`the format chunk has ${size} bytes, 16 needed`, offset);
      format = parseFormat(await source.read(body, Math.min(size, 40)), body);
    } else if (id === 'ds64') {
      const body64 = await source.read(body, 24);
      if (body64.length < 16) throw new WavError('the 64-bit size chunk is cut short', offset);
      longDataBytes = Number(view(body64).getBigUint64(8, true));
    } else if (id === 'bext' && size <= MAX_METADATA_BYTES) {
      Object.assign(metadata, parseBext(await source.read(body, Math.min(size, 346))));
    } else if (id === 'LIST' && size <= MAX_METADATA_BYTES) {
      const info = parseInfo(await source.read(body, size));
      if (info) metadata.info = { ...metadata.info, ...info };
    }
    offset = body + size + (size % 2);
  }
  if (!format) throw new WavError('there is no format chunk', Math.min(offset, source.byteLength));
  if (!data) throw new WavError('there are no samples (no data chunk)', source.byteLength);
  const frame = frameBytes(format);
  const frames = Math.floor(data.bytes / frame);
  if (frames * frame !== data.bytes) warnings.push('the last sample is incomplete and left out');
  return {
    format,
    dataOffset: data.offset,
    dataBytes: frames * frame,
    frames,
    durationS: frames / format.sampleRateHz,
    metadata,
    warnings,
  };
}

function parseFormat(bytes: Uint8Array, at: number): WavFormat {
  if (bytes.length < 16) throw new WavError('the format chunk is cut short', at);
  const fields = view(bytes);
  let tag = fields.getUint16(0, true);
  const channels = fields.getUint16(2, true);
  const sampleRateHz = fields.getUint32(4, true);
  const blockAlign = fields.getUint16(12, true);
  const bits = fields.getUint16(14, true);
  let channelMask = 0;
  if (tag === EXTENSIBLE) {
    if (bytes.length < 26) throw new WavError('the extended format is cut short', at);
    channelMask = fields.getUint32(20, true);
    tag = fields.getUint16(24, true);
  }
  if (tag !== PCM && tag !== FLOAT) {
    throw new WavError(`the sound is coded (format ${tag}); only PCM and float can be read`, at);
  }
  if (channels === 0) throw new WavError('the format says zero channels', at + 2);
  if (sampleRateHz === 0) throw new WavError('the format says a sample rate of zero', at + 4);
  const container = (blockAlign / channels) * 8;
  const depths = tag === PCM ? [16, 24, 32] : [32, 64];
  if (!depths.includes(container) || bits > container || bits === 0) {
    throw new WavError(
      `${bits}-bit ${tag === PCM ? 'PCM' : 'float'} in blocks of ${blockAlign} bytes for ${channels} ` +
        `channel${channels === 1 ? '' : 's'} cannot be read; ${depths.join(', ')} bits can`,
      at + 12,
    );
  }
  return {
    sampleRateHz,
    channels,
    bitDepth: container as WavFormat['bitDepth'],
    encoding: tag === PCM ? 'pcm' : 'float',
    channelMask,
  };
}

function parseBext(bytes: Uint8Array): WavMetadata {
  if (bytes.length < 346) return {};
  return {
    description: text(bytes.subarray(0, 256)),
    originator: text(bytes.subarray(256, 288)),
    originationDate: text(bytes.subarray(320, 330)),
    originationTime: text(bytes.subarray(330, 338)),
    timeReferenceSamples: Number(view(bytes).getBigUint64(338, true)),
  };
}

function parseInfo(bytes: Uint8Array): Record<string, string> | null {
  if (bytes.length < 4 || fourCc(bytes, 0) !== 'INFO') return null;
  const info: Record<string, string> = {};
  for (let at = 4; at + 8 <= bytes.length;) {
    const size = view(bytes).getUint32(at + 4, true);
    info[fourCc(bytes, at)] = text(bytes.subarray(at + 8, at + 8 + size));
    at += 8 + size + (size % 2);
  }
  return info;
}

/**
 * Turns interleaved sample bytes into one Float64Array per channel, ±1 = full scale.
 * Bytes of an incomplete last frame are ignored; NaN and infinite floats become zero.
 * @param only the channels that are wanted; all of them when null
 */
export function decodeFrames(
  bytes: Uint8Array,
  format: WavFormat,
  only: readonly number[] | null = null,
): Float64Array[] {
  const frames = Math.floor(bytes.length / frameBytes(format));
  const wanted = only ?? Array.from({ length: format.channels }, (_, c) => c);
  const out = wanted.map(() => new Float64Array(frames));
  decodeInto(out, bytes, format, wanted);
  return out;
}

/** As `decodeFrames`, into arrays of just that length, one for each channel that is wanted. */
export function decodeInto(
  out: readonly Float64Array[],
  bytes: Uint8Array,
  { channels, bitDepth, encoding }: WavFormat,
  wanted: readonly number[],
): void {
  const width = bitDepth / 8;
  const data = view(bytes);
  for (const [place, c] of wanted.entries()) {
    const samples = out[place]!;
    const frames = samples.length;
    const step = channels * width;
    let at = c * width;
    if (encoding === 'float') {
      for (let n = 0; n < frames; n++, at += step) {
        const value = width === 4 ? data.getFloat32(at, true) : data.getFloat64(at, true);
        samples[n] = Number.isFinite(value) ? value : 0;
      }
    } else if (width === 3) {
      // A word that ends with the sample is read in a third of the time of three bytes; before the
      // very first sample there is no byte to begin with.
      let n = 0;
      if (at === 0 && frames > 0) {
        samples[n++] = ((bytes[0]! << 8) | (bytes[1]! << 16) | (bytes[2]! << 24)) / 0x80000000;
        at += step;
      }
      for (; n < frames; n++, at += step) {
        samples[n] = (data.getInt32(at - 1, true) & 0xffffff00) / 0x80000000;
      }
    } else if (width === 2) {
      for (let n = 0; n < frames; n++, at += step) samples[n] = data.getInt16(at, true) / 0x8000;
    } else {
      for (let n = 0; n < frames; n++, at += step) {
        samples[n] = data.getInt32(at, true) / 0x80000000;
      }
    }
  }
}

/** Reads frames [from, to) of a WAV source, one Float64Array per channel. */
export async function readFrames(
  source: ByteSource,
  header: WavHeader,
  from: number,
  to: number,
  only: readonly number[] | null = null,
): Promise<Float64Array[]> {
  const first = Math.max(0, Math.min(from, header.frames));
  const last = Math.max(first, Math.min(to, header.frames));
  const frame = frameBytes(header.format);
  const bytes = await source.read(header.dataOffset + first * frame, (last - first) * frame);
  return decodeFrames(bytes, header.format, only);
}

/** The whole of a WAV held in memory; for clips, not for long takes. */
export async function decodeWav(
  bytes: Uint8Array,
): Promise<{ header: WavHeader; channels: Float64Array[] }> {
  const source = bytesSource(bytes);
  const header = await readWavHeader(source);
  return { header, channels: await readFrames(source, header, 0, header.frames) };
}

function view(bytes: Uint8Array): DataView {
  return new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
}

function fourCc(bytes: Uint8Array, at: number): string {
  return String.fromCharCode(...bytes.subarray(at, at + 4));
}

function printable(bytes: Uint8Array): string {
  const shown = fourCc(bytes, 0);
  return /^[\x20-\x7e]{4}$/.test(shown)
    ? `"${shown}"`
    : `bytes ${[...bytes.subarray(0, 4)].map((b) => b.toString(16).padStart(2, '0')).join(' ')}`;
}

function text(bytes: Uint8Array): string {
  const end = bytes.indexOf(0);
  return new TextDecoder().decode(end < 0 ? bytes : bytes.subarray(0, end)).trim();
}
