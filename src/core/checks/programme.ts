/** A step of the test programme, as run sheet, import and numbers know it. */
export interface ProgrammeStep {
  id: string;
  label: string;
  /** What its detail says, or null when there is nothing to say. */
  detail: string | null;
  /** What stands behind a detail; a detail with a unit is a number. */
  unit?: '°' | ' cm';
  /** Details that are usually recorded; none where only the engineer can name them. */
  usual: readonly string[];
  /** How a detail is said where it does not simply follow the label. */
  said?: (detail: string) => string;
  /** What a take of it is set against: plain sound on axis, or the first detail of the step. */
  against?: 'plain' | 'first';
  /** Nothing happens in it that takes could be laid in time by: they stand as they were recorded. */
  timeless?: true;
  /** All chains can record it at the same time, where they stand side by side. */
  together: boolean;
  /** What to do, in a sentence for the stand. */
  how: string;
  caution: string | null;
  minutes: number;
}

const MUTE = 'Mute the monitors before switching phantom power or plugging anything.';

/** The performance first, then everything that gives a number. */
export const PROGRAMME = [
  {
    id: 'performance',
    label: 'performance',
    detail: null,
    usual: [''],
    how: 'Record the whole passage, with a second of silence before it.',
    caution: null,
    together: true,
    minutes: 4,
  },
  {
    id: 'tone',
    label: 'test sound',
    detail: null,
    usual: [''],
    how: 'Play pink noise or a 1 kHz tone from a loudspeaker in the performer’s place, ten seconds.',
    caution: 'Begin quietly; loudspeaker noise is tiring and can harm hearing.',
    together: true,
    minutes: 1,
  },
  {
    id: 'room',
    label: 'silence in the room',
    detail: null,
    usual: [''],
    how: 'Everybody is still for twenty seconds, gain as for the performance.',
    caution: null,
    timeless: true,
    together: true,
    minutes: 1,
  },
  {
    id: 'resistor',
    label: 'resistor in place of the microphone',
    detail: null,
    usual: [''],
    how: 'Plug a 150 to 200 Ω resistor in place of the microphone, twenty seconds, same gain.',
    caution: `${MUTE} Phantom power off first.`,
    timeless: true,
    together: false,
    minutes: 2,
  },
  {
    id: 'speech',
    label: 'plain speech on axis',
    detail: null,
    usual: [''],
    how: 'Read the same sentence at talking level, on axis, fifteen seconds.',
    caution: null,
    together: true,
    minutes: 1,
  },
  {
    id: 'off-axis',
    label: 'test sound off axis',
    detail: 'degrees',
    unit: '°',
    usual: ['0', '90', '180'],
    how: 'Turn the microphone, not the loudspeaker; same distance, same test sound.',
    caution: null,
    together: false,
    minutes: 1,
  },
  {
    id: 'distance',
    label: 'speech at a distance',
    detail: 'centimetres',
    unit: ' cm',
    usual: ['7', '30', '60', '120'],
    said: (detail) =>
      Number(detail) === 0
        ? 'speech, touching the microphone'
        : `speech at a distance, ${detail} cm`,
    how: 'Read the sentence at this distance, on axis.',
    caution: null,
    together: false,
    minutes: 1,
  },
  {
    id: 'plosives',
    label: 'plosives',
    detail: null,
    usual: [''],
    how: 'Say ten words with p and b at the working distance.',
    caution: 'Never in front of a ribbon: a blast of air can stretch or tear it.',
    together: false,
    minutes: 1,
  },
  {
    id: 'knocks',
    label: 'knocks',
    detail: 'on stand, desk, boom or body',
    usual: [''],
    how: 'Knock five times, lightly and the same way each time.',
    caution: null,
    together: false,
    minutes: 1,
  },
  {
    id: 'noise',
    label: 'steady noise alone',
    detail: 'which noise',
    usual: [''],
    how: 'Let the steady noise run where it stands, nobody speaks, fifteen seconds.',
    caution: null,
    timeless: true,
    together: true,
    minutes: 1,
  },
  {
    id: 'switch',
    label: 'with a switch, filter, pad or windscreen',
    detail: 'which',
    usual: ['windscreen'],
    said: (detail) => `with ${detail}`,
    against: 'plain',
    how: 'The test sound again with this switched on or put on, nothing else changed.',
    caution: MUTE,
    together: false,
    minutes: 1,
  },
  {
    id: 'pattern',
    label: 'pattern',
    detail: 'which pattern',
    usual: ['cardioid', 'omni'],
    against: 'first',
    how: 'The test sound with this pattern, nothing else changed.',
    caution: 'Mute the monitors: switching a pattern may thump.',
    together: false,
    minutes: 1,
  },
  {
    id: 'gain-stage',
    label: 'gain stage',
    detail: 'where the gain is taken',
    usual: [],
    against: 'first',
    how: 'The test sound with the gain taken here and the same level at the converter; log the gain.',
    caution: null,
    together: false,
    minutes: 2,
  },
  {
    id: 'technique',
    label: 'technique',
    detail: 'how it is played or placed',
    usual: [],
    how: 'The same bars in this way; gain as it was.',
    caution: null,
    together: true,
    minutes: 2,
  },
  {
    id: 'own',
    label: 'a step of one’s own',
    detail: 'what',
    usual: [],
    said: (detail) => detail,
    how: 'As agreed; write down what was done.',
    caution: null,
    together: true,
    minutes: 2,
  },
  {
    id: 'treatment',
    label: 'room treated or not',
    detail: 'treated or untreated',
    usual: ['treated', 'untreated'],
    how: 'The same sentence with and without the absorbers, microphone and speaker where they were.',
    caution: 'Heavy panels and stands need two people and a secured base.',
    together: false,
    minutes: 2,
  },
  {
    id: 'backing',
    label: 'backing track',
    detail: null,
    usual: [''],
    how: 'Not recorded: the rest of the music, for listening in the mix.',
    caution: null,
    together: true,
    minutes: 0,
  },
] as const satisfies readonly ProgrammeStep[];

export type ProgrammeId = (typeof PROGRAMME)[number]['id'];
export const PROGRAMME_IDS = PROGRAMME.map(({ id }) => id) as [ProgrammeId, ...ProgrammeId[]];

export function programmeStep(id: string): ProgrammeStep {
  return PROGRAMME.find((step) => step.id === id) ?? PROGRAMME[0];
}

/** Steps whose takes nothing lays in time. */
export const TIMELESS_IDS: readonly string[] = PROGRAMME.filter(
  (step: ProgrammeStep) => step.timeless,
).map(({ id }) => id);

/** Longest detail of a planned step, and the most of them; a take's own detail may say more. */
export const MOST_DETAIL = 60;
export const MOST_DETAILS = 12;
const LARGEST = { '°': 360, ' cm': 10_000 } as const;

/** A step as an engineer wants it: which, and with what details. */
export interface PlannedStep {
  programme: ProgrammeId;
  details: string[];
}

/** Details that a planned step is recorded with: those it names, else the usual ones. */
export function detailsOf({ programme, details }: PlannedStep): readonly string[] {
  const step = programmeStep(programme);
  return step.detail === null || details.length === 0 ? step.usual : details;
}

/** Why a step cannot be recorded as planned, in a sentence; null when it can. */
export function plannedFault(planned: PlannedStep): string | null {
  const step = programmeStep(planned.programme);
  const { details } = planned;
  if (step.detail === null) {
    return details.length > 0 ? `“${step.label}” has no details to choose.` : null;
  }
  const { unit } = step;
  if (detailsOf(planned).length === 0) return `Say for “${step.label}”: ${step.detail}.`;
  if (new Set(details.map((detail) => detail.toLowerCase())).size < details.length) {
    return `“${step.label}” names something twice.`;
  }
  const odd = details.find(
    (detail) => unit && !(/^\d+(\.\d+)?$/.test(detail) && Number(detail) <= LARGEST[unit]),
  );
  if (odd === undefined || !unit) return null;
  return `“${odd}” is not a number of ${step.detail} up to ${LARGEST[unit]}; write it without its unit.`;
}

/** "test sound off axis, 90°" */
export function programmeLabel(id: string, detail: string): string {
  const step = programmeStep(id);
  if (detail === '') return step.label;
  return step.said?.(detail) ?? `${step.label}, ${detail}${step.unit ?? ''}`;
}
