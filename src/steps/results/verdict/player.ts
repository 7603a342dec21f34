// Runs inside a verdict's file, wherever it is opened: no network, nothing but what the page holds.
import { sha256Hex } from '@/core/design/seal';
import { type Said, tally } from './rounds';

const ROUNDS = 8;
const RAMP_S = 0.01;

const byId = (id: string): HTMLElement => {
  const found = document.getElementById(id);
  if (!found) throw new Error(`the page lacks ${id}`);
  return found;
};

const bytesOf = (base64: string) => Uint8Array.from(atob(base64), (sign) => sign.charCodeAt(0));

async function checkSeal(): Promise<void> {
  const text = byId('key-text').textContent;
  const holds = (await sha256Hex(text)) === byId('seal').textContent.trim();
  byId('seal-found').textContent = holds
    ? 'It gives the very same number: the key is the one that was sealed.'
    : 'It gives another number: this key is not the one that was sealed. Do not trust this file.';
}

function saveKey(): void {
  const link = document.createElement('a');
  link.href = URL.createObjectURL(new Blob([byId('key-text').textContent]));
  link.download = 'key.json';
  link.click();
  URL.revokeObjectURL(link.href);
}

/** Both clips from one start on, one of them heard: a switch goes on at the same place. */
class Pair {
  private readonly context = new AudioContext();
  private gains: GainNode[] = [];
  private sources: AudioBufferSourceNode[] = [];

  async begin(clips: readonly Uint8Array<ArrayBuffer>[]): Promise<void> {
    const buffers = await Promise.all(
      clips.map((bytes) => this.context.decodeAudioData(bytes.slice().buffer)),
    );
    await this.context.resume();
    const at = this.context.currentTime + 0.05;
    for (const buffer of buffers) {
      const source = new AudioBufferSourceNode(this.context, { buffer, loop: true });
      const gain = new GainNode(this.context, { gain: 0 });
      source.connect(gain).connect(this.context.destination);
      source.start(at);
      this.sources.push(source);
      this.gains.push(gain);
    }
  }

  hear(clip: number | null): void {
    for (const [i, { gain }] of this.gains.entries()) {
      gain.setTargetAtTime(i === clip ? 1 : 0, this.context.currentTime, RAMP_S / 3);
    }
  }

  async end(): Promise<void> {
    for (const source of this.sources) source.stop();
    await this.context.close();
  }
}

async function tryPair(names: readonly string[]): Promise<void> {
  const swapped = [...crypto.getRandomValues(new Uint8Array(ROUNDS))].map((byte) => byte % 2 === 1);
  const said: Said[] = [];
  const heard = new Set<number>();
  const pair = new Pair();
  const begin = byId('begin') as HTMLButtonElement;
  begin.disabled = true;
  await pair.begin([0, 1].map((i) => bytesOf(byId(`clip-${i}`).textContent)));
  begin.hidden = true;
  byId('round').hidden = false;
  const buttons = [...document.querySelectorAll<HTMLButtonElement>('[data-said]')];
  const places = [...document.querySelectorAll<HTMLButtonElement>('[data-hear]')];
  const show = () => {
    byId('count').textContent = `Round ${said.length + 1} of ${ROUNDS}`;
    heard.clear();
    for (const place of places) place.setAttribute('aria-pressed', 'false');
    for (const button of buttons) button.disabled = true;
    pair.hear(null);
  };
  const hear = (place: number) => {
    heard.add(place);
    pair.hear(swapped[said.length] ? 1 - place : place);
    for (const [i, one] of places.entries()) one.setAttribute('aria-pressed', String(i === place));
    // An answer needs both to have been heard.
    for (const button of buttons) button.disabled = heard.size < 2;
  };
  const done = async () => {
    pair.hear(null);
    await pair.end();
    const { chosen, neither, chance } = tally(said, swapped);
    byId('round').hidden = true;
    byId('outcome').textContent =
      `You chose ${names[0]} in ${chosen[0]} of ${ROUNDS} rounds, ${names[1]} in ${chosen[1]}` +
      `${neither > 0 ? `, neither in ${neither}` : ''}. If nothing differed, so uneven a count or more would come ` +
      `about in ${Math.round(100 * chance)} of 100 tries${chance < 0.05 ? '.' : ': this shows nothing yet.'}`;
  };
  for (const [i, place] of places.entries()) place.addEventListener('click', () => hear(i));
  for (const button of buttons) {
    button.addEventListener('click', () => {
      said.push(button.dataset.said as Said);
      if (said.length < ROUNDS) show();
      else void done();
    });
  }
  document.addEventListener('keydown', ({ key }) => {
    if ((key === '1' || key === '2') && said.length < ROUNDS) hear(Number(key) - 1);
  });
  show();
}

byId('check-seal').addEventListener('click', () => void checkSeal());
byId('save-key').addEventListener('click', saveKey);
const begin = document.getElementById('begin');
begin?.addEventListener('click', () => {
  const names = JSON.parse(byId('pair-names').textContent) as string[];
  tryPair(names).catch(() => {
    byId('outcome').textContent =
      'This browser cannot play the sound in this file; open it in another one.';
  });
});
