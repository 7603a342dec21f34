import 'server-only';
import type { Readable } from 'node:stream';
import { DataStore, Upload } from '@tus/server';
import { CHUNK_BYTES, createAudio, writeChunk } from '@/platform/audio-store';
import { db, transaction } from '@/platform/database';
import { failureOf } from '@/platform/failure';
import { uploadMetadata } from './schema';
import { receiveUpload, reserveSpace } from './service';
import { advanceUpload, findUpload, insertUpload } from './store';

const MOST_BYTES = 16 * 1024 ** 3;

/** The refusal that the upload protocol passes on: status and sentence. */
interface Refusal {
  status_code: number;
  body: string;
}

/** One sentence instead of whatever was thrown, in the protocol's own form. */
export async function told<T>(work: () => Promise<T>): Promise<T> {
  try {
    return await work();
  } catch (error) {
    if (typeof error === 'object' && error !== null && 'status_code' in error) throw error;
    const { status, message } = failureOf(error);
    throw refusal(status, message);
  }
}

function refusal(status: number, body: string): Error & Refusal {
  return Object.assign(new Error(body), { status_code: status, body });
}

/**
 * Resumable uploads (tus 1.0) into the audio store. Each whole chunk is stored in a transaction of its
 * own with the count of bytes received, so that a broken connection, a closed laptop or a killed
 * server costs at most one chunk; the last chunk also makes the take and its job.
 */
export class AudioUploadStore extends DataStore {
  constructor() {
    super();
    this.extensions = ['creation'];
  }

  override create(upload: Upload): Promise<Upload> {
    return told(async () => {
      const { comparisonId, filename, pattern } = uploadMetadata.parse(upload.metadata);
      const size = upload.size ?? 0;
      if (size === 0) throw refusal(422, `${filename} is empty (0 bytes); nothing was stored.`);
      if (size > MOST_BYTES) {
        throw refusal(413, `${filename} is larger than 16 GiB; cut it and drop the parts.`);
      }
      const at = new Date();
      await transaction(async (tx) => {
        await reserveSpace(tx, size);
        const audioId = await createAudio(tx, size, at);
        await insertUpload(
          tx,
          {
            id: upload.id,
            comparison_id: comparisonId,
            audio_id: audioId,
            file_name: filename.split(/[\\/]/).pop() ?? filename,
            byte_length: size,
            pattern,
          },
          at,
        );
      });
      return upload;
    });
  }

  override write(stream: Readable, id: string, offset: number): Promise<number> {
    return told(async () => {
      const upload = await findUpload(db(), id);
      if (!upload) throw refusal(404, 'This upload is not known any more; drop the file again.');
      let received = offset;
      let parts: Buffer[] = [];
      let waiting = 0;
      const store = async (data: Buffer) => {
        const until = received + data.length;
        await transaction(async (tx) => {
          if (!(await advanceUpload(tx, id, received, until))) {
            throw refusal(409, 'The same file is arriving from another window; this one stops.');
          }
          await writeChunk(tx, upload.audio_id, received / CHUNK_BYTES, data);
          if (until === upload.byte_length) {
            await receiveUpload(
              tx,
              {
                comparisonId: upload.comparison_id,
                audioId: upload.audio_id,
                fileName: upload.file_name,
                pattern: upload.pattern,
              },
              new Date(),
            );
          }
        });
        received = until;
      };
      try {
        for await (const part of stream as AsyncIterable<Buffer>) {
          parts.push(part);
          waiting += part.length;
          if (waiting < CHUNK_BYTES && received + waiting < upload.byte_length) continue;
          let joined = Buffer.concat(parts);
          while (joined.length >= CHUNK_BYTES) {
            await store(joined.subarray(0, CHUNK_BYTES));
            joined = joined.subarray(CHUNK_BYTES);
          }
          if (joined.length > 0 && received + joined.length === upload.byte_length) {
            await store(joined);
            joined = Buffer.alloc(0);
          }
          parts = [joined];
          waiting = joined.length;
        }
      } catch (error) {
        // The sender went away: whole chunks are kept, and it asks where to go on.
        if ((error as NodeJS.ErrnoException).code !== 'ECONNRESET' && !stream.destroyed)
          throw error;
      }
      return received;
    });
  }

  override getUpload(id: string): Promise<Upload> {
    return told(async () => {
      const upload = await findUpload(db(), id);
      if (!upload) throw refusal(404, 'This upload is not known any more; drop the file again.');
      return new Upload({ id, size: upload.byte_length, offset: upload.received });
    });
  }
}
