/** What a player shows. */
export interface PlayerState {
  ready: boolean;
  /** Share of all clips that has arrived, 0 … 1. */
  loaded: number;
  playing: boolean;
  selected: number;
  positionS: number;
  lengthS: number;
  loopS: readonly [number, number];
  /** Seconds each clip was heard. */
  heardS: readonly number[];
  switches: number;
  error: string | null;
}

const CROSSFADE_S = 0.008;
/** All gains are told before the first of them moves; else one could fade while another still waits to be told. */
const SWITCH_AFTER_S = 0.012;
const TICK_MS = 50;
const START_AFTER_S = 0.03;
const RETRIES = 5;
/** Soft noise or silence before a trial first sounds, to clear the ear. */
const RESET_S = 1.2;
const RESET_FADE_S = 0.1;
const RESET_NOISE_PEAK = 0.012;

export type ResetSound = 'none' | 'noise' | 'silence';

/**
 * Plays all clips of a trial together and lets one be heard. All run as looped sources of one graph,
 * started at the same sample, so a switch changes nothing but the ear's place; it crossfades in 8 ms
 * with gains that add up to one (clips are coherent, so equal power would bulge by up to 3 dB).
 */
export class SyncPlayer {
  private context: AudioContext | null = null;
  private buffers: AudioBuffer[] = [];
  private sources: AudioBufferSourceNode[] = [];
  private gains: GainNode[] = [];
  private timer: ReturnType<typeof setInterval> | undefined;
  /** Context time at which the running sources began, and the position they began at. */
  private began = { atS: 0, positionS: 0 };
  private lastTickS = 0;
  private disposed = false;
  state: PlayerState;

  constructor(
    private readonly urls: readonly string[],
    private readonly onChange: (state: PlayerState) => void,
    private readonly fetchBytes: (url: string) => Promise<ArrayBuffer> = fetchWithRetries,
    /** Gain of each clip while it is heard, linear; 1 where nothing is said. */
    private readonly trims: readonly number[] = [],
    private reset: ResetSound = 'none',
  ) {
    this.state = {
      ready: false,
      loaded: 0,
      playing: false,
      selected: 0,
      positionS: 0,
      lengthS: 0,
      loopS: [0, 0],
      heardS: urls.map(() => 0),
      switches: 0,
      error: null,
    };
  }

  private set(change: Partial<PlayerState>): void {
    if (this.disposed) return;
    this.state = { ...this.state, ...change };
    this.onChange(this.state);
  }

  async load(): Promise<void> {
    try {
      for (const [i, url] of this.urls.entries()) {
        const bytes = await this.fetchBytes(url);
        const rate = sampleRateOf(bytes);
        // Decoded at the file's own rate, nothing is resampled here.
        const decoder = new OfflineAudioContext(1, 1, rate);
        this.buffers[i] = await decoder.decodeAudioData(bytes.slice(0));
        this.set({ loaded: (i + 1) / this.urls.length });
      }
      const lengthS = this.buffers[0]!.duration;
      this.set({ ready: true, lengthS, loopS: [0, lengthS] });
    } catch {
      this.set({ error: 'The sound did not arrive. Check the connection, then try again.' });
    }
  }

  /** Makes the graph; only after a tap or a key may a browser sound. */
  private graph(): AudioContext {
    if (this.context && this.context.state !== 'closed') return this.context;
    const context = new AudioContext({ sampleRate: this.buffers[0]!.sampleRate });
    this.context = context;
    this.gains = this.buffers.map((_, i) => {
      const gain = new GainNode(context, { gain: this.gainOf(i, this.state.selected) });
      gain.connect(context.destination);
      return gain;
    });
    // Headphones pulled out must not go on over the loudspeakers.
    navigator.mediaDevices?.addEventListener('devicechange', this.onDevices);
    // Another app, a locked screen or a lost device may stop the context: show it as paused.
    context.addEventListener('statechange', () => {
      if (context === this.context && context.state !== 'running' && this.state.playing)
        this.pause();
    });
    return context;
  }

  private readonly onDevices = () => this.pause();

  private gainOf(index: number, selected: number): number {
    return index === selected ? (this.trims[index] ?? 1) : 0;
  }

  private startSources(positionS: number): void {
    const context = this.graph();
    // Everything on whole samples: between them the browser would interpolate, which dulls the sound.
    const { sampleRate } = context;
    const onSample = (seconds: number) => Math.round(seconds * sampleRate) / sampleRate;
    const [from, to] = this.state.loopS.map(onSample) as [number, number];
    const start = positionS >= from && positionS < to ? onSample(positionS) : from;
    const atS = onSample(context.currentTime + START_AFTER_S + this.clearEar(context));
    this.sources = this.buffers.map((buffer, i) => {
      const source = new AudioBufferSourceNode(context, {
        buffer,
        loop: true,
        loopStart: from,
        loopEnd: to,
      });
      source.connect(this.gains[i]!);
      source.start(atS, start);
      return source;
    });
    this.began = { atS, positionS: start };
  }

  /** Sounds the reset once per trial. @returns seconds until the clips may begin */
  private clearEar(context: AudioContext): number {
    const { reset } = this;
    this.reset = 'none';
    if (reset === 'none') return 0;
    if (reset === 'noise') {
      const frames = Math.round(RESET_S * context.sampleRate);
      const buffer = new AudioBuffer({ length: frames, sampleRate: context.sampleRate });
      const fade = RESET_FADE_S * context.sampleRate;
      let state = 1;
      const samples = Float32Array.from({ length: frames }, (_, n) => {
        state = (Math.imul(state, 1664525) + 1013904223) | 0;
        const gain = Math.min(1, n / fade, (frames - n) / fade);
        return (RESET_NOISE_PEAK * gain * state) / 0x80000000;
      });
      buffer.copyToChannel(samples, 0);
      const noise = new AudioBufferSourceNode(context, { buffer });
      noise.connect(context.destination);
      noise.start(context.currentTime + START_AFTER_S);
    }
    return RESET_S;
  }

  private stopSources(): void {
    for (const source of this.sources) {
      source.stop();
      source.disconnect();
    }
    this.sources = [];
  }

  private currentPosition(): number {
    if (!this.context || this.sources.length === 0) return this.state.positionS;
    const [from, to] = this.state.loopS;
    const elapsed = Math.max(0, this.context.currentTime - this.began.atS);
    return from + ((this.began.positionS - from + elapsed) % (to - from));
  }

  async play(): Promise<void> {
    if (!this.state.ready || this.state.playing) return;
    const context = this.graph();
    await context.resume();
    if (this.sources.length === 0) this.startSources(this.state.positionS);
    this.lastTickS = context.currentTime;
    this.set({ playing: true });
    clearInterval(this.timer);
    this.timer = setInterval(() => this.tick(), TICK_MS);
  }

  pause(): void {
    if (!this.state.playing) return;
    this.tick();
    clearInterval(this.timer);
    const positionS = this.currentPosition();
    this.stopSources();
    this.set({ playing: false, positionS });
  }

  private tick(): void {
    if (!this.context) return;
    const now = this.context.currentTime;
    const since = Math.max(this.lastTickS, this.began.atS);
    const heardS = this.state.heardS.map((s, i) =>
      i === this.state.selected ? s + Math.max(0, now - since) : s,
    );
    this.lastTickS = now;
    this.set({ heardS, positionS: this.currentPosition() });
  }

  /** Lets another clip be heard from the same place on; starts when paused. */
  async select(index: number): Promise<void> {
    if (index < 0 || index >= this.urls.length) return;
    const before = this.state.selected;
    if (this.state.playing) this.tick();
    if (index !== before) this.set({ selected: index, switches: this.state.switches + 1 });
    const { context } = this;
    if (context && this.state.playing) {
      const now = context.currentTime;
      this.gains.forEach((gain, i) => {
        const { value } = gain.gain;
        gain.gain.cancelScheduledValues(now);
        gain.gain.setValueAtTime(value, now);
        gain.gain.setValueAtTime(value, now + SWITCH_AFTER_S);
        gain.gain.linearRampToValueAtTime(
          this.gainOf(i, index),
          now + SWITCH_AFTER_S + CROSSFADE_S,
        );
      });
      return;
    }
    this.gains.forEach((gain, i) => {
      gain.gain.value = this.gainOf(i, index);
    });
    await this.play();
  }

  /** Loops a stretch; the whole clip when both ends meet its ends. */
  setLoop(fromS: number, toS: number): void {
    const positionS = this.currentPosition();
    const running = this.sources.length > 0;
    if (running) this.stopSources();
    this.set({ loopS: [fromS, toS], positionS });
    if (running) this.startSources(positionS);
  }

  seek(positionS: number): void {
    const running = this.sources.length > 0;
    if (running) this.stopSources();
    const [from, to] = this.state.loopS;
    this.set({ positionS: Math.min(Math.max(positionS, from), to - 0.01) });
    if (running) this.startSources(this.state.positionS);
  }

  dispose(): void {
    this.disposed = true;
    navigator.mediaDevices?.removeEventListener('devicechange', this.onDevices);
    clearInterval(this.timer);
    this.stopSources();
    void this.context?.close().catch(() => undefined);
    this.context = null;
  }
}

function sampleRateOf(bytes: ArrayBuffer): number {
  return new DataView(bytes).getUint32(24, true);
}

/** Fetches bytes, again after a lost connection. */
export async function fetchWithRetries(url: string): Promise<ArrayBuffer> {
  for (let attempt = 1; ; attempt++) {
    try {
      const response = await fetch(url, { cache: 'no-store' });
      if (response.ok) return await response.arrayBuffer();
      if (response.status < 500) throw new RangeError(`status ${response.status}`);
    } catch (error) {
      if (error instanceof RangeError) throw error;
    }
    if (attempt === RETRIES) throw new Error('the sound cannot be fetched');
    await new Promise((resolve) => setTimeout(resolve, 500 * 2 ** attempt));
  }
}
