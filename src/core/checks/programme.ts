/** A step of the test programme, as run sheet, import and numbers know it. */
export interface ProgrammeStep {
  id: string;
  label: string;
  /** What its detail says, or null when there is nothing to say. */
  detail: string | null;
  /** Details that are usually recorded. */
  usual: readonly string[];
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
    minutes: 4,
  },
  {
    id: 'tone',
    label: 'test sound',
    detail: null,
    usual: [''],
    how: 'Play pink noise or a 1 kHz tone from a loudspeaker in the performer’s place, ten seconds.',
    caution: 'Begin quietly; loudspeaker noise is tiring and can harm hearing.',
    minutes: 1,
  },
  {
    id: 'room',
    label: 'silence in the room',
    detail: null,
    usual: [''],
    how: 'Everybody is still for twenty seconds, gain as for the performance.',
    caution: null,
    minutes: 1,
  },
  {
    id: 'resistor',
    label: 'resistor in place of the microphone',
    detail: null,
    usual: [''],
    how: 'Plug a 150 to 200 Ω resistor in place of the microphone, twenty seconds, same gain.',
    caution: `${MUTE} Phantom power off first.`,
    minutes: 2,
  },
  {
    id: 'speech',
    label: 'plain speech on axis',
    detail: null,
    usual: [''],
    how: 'Read the same sentence at talking level, on axis, fifteen seconds.',
    caution: null,
    minutes: 1,
  },
  {
    id: 'off-axis',
    label: 'test sound off axis',
    detail: 'degrees',
    usual: ['0', '90', '180'],
    how: 'Turn the microphone, not the loudspeaker; same distance, same test sound.',
    caution: null,
    minutes: 1,
  },
  {
    id: 'distance',
    label: 'speech at a distance',
    detail: 'centimetres',
    usual: ['7', '30', '60', '120'],
    how: 'Read the sentence at this distance, on axis.',
    caution: null,
    minutes: 1,
  },
  {
    id: 'plosives',
    label: 'plosives',
    detail: null,
    usual: [''],
    how: 'Say ten words with p and b at the working distance.',
    caution: 'Never in front of a ribbon: a blast of air can stretch or tear it.',
    minutes: 1,
  },
  {
    id: 'knocks',
    label: 'knocks',
    detail: null,
    usual: [''],
    how: 'Knock five times on stand and desk, lightly and the same way each time.',
    caution: null,
    minutes: 1,
  },
  {
    id: 'noise',
    label: 'steady noise alone',
    detail: null,
    usual: [''],
    how: 'Let the steady noise run where it stands, nobody speaks, fifteen seconds.',
    caution: null,
    minutes: 1,
  },
  {
    id: 'switch',
    label: 'with a switch, filter, pad or windscreen',
    detail: 'which',
    usual: ['windscreen'],
    how: 'The test sound again with this switched on or put on, nothing else changed.',
    caution: MUTE,
    minutes: 1,
  },
  {
    id: 'treatment',
    label: 'room treated or not',
    detail: 'treated or untreated',
    usual: ['treated', 'untreated'],
    how: 'The same sentence with and without the absorbers, microphone and speaker where they were.',
    caution: 'Heavy panels and stands need two people and a secured base.',
    minutes: 2,
  },
  {
    id: 'backing',
    label: 'backing track',
    detail: null,
    usual: [''],
    how: 'Not recorded: the rest of the music, for listening in the mix.',
    caution: null,
    minutes: 0,
  },
] as const satisfies readonly ProgrammeStep[];

export type ProgrammeId = (typeof PROGRAMME)[number]['id'];
export const PROGRAMME_IDS = PROGRAMME.map(({ id }) => id) as [ProgrammeId, ...ProgrammeId[]];

export function programmeStep(id: string): ProgrammeStep {
  return PROGRAMME.find((step) => step.id === id) ?? PROGRAMME[0];
}

/** "test sound off axis, 90 degrees" */
export function programmeLabel(id: string, detail: string): string {
  const step = programmeStep(id);
  if (detail === '') return step.label;
  const unit = step.detail === 'degrees' ? '°' : step.detail === 'centimetres' ? ' cm' : '';
  return `${step.label}, ${detail}${unit}`;
}
