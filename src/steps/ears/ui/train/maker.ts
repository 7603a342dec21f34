import type { Drawn } from '@/core/ears/session';
import { EarsError } from '@/core/ears/skill';
import { RequestError } from '@/ui/request';
import type { OpenSession } from '../../schema';
import type { MaterialOrder, TrialOrder, WorkerMade, WorkerOrder } from './ears.worker';

/** Fetches a clip. @throws EarsError, or RequestError with the bank's own sentence where it refuses */
async function clipAt(url: string): Promise<ArrayBuffer> {
  const response = await fetch(url).catch(() => null);
  if (response?.ok) return response.arrayBuffer();
  const told = (await response?.json().catch(() => null)) as { error?: string } | null | undefined;
  if (!response || told?.error === undefined) throw new EarsError('unarrived');
  throw new RequestError(response.status, told.error);
}

/** Makes the sounds of a session's trials away from the page. */
export class EarMaker {
  private worker: Worker | null = null;
  private readonly waiting = new Map<number, (made: WorkerMade) => void>();
  private next = 0;
  private ready: Promise<unknown> | null = null;
  /** The trial that was made last. */
  private latest: { position: number; wavs: Promise<ArrayBuffer[]> } | null = null;

  constructor(private readonly session: OpenSession) {}

  private async ask(
    order: { material: MaterialOrder } | { trial: TrialOrder },
    handed: ArrayBuffer[] = [],
  ): Promise<ArrayBuffer[]> {
    if (!this.worker) {
      this.worker = new Worker(new URL('./ears.worker.ts', import.meta.url), { type: 'module' });
      this.worker.addEventListener('message', ({ data }: MessageEvent<WorkerMade>) => {
        this.waiting.get(data.id)?.(data);
        this.waiting.delete(data.id);
      });
    }
    const { worker } = this;
    const sent: WorkerOrder = { id: this.next++, ...order };
    const made = await new Promise<WorkerMade>((resolve) => {
      this.waiting.set(sent.id, resolve);
      worker.postMessage(sent, handed);
    });
    if ('refused' in made) throw new EarsError(made.refused);
    return made.wavs;
  }

  private async fetchMaterial(): Promise<void> {
    const { sound, clips } = this.session;
    const wavs = await Promise.all(clips.map(clipAt));
    await this.ask({ material: { made: sound.kind === 'made' ? sound.sound : null, wavs } }, wavs);
  }

  private async make(drawn: Drawn): Promise<ArrayBuffer[]> {
    this.ready ??= this.fetchMaterial();
    try {
      await this.ready;
    } catch (error) {
      // Another try fetches it anew.
      this.ready = null;
      throw error;
    }
    const { skill, choices, seed } = this.session;
    return this.ask({ trial: { skill, choices, seed, drawn } });
  }

  /** The three sounds of a trial as WAVs. @throws EarsError or RequestError */
  trial(drawn: Drawn): Promise<ArrayBuffer[]> {
    const { position } = drawn;
    if (this.latest?.position === position) return this.latest.wavs;
    const wavs = this.make(drawn);
    this.latest = { position, wavs };
    wavs.catch(() => {
      if (this.latest?.wavs === wavs) this.latest = null;
    });
    return wavs;
  }

  /** Lets the thread go; what is asked for after that is made by another. */
  dispose(): void {
    this.worker?.terminate();
    this.worker = null;
    this.ready = null;
    this.latest = null;
  }
}
