import type { MadeSound } from '@/core/ears/made-sounds';
import type { Drawn } from '@/core/ears/session';
import { EarsError, type EarsReason } from '@/core/ears/skill';
import { skillOf } from '@/core/ears/skills';
import { MADE_RATE_HZ, madeSound } from '@/core/ears/sounds';
import { intervalsOf, type Material, materialOf } from '@/core/ears/trial';
import { decodeWav } from '@/core/wav/read';

/** What a session is made on: a made-up sound, or clips as they were fetched. */
export interface MaterialOrder {
  made: MadeSound | null;
  wavs: ArrayBuffer[];
}

/** One trial of it. */
export interface TrialOrder {
  skill: string;
  choices: Record<string, string>;
  seed: number;
  drawn: Drawn;
}

export type WorkerOrder = { id: number } & ({ material: MaterialOrder } | { trial: TrialOrder });

/** The three sounds of a trial as WAVs, none for material; or why not. */
export type WorkerMade = { id: number } & ({ wavs: ArrayBuffer[] } | { refused: EarsReason });

let material: Material | null = null;

async function read({ made, wavs }: MaterialOrder): Promise<Material> {
  if (made !== null) return materialOf([madeSound(made)], MADE_RATE_HZ);
  const clips = await Promise.all(wavs.map((wav) => decodeWav(new Uint8Array(wav))));
  return materialOf(
    clips.map(({ channels }) => channels),
    clips[0]!.header.format.sampleRateHz,
  );
}

async function carryOut(order: WorkerOrder): Promise<ArrayBuffer[]> {
  if ('material' in order) {
    material = await read(order.material);
    return [];
  }
  const { skill: id, choices, seed, drawn } = order.trial;
  const skill = skillOf(id);
  if (!skill || !material) throw new EarsError('lost');
  const plan = { skill, choices, amount: null, seed };
  return intervalsOf(plan, material, drawn).map(({ buffer }) => buffer);
}

self.addEventListener('message', ({ data: order }: MessageEvent<WorkerOrder>) => {
  const { id } = order;
  void carryOut(order)
    .then((wavs): WorkerMade => ({ id, wavs }))
    .catch((error: unknown): WorkerMade => ({
      id,
      refused: error instanceof EarsError ? error.reason : 'unmade',
    }))
    .then((made) => self.postMessage(made));
});
