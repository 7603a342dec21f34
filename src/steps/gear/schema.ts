import { z } from 'zod';
import { listQueryOf } from '@/platform/list-query';
import type { GearItem } from '@/core/chain/item';
import { fieldsOf, GEAR_KINDS, type GearKind } from '@/core/chain/kinds';
import {
  contradictions,
  type CurvePoint,
  type GearSpecs,
  PATTERN_FIGURES,
  PATTERN_NAMES,
  SPEC_FIELDS,
  type SpecField,
  type SpecName,
} from '@/core/chain/specs';

export const OWNERSHIPS = ['owned', 'on loan', 'rented', 'considered'] as const;
export const SCORES = ['build', 'mount', 'switches', 'features', 'service'] as const;
export type ScoreName = (typeof SCORES)[number];

const MOST_ENTRIES = 24;

/** Largest price that is believed, in cents. */
export const MOST_CENTS = 1_000_000_000;

function numberOf({
  least,
  most,
  label,
  unit,
}: Extract<SpecField, { form: 'number' | 'numbers' }>) {
  const said =
    `${label.charAt(0).toUpperCase()}${label.slice(1)} lies between ${least} and ${most} ${unit}`.trim();
  return z.number(`${said}.`).min(least, `${said}.`).max(most, `${said}.`);
}

const SPEC_OF = Object.fromEntries(SPEC_FIELDS.map((field) => [field.name, field])) as Record<
  SpecName,
  SpecField
>;

function fieldShape(field: SpecField): z.ZodType {
  switch (field.form) {
    case 'number':
      return numberOf(field);
    case 'numbers':
      return z.array(numberOf(field)).max(MOST_ENTRIES, `Too many values for ${field.label}.`);
    case 'choice':
      return z.enum(
        field.choices as [string, ...string[]],
        `${field.label}: ${field.choices.join(', ')}.`,
      );
    case 'choices':
      return z.array(
        z.enum(
          field.choices as [string, ...string[]],
          `${field.label}: ${field.choices.join(', ')}.`,
        ),
      );
    case 'patterns':
      return z
        .array(
          z.strictObject({
            pattern: z.enum(PATTERN_NAMES, `A pattern is one of: ${PATTERN_NAMES.join(', ')}.`),
            ...Object.fromEntries(
              PATTERN_FIGURES.map((name) => [name, fieldShape(SPEC_OF[name]).optional()]),
            ),
          }),
        )
        .max(PATTERN_NAMES.length, 'Too many patterns.');
    case 'knob':
      return z
        .array(
          z.object({
            position: z.string().trim().min(1).max(20),
            gainDb: z.number().min(-40).max(90),
          }),
        )
        .max(MOST_ENTRIES, 'Too many knob positions.');
  }
}

/** The shape of all specs, made of their one list. */
const specs = z.strictObject(
  Object.fromEntries(SPEC_FIELDS.map((field) => [field.name, fieldShape(field).optional()])),
) as unknown as z.ZodType<GearSpecs>;

const curve = z
  .array(z.tuple([z.number(), z.number()]).rest(z.number()))
  .nullable() as unknown as z.ZodType<CurvePoint[] | null>;

const score = z
  .int('Marks are whole numbers from 1 to 5.')
  .min(1, 'Marks go from 1 to 5.')
  .max(5, 'Marks go from 1 to 5.');

const ATTRIBUTE_NAME =
  'Give each attribute a name of up to 40 signs, without colon, semicolon or bar: “weight: 350 g”.';

/** Attributes by the studio's own names: "weight" → "350 g"; semicolon and bar part them where they stand in one line. */
const attributes = z
  .record(
    z
      .string()
      .trim()
      .regex(/^[^:;|\n]{1,40}$/),
    z
      .string()
      .trim()
      .min(1, 'Say what each attribute is: “weight: 350 g”.')
      .max(120, 'Keep what an attribute says under 120 characters.')
      .regex(/^[^;|\n]*$/, 'What an attribute says holds no semicolon and no bar.'),
    { error: ({ code }) => (code === 'invalid_key' ? ATTRIBUTE_NAME : undefined) },
  )
  .refine((all) => Object.keys(all).length <= MOST_ENTRIES, 'Too many attributes for one item.');

const money = z
  .int('A price is a whole number of cents.')
  .min(0, 'A price cannot be negative.')
  .max(MOST_CENTS, 'This price is too high to be true.');

/** What an item costs besides its price. */
const prices = z.strictObject({
  /** As high as the price may be, where it is unsure. */
  upToCents: money.optional(),
  usedCents: z
    .tuple([money, money])
    .refine(([from, to]) => from <= to, 'Write the lower price first.')
    .optional(),
  rentDayCents: money.optional(),
  /** In the currency in which it was quoted, and what one unit of it was taken for; the price follows from it. */
  quoted: z
    .object({
      amount: z.number().positive('A price is above zero.').max(MOST_CENTS),
      currency: z.string().regex(/^[A-Z]{3}$/, 'A currency has three letters, as CHF.'),
      rate: z
        .number()
        .min(1e-6, 'A rate is above zero: how many € one unit is.')
        .max(1e6, 'This rate is too high to be true.'),
    })
    .optional(),
});

/** What an engineer writes about an item. */
export const gearDraft = z
  .object({
    name: z
      .string()
      .trim()
      .min(1, 'Give the item a name.')
      .max(80, 'Keep the name under 80 characters.'),
    kind: z.enum(GEAR_KINDS, `The kind is one of: ${GEAR_KINDS.join(', ')}.`),
    maker: z.string().trim().max(80, 'Keep the maker under 80 characters.'),
    specs,
    priceCents: z
      .int('The price is a whole number of cents.')
      .min(0, 'A price cannot be negative.')
      .max(MOST_CENTS, 'This price is too high to be true.')
      .nullable(),
    prices: prices.optional(),
    ownership: z.enum(OWNERSHIPS, `Ownership is one of: ${OWNERSHIPS.join(', ')}.`),
    condition: z.string().trim().max(300, 'Keep the condition under 300 characters.'),
    notes: z.string().trim().max(2000, 'Keep the notes under 2000 characters.'),
    scores: z.partialRecord(z.enum(SCORES), score),
    attributes: attributes.optional(),
    accessoryIds: z.array(z.uuid()).max(MOST_ENTRIES, 'Too many accessories for one item.'),
  })
  .transform((draft) => {
    const quoted = draft.prices?.quoted;
    const priceCents = quoted ? Math.round(100 * quoted.amount * quoted.rate) : draft.priceCents;
    return { ...draft, priceCents, specs: ofKind(draft.kind, draft.specs) };
  })
  .superRefine((draft, context) => {
    for (const message of contradictions(draft.specs)) {
      context.addIssue({ code: 'custom', path: ['specs'], message });
    }
    const { priceCents, prices: further } = draft;
    if ((priceCents ?? 0) > MOST_CENTS) {
      const message = 'At this rate the price is too high to be true.';
      context.addIssue({ code: 'custom', path: ['prices', 'quoted'], message });
    }
    if (further?.upToCents !== undefined && further.upToCents < (priceCents ?? Infinity)) {
      const message = 'Write the lower end as the price, and here the higher one.';
      context.addIssue({ code: 'custom', path: ['prices', 'upToCents'], message });
    }
  });
export type GearDraft = z.infer<typeof gearDraft>;

/** Only what this kind has: a preamp that becomes a pad loses its EIN. */
function ofKind(kind: GearKind, all: GearSpecs): GearSpecs {
  const names = new Set<string>(fieldsOf(kind).map(({ name }) => name));
  return Object.fromEntries(
    Object.entries(all).filter(([name, value]) => names.has(name) && value !== undefined),
  );
}

/** Which items stand side by side. */
export const sideBySideQuery = z.object({
  ids: z
    .string()
    .transform((text) => [...new Set(text.split(','))])
    .pipe(z.array(z.uuid()).min(2).max(6)),
});

export const gearChange = z.object({ draft: gearDraft, version: z.int() });

export const importOrder = z.object({ csv: z.string(), apply: z.boolean() });

const importRow = z.object({
  /** As a spreadsheet counts: the header is line 1. */
  line: z.int(),
  name: z.string(),
  change: z.enum(['new', 'changed', 'same', 'fault']),
});

/** What bringing a file in would do. */
export const importPreview = z.object({
  rows: z.array(importRow),
  faults: z.array(
    z.object({ line: z.int(), column: z.string(), value: z.string(), message: z.string() }),
  ),
  /** Columns of the file that mean nothing here and are left out. */
  unknownColumns: z.array(z.string()),
});
export type ImportPreview = z.infer<typeof importPreview>;

export const curveOrder = z.object({
  which: z.enum(['impedance', 'response']),
  /** The text of the file; empty takes the curve away. */
  text: z.string(),
  version: z.int(),
});

export interface Gear
  extends Omit<GearItem, 'impedanceCurve' | 'prices'>, Omit<GearDraft, 'specs'> {
  specs: GearSpecs;
  impedanceCurve: CurvePoint[] | null;
  responseCurve: CurvePoint[] | null;
  simulated: boolean;
  version: number;
}

/** Items on a page: with fewer, everything is seen and edited at once. */
export const GEAR_PAGE = 100;

/** Ways to sort the list; with a minus the other way round. */
const SORTS = ['kind', 'name', 'maker', 'price', 'ownership', 'marks'] as const;
export type GearSort = (typeof SORTS)[number];
export const gearQuery = listQueryOf([
  ...SORTS,
  ...SORTS.map((sort) => `-${sort}` as const),
] as const);
export type GearQuery = z.infer<typeof gearQuery>;

/** An item as the list shows it. */
export interface ListedGear extends Gear {
  accessories: { id: string; name: string }[];
}

/** A page of the gear list, and what is to be said of the whole. */
export interface GearList {
  query: GearQuery;
  items: ListedGear[];
  /** Items that hold the text that is looked for. */
  found: number;
  all: number;
  /** Whether something is of the demo. */
  simulated: boolean;
  /** Items that could have specs and have none: the first names, and how many there are. */
  bare: number;
  bareNames: string[];
}

/** A row as it lies in the database: its JSON is read with the shapes above. */
export const storedJson = z.object({
  specs,
  prices,
  attributes,
  impedanceCurve: curve,
  responseCurve: curve,
});

/** The item as chains are computed with. */
export function gearItem(gear: Gear): GearItem {
  const {
    id,
    name,
    kind,
    specs: known,
    priceCents,
    prices: further = {},
    ownership,
    accessoryIds,
    impedanceCurve,
  } = gear;
  return {
    id,
    name,
    kind,
    specs: known,
    priceCents,
    here: ownership !== 'considered',
    lent: ownership === 'on loan' || ownership === 'rented',
    prices: further,
    accessoryIds,
    ...(impedanceCurve ? { impedanceCurve } : {}),
  };
}
