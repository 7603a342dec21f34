import type { Skill } from '../skill';
import { band } from './band';
import { chains } from './chains';
import { comb } from './comb';
import { compression } from './compression';
import { distance } from './distance';
import { distortion } from './distortion';
import { level } from './level';
import { noise } from './noise';
import { offAxis } from './off-axis';
import { sibilance } from './sibilance';
import { tilt } from './tilt';

/** All skills, in the order in which they are offered. */
export const SKILLS: readonly Skill[] = [
  level,
  band,
  tilt,
  noise,
  distortion,
  offAxis,
  distance,
  comb,
  compression,
  sibilance,
  chains,
];

export const skillOf = (id: string): Skill | null => SKILLS.find((one) => one.id === id) ?? null;

/** What is chosen where nothing was. */
export const usualChoices = ({ choices }: Skill): Record<string, string> =>
  Object.fromEntries(Object.entries(choices).map(([key, { start }]) => [key, start]));

/** Whether these are choices of the skill, each one of its ways. */
export const fits = ({ choices }: Skill, chosen: Readonly<Record<string, string>>): boolean =>
  Object.keys(chosen).length === Object.keys(choices).length &&
  Object.entries(choices).every(([key, { words }]) => Object.hasOwn(words, chosen[key] ?? ''));

/** A skill as it is told with its choices: "Boost and cut of a band, 3 kHz, one octave, boost or cut". */
export const toldSkill = (skill: Skill, chosen: Readonly<Record<string, string>>): string =>
  [
    skill.label,
    ...Object.entries(skill.choices).map(([key, { words }]) => words[chosen[key] ?? ''] ?? ''),
  ].join(', ');
