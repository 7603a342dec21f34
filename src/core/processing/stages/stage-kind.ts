import { z } from 'zod';
import type { Sound } from '@/core/signal/sound';
import type { Stage } from '@/core/signal/stage';

/** A figure that somebody sets, with the limits of what makes sense. */
export interface Figure {
  label: string;
  least: number;
  most: number;
  start: number;
}
/** One of several ways, each in words. */
export interface Choice {
  label: string;
  words: Readonly<Record<string, string>>;
  start: string;
}
type Figures = Readonly<Record<string, Figure>>;
type Choices = Readonly<Record<string, Choice>>;

/** Settings of a stage as they are written down: flat, so that every kind is shown and kept alike. */
export type SettingsOf<Id extends string, F extends Figures, C extends Choices, Towards> = {
  kind: Id;
} & { [K in keyof F]: number } & { [K in keyof C]: keyof C[K]['words'] } & (Towards extends string
    ? { chainId: string }
    : unknown);

/** Where a stage stands: what it works on, and the other clips of the set. */
export interface StagePlace {
  channels: number;
  sampleRateHz: number;
  /** The sound as it reaches the stage; asked for by kinds that `listen`. */
  sound: () => Sound;
  /** The clip of another chain, laid onto the same passage, before any processing. */
  clipOf: (chainId: string) => Sound;
  /** Told what an equaliser that the machine set does, band by band, dB. */
  onToning: (bands: { centerHz: number; db: number }[]) => void;
}

/** One kind of processing: everything that rendering, form and labels ask of it. */
export interface StageKind<Settings> {
  id: string;
  label: string;
  hint: string;
  figures: Figures;
  choices: Choices;
  /** What the other chain is to it, where it needs one: "tone of". */
  towards: string | null;
  /** Has to hear what reaches it before it can be made. */
  listens: boolean;
  schema: z.ZodType<Settings>;
  /** As a label says it: "high-pass 80 Hz". */
  words: (settings: Settings, nameOf: (chainId: string) => string) => string;
  /** @throws MatchError where it cannot be made of this sound */
  make: (place: StagePlace, settings: Settings) => Stage[];
  /** By how much the clip shall stand off the common level on purpose, dB. */
  offsetDb?: (settings: Settings) => number;
}

function figuresSchema<F extends Figures>(figures: F) {
  const range = ({ label, least, most }: Figure) =>
    z
      .number()
      .min(least, `${label} is at least ${least}.`)
      .max(most, `${label} is at most ${most}.`);
  return Object.fromEntries(Object.entries(figures).map(([key, one]) => [key, range(one)]));
}

function choicesSchema<C extends Choices>(choices: C) {
  return Object.fromEntries(
    Object.entries(choices).map(([key, { words }]) => [key, z.enum(Object.keys(words))]),
  );
}

/** A kind of processing from its figures and choices; its shape is made of them. */
export function stageKind<
  const Id extends string,
  const F extends Figures,
  const C extends Choices,
  const Towards extends string | null,
>(kind: {
  id: Id;
  label: string;
  hint: string;
  figures: F;
  choices: C;
  towards: Towards;
  listens?: true;
  words: StageKind<SettingsOf<Id, F, C, Towards>>['words'];
  make: StageKind<SettingsOf<Id, F, C, Towards>>['make'];
  offsetDb?: (settings: SettingsOf<Id, F, C, Towards>) => number;
}): StageKind<SettingsOf<Id, F, C, Towards>> {
  const schema = z.strictObject({
    kind: z.literal(kind.id),
    ...figuresSchema(kind.figures),
    ...choicesSchema(kind.choices),
    ...(kind.towards === null ? {} : { chainId: z.uuid('Choose the other chain.') }),
  });
  // The shape is made of the same lists as the type, which TypeScript cannot see through their entries.
  const typed = schema as unknown as z.ZodType<SettingsOf<Id, F, C, Towards>>;
  return { listens: false, ...kind, schema: typed };
}
