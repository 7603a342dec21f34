import type { GearSpecs, ItemSettings } from './specs';

const { floor, max, min } = Math;

/** Gains of a preamp of which no data sheet says them, dB. */
export const USUAL_GAIN_DB = [0, 60] as const;

/** Gains that a stage can be set to, as its data sheet says; null when it says nothing. */
export function gainRange(specs: GearSpecs): [number, number] | null {
  if (specs.knob && specs.knob.length > 0) {
    const gains = specs.knob.map(({ gainDb }) => gainDb);
    return [min(...gains), max(...gains)];
  }
  if (specs.maxGainDb === undefined) return null;
  return [specs.minGainDb ?? min(0, specs.maxGainDb), specs.maxGainDb];
}

/** The nearest gain that can be set: a knob position, a step, or anything in the range. */
export function settableGainDb(specs: GearSpecs, wantedDb: number): number {
  const range = gainRange(specs) ?? USUAL_GAIN_DB;
  const held = min(range[1], max(range[0], wantedDb));
  if (specs.knob && specs.knob.length > 0) {
    const below = specs.knob.map(({ gainDb }) => gainDb).filter((gain) => gain <= held);
    return max(range[0], ...below);
  }
  if (!specs.gainStepDb) return held;
  return range[0] + specs.gainStepDb * floor((held - range[0]) / specs.gainStepDb + 1e-9);
}

/** The gain that a stage is set to, by number or by the position of its knob; null when it is not. */
export function setGainDb(specs: GearSpecs, settings: ItemSettings): number | null {
  const marked = specs.knob?.find(({ position }) => position === settings.knobPosition);
  return marked?.gainDb ?? settings.gainDb ?? null;
}
