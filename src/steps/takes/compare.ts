import { programmeLabel } from '@/core/checks/programme';
import type { Comparison } from '@/core/spectrum/compare-two';
import { UserError } from '@/platform/errors';
import type { SignedIn } from '@/platform/sign-in/service';
import { threads } from '@/platform/threads';
import { takeOf } from './service';
import type { Take } from './schema';

/** Two recordings, each as it lies in the bank. */
export interface CompareOrder {
  reference: { audioId: number; channels: number[] | null };
  other: { audioId: number; channels: number[] | null };
}

/** A take that can be set against others, as a list of choices names it. */
export interface TakeChoice {
  id: string;
  name: string;
}

/** "Kern 40 › Linie 2, take 2" or its step; files tell apart what has the same name. */
export function takeChoices(
  takes: readonly (Pick<Take, 'id' | 'fileName' | 'programme' | 'detail'> & { chain: string })[],
): TakeChoice[] {
  const nameOf = ({ chain, programme, detail }: (typeof takes)[number]) =>
    `${chain}, ${programmeLabel(programme, detail)}`;
  const uses = new Map<string, number>();
  for (const take of takes) uses.set(nameOf(take), (uses.get(nameOf(take)) ?? 0) + 1);
  return takes.map((take) => ({
    id: take.id,
    name: (uses.get(nameOf(take)) ?? 0) > 1 ? `${nameOf(take)} (${take.fileName})` : nameOf(take),
  }));
}

/** What a thread needs to set two takes of a comparison against each other. */
export async function compareOrder(
  engineer: SignedIn,
  comparisonId: string,
  takeId: string,
  otherId: string,
): Promise<CompareOrder> {
  const sides = [];
  for (const id of [takeId, otherId]) {
    const { audioId, channels, state, fileName } = await takeOf(engineer, comparisonId, id);
    if (state !== 'ready') {
      throw new UserError(409, `${fileName} is not checked yet; compare it when it is.`);
    }
    sides.push({ audioId, channels });
  }
  const [reference, other] = sides as [CompareOrder['reference'], CompareOrder['other']];
  return { reference, other };
}

/** Sets one take against another, as they were recorded. */
export async function comparedTakes(
  engineer: SignedIn,
  comparisonId: string,
  takeId: string,
  otherId: string,
): Promise<Comparison> {
  return setAgainst(await compareOrder(engineer, comparisonId, takeId, otherId));
}

/** Sets any two recordings of the bank against each other. */
export async function setAgainst(order: CompareOrder): Promise<Comparison> {
  return (await threads().run(order, { name: 'compareRecordings' })) as Comparison;
}

/** What is left of the other without the reference, a WAV file. */
export async function residualOfTwo(order: CompareOrder): Promise<Uint8Array> {
  return (await threads().run(order, { name: 'residualRecording' })) as Uint8Array;
}
