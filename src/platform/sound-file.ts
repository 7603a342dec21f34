import { closeSync, openSync, readSync, unlinkSync, writeSync } from 'node:fs';
import path from 'node:path';
import { randomUUID } from 'node:crypto';
import type { Sound, WritableSound } from '@/core/signal/sound';
import { frameBytes, type WavHeader } from '@/core/wav/format';
import { decodeInto } from '@/core/wav/read';

/** Frames that are read ahead: most readers go from block to block. */
const AHEAD_FRAMES = 1 << 14;

/** Bytes of an open file from one place on, kept for the next read. */
class ReadAhead {
  private bytes = new Uint8Array(0);
  private from = 0;

  constructor(
    private readonly fd: number,
    private readonly ahead: number,
  ) {}

  /** Bytes [from, from + length) of the file; they must be there, and are valid until the next call. */
  at(from: number, length: number): Uint8Array {
    if (from < this.from || from + length > this.from + this.bytes.length) {
      const room = new Uint8Array(Math.max(length, this.ahead));
      let done = 0;
      while (done < room.length) {
        const read = readSync(this.fd, room, done, room.length - done, from + done);
        if (read === 0) break;
        done += read;
      }
      this.bytes = room.subarray(0, done);
      this.from = from;
    }
    return this.bytes.subarray(from - this.from, from - this.from + length);
  }

  /** What was written to the file is read so from now on. */
  put(from: number, bytes: Uint8Array): void {
    const start = Math.max(from, this.from);
    const end = Math.min(from + bytes.length, this.from + this.bytes.length);
    if (end > start) this.bytes.set(bytes.subarray(start - from, end - from), start - this.from);
  }
}

/** Where [from, from + length) and sound of so many frames meet. */
function within(from: number, length: number, frames: number): [number, number] {
  const start = Math.min(frames, Math.max(0, from));
  return [start, Math.max(start, Math.min(frames, from + length))];
}

/** Sound in a WAV file that stays open, decoded where it is read. */
export function soundInFile(fd: number, { format, frames, dataOffset }: WavHeader): Sound {
  const width = frameBytes(format);
  const bytes = new ReadAhead(fd, AHEAD_FRAMES * width);
  const all = Array.from({ length: format.channels }, (_, c) => c);
  return {
    channels: format.channels,
    frames,
    read: (from, into) => {
      const { length } = into[0]!;
      const [start, end] = within(from, length, frames);
      if (end - start < length) for (const out of into) out.fill(0);
      if (start === end) return;
      const inside = into.map((out) => out.subarray(start - from, end - from));
      const coded = bytes.at(dataOffset + start * width, (end - start) * width);
      decodeInto(inside, coded, format, all.slice(0, into.length));
    },
  };
}

/**
 * A long clip as 32-bit floats in a file without a name: it is gone when it is closed, or when the program ends in
 * whatever way.
 */
export class FileClip implements WritableSound {
  private readonly fd: number;
  private readonly bytes: ReadAhead;

  /** @throws what the system says when the folder cannot be written to */
  constructor(
    folder: string,
    readonly channels: number,
    readonly frames: number,
  ) {
    const file = path.join(folder, `.${randomUUID()}`);
    this.fd = openSync(file, 'wx+');
    unlinkSync(file);
    this.bytes = new ReadAhead(this.fd, AHEAD_FRAMES * 4 * channels);
    // The last frame fixes the length; what is never written reads as silence.
    if (frames > 0) writeSync(this.fd, new Uint8Array(4), 0, 4, 4 * (frames * channels - 1));
  }

  read(from: number, into: readonly Float64Array[]): void {
    const { channels } = this;
    const { length } = into[0]!;
    const [start, end] = within(from, length, this.frames);
    if (end - start < length) for (const out of into) out.fill(0);
    if (start === end) return;
    const bytes = this.bytes.at(4 * start * channels, 4 * (end - start) * channels);
    const samples = new Float32Array(bytes.buffer, bytes.byteOffset, (end - start) * channels);
    for (const [c, out] of into.entries()) {
      for (let n = start, at = c; n < end; n++, at += channels) out[n - from] = samples[at]!;
    }
  }

  write(from: number, block: readonly Float64Array[]): void {
    const { channels } = this;
    const samples = new Float32Array(block[0]!.length * channels);
    for (const [c, own] of block.entries()) {
      for (let n = 0, at = c; n < own.length; n++, at += channels) samples[at] = own[n]!;
    }
    const bytes = new Uint8Array(samples.buffer);
    const place = 4 * from * channels;
    for (let done = 0; done < bytes.length;) {
      done += writeSync(this.fd, bytes, done, bytes.length - done, place + done);
    }
    this.bytes.put(place, bytes);
  }

  close(): void {
    closeSync(this.fd);
  }
}
