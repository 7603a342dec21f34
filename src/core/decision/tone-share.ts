import { overPanels, type Panels, type Redrawn } from './redrawn';

/** Two chains, and one of them once more with the tone of the other. */
export interface Toned {
  plain: string;
  toned: string;
  /** The chain whose tone it was given. */
  target: string;
}

export interface ToneShare {
  /** How far the target leads the plain one: log odds or points of the line. */
  lead: Redrawn;
  /** Which part of the lead is left against the toned one, 0 to 1 where tone does some of it; null where no lead is shown. */
  left: Redrawn | null;
}

/**
 * How much of a preference is EQ: what is left of a lead once the other was given the leader's average spectrum.
 * A lead whose interval holds nought has no share that could be told. The share can lie outside 0 to 1: below where the
 * toned one is liked more than the leader, above where its tone made it worse.
 * @returns null where one of the three was not heard there
 */
export function toneShare(panels: Panels, { plain, toned, target }: Toned): ToneShare | null {
  if (!panels.chains.includes(toned)) return null;
  const lead = overPanels(panels, [target, plain], ([of, over]) => of! - over!);
  if (!lead) return null;
  const left = overPanels(
    panels,
    [target, plain, toned],
    ([of, over, tone]) => (of! - tone!) / (of! - over!),
  );
  return { lead, left: lead.from > 0 || lead.to < 0 ? left : null };
}
