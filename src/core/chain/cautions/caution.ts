import type { GearItem } from '../item';
import type { ItemSettings } from '../specs';

/** What a caution looks at: the gear in use, how it is set, how loud it gets, what is planned. */
export interface WorkPlan {
  items: readonly { gear: GearItem; settings: ItemSettings }[];
  /** Peak sound level at the performer's or engineer's ear, dB SPL, where known. */
  loudestDb: number | null;
  /** A stand or boom reaches over people. */
  overPeople: boolean;
  plosiveTest: boolean;
  /** Planned time on headphones of the longest sitting, minutes. */
  headphoneMinutes: number;
}

/** One rule: when it is shown, what it says, and whose word counts. */
export interface Caution {
  id: string;
  title: string;
  applies(plan: WorkPlan): boolean;
  text: string;
  /** Which rules, persons or papers decide. */
  defersTo: string;
}

export function hasMicrophone(plan: WorkPlan, ...types: readonly (string | undefined)[]): boolean {
  return plan.items.some(
    ({ gear }) => gear.kind === 'microphone' && types.includes(gear.specs.type),
  );
}
