import { fetchWithRetries } from '@/ui/player/engine';

/** Clips that arrived or are on their way, so that the coming trial is there when it is its turn. */
export class ClipCache {
  private readonly clips = new Map<string, Promise<ArrayBuffer>>();

  /** Stable, so that a player keeps it. */
  readonly fetch = (url: string): Promise<ArrayBuffer> => {
    let clip = this.clips.get(url);
    if (!clip) {
      clip = fetchWithRetries(url);
      this.clips.set(url, clip);
      clip.catch(() => this.clips.delete(url));
    }
    return clip;
  };

  /** Forgets what no present or coming trial needs. */
  keepOnly(urls: readonly string[]): void {
    for (const url of this.clips.keys()) if (!urls.includes(url)) this.clips.delete(url);
  }
}
