'use client';

import { useEffect, useState } from 'react';
import { type DetailedError, Upload } from 'tus-js-client';
import { patternFault } from '@/core/checks/naming';

const PIECE_BYTES = 8 * 1024 * 1024;
const AT_ONCE = 2;
const RETRY_MS = [500, 1000, 2000, 4000, 8000, 8000, 8000, 8000];

export interface UploadLine {
  key: string;
  name: string;
  bytes: number;
  sent: number;
  state: 'waiting' | 'sending' | 'failed';
  remark: string | null;
}

/** Why a file is not even sent, or null. */
function refusedAtOnce(file: File): string | null {
  if (file.size === 0) return 'This file is empty (0 bytes); nothing was sent.';
  if (!/\.(wav|wave|bwf|rf64|flac|zip)$/i.test(file.name)) {
    return 'Only WAV and FLAC files, or zips of them, can be used; export it as WAV and drop it again.';
  }
  return null;
}

function sentenceOf(error: Error | DetailedError): string {
  const answer = 'originalResponse' in error ? error.originalResponse?.getBody() : null;
  if (answer) return answer;
  return 'The connection was lost. What arrived is kept: drop the same file again and it goes on from there.';
}

interface Waiting {
  key: string;
  file: File;
  /** How its name is read. */
  pattern: string;
}

/** Sends files, a few at a time, resumably: the same file sent again goes on where it stopped. */
class UploadQueue {
  private readonly waiting: Waiting[] = [];
  private running = 0;
  private made = 0;
  private lines: UploadLine[] = [];
  private readonly going = new Map<string, Waiting & { upload: Upload }>();
  private paused = false;
  private doneBytes = 0;

  constructor(
    private readonly comparisonId: string,
    private readonly onChange: (lines: UploadLine[], doneBytes: number) => void,
  ) {}

  private show(lines: UploadLine[]): void {
    this.lines = lines;
    if (lines.length === 0) this.doneBytes = 0;
    this.onChange(lines, this.doneBytes);
  }

  private change(key: string, patch: Partial<UploadLine>): void {
    this.show(this.lines.map((line) => (line.key === key ? { ...line, ...patch } : line)));
  }

  dismiss(key: string): void {
    this.show(this.lines.filter((line) => line.key !== key));
  }

  /** What is under way stops where it is; nothing that arrived is sent again. */
  pause(): void {
    this.paused = true;
    for (const { upload, ...waiting } of this.going.values()) {
      void upload.abort();
      this.waiting.unshift(waiting);
    }
    this.going.clear();
    this.running = 0;
  }

  resume(): void {
    this.paused = false;
    this.pump();
  }

  add(files: readonly File[], pattern: string): void {
    const added = files.map((file): UploadLine => {
      const remark = refusedAtOnce(file);
      const key = `${this.made++} ${file.name}`;
      if (remark === null) this.waiting.push({ key, file, pattern });
      const state = remark === null ? 'waiting' : 'failed';
      return { key, name: file.name, bytes: file.size, sent: 0, state, remark };
    });
    this.show([...this.lines, ...added]);
    this.pump();
  }

  private pump(): void {
    while (this.running < AT_ONCE && !this.paused) {
      const next = this.waiting.shift();
      if (!next) return;
      this.running++;
      this.send(next);
    }
  }

  private send(waiting: Waiting): void {
    const { key, file, pattern } = waiting;
    const { comparisonId } = this;
    const ended = () => {
      if (!this.going.delete(key)) return;
      this.running--;
      this.pump();
    };
    const upload = new Upload(file, {
      endpoint: '/api/uploads',
      chunkSize: PIECE_BYTES,
      retryDelays: RETRY_MS,
      // An empty value cannot travel in this header.
      metadata: { filename: file.name, comparisonId, ...(pattern === '' ? {} : { pattern }) },
      fingerprint: () =>
        Promise.resolve(`zeitbank ${comparisonId} ${file.name} ${file.size} ${file.lastModified}`),
      removeFingerprintOnSuccess: true,
      onShouldRetry: (error) => {
        const status = error.originalResponse?.getStatus() ?? 0;
        return status === 0 || status >= 500 || status === 423;
      },
      onProgress: (sent) => this.change(key, { sent, state: 'sending' }),
      onSuccess: () => {
        this.doneBytes += file.size;
        this.dismiss(key);
        ended();
      },
      onError: (error) => {
        this.change(key, { state: 'failed', remark: sentenceOf(error) });
        ended();
      },
    });
    this.going.set(key, { ...waiting, upload });
    void upload.findPreviousUploads().then(([earlier]) => {
      // Paused meanwhile: it is in the queue again.
      if (this.going.get(key)?.upload !== upload) return;
      if (earlier) upload.resumeFromPreviousUpload(earlier);
      upload.start();
    });
  }
}

export interface Uploads {
  lines: UploadLine[];
  /** What has arrived since the list was last empty. */
  done: { bytes: number };
  paused: boolean;
  add: (files: readonly File[]) => void;
  dismiss: (key: string) => void;
  pause: () => void;
  resume: () => void;
}

/** Files on their way into a comparison. */
export function useUploads(comparisonId: string, pattern: string): Uploads {
  const [lines, setLines] = useState<UploadLine[]>([]);
  const [doneBytes, setDoneBytes] = useState(0);
  const [paused, setPaused] = useState(false);
  const [queue] = useState(
    () =>
      new UploadQueue(comparisonId, (now, bytes) => {
        setLines(now);
        setDoneBytes(bytes);
      }),
  );
  const busy = lines.some(({ state }) => state !== 'failed');
  useEffect(() => {
    if (!busy) return;
    const warn = (event: BeforeUnloadEvent) => event.preventDefault();
    window.addEventListener('beforeunload', warn);
    return () => window.removeEventListener('beforeunload', warn);
  }, [busy]);
  return {
    lines,
    done: { bytes: doneBytes },
    paused,
    add: (files) => queue.add(files, patternFault(pattern) === null ? pattern : ''),
    dismiss: (key) => queue.dismiss(key),
    pause: () => {
      queue.pause();
      setPaused(true);
    },
    resume: () => {
      queue.resume();
      setPaused(false);
    },
  };
}
