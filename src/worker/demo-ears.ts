import { foldsOf, placeOf } from '@/core/ears/axis';
import { standingOf } from '@/core/ears/session';
import { skillOf, usualChoices } from '@/core/ears/skills';
import { chanceOfRight } from '@/core/ears/threshold';
import { Random } from '@/core/signal/random';
import type { SignedIn } from '@/platform/sign-in/service';
import type { SessionDraft } from '@/steps/ears/schema';
import {
  addTest,
  answerTrial,
  beginSession,
  shareWithPanel,
  traineeByLink,
  traineeOfEngineer,
  trainingLink,
  trainingOf,
} from '@/steps/ears/service';
import type { Trainee } from '@/steps/ears/store';
import { SCENARIO } from '../../demo/scenario';

const { ears: EARS } = SCENARIO;
const SLOPE = 2;
const LAPSE = 0.02;
const SECONDS = 6;
const DAY_MS = 86_400_000;

/** A session of a simulated listener who hears a size in three of four trials. */
async function walked(
  trainee: Trainee,
  draft: SessionDraft,
  heardAt: number,
  random: Random,
  at: Date,
): Promise<void> {
  await beginSession(trainee, draft, at);
  const { open } = await trainingOf(trainee);
  const skill = skillOf(draft.skill);
  if (!open || !skill) throw new Error('the demo’s training did not begin');
  const { choices, amount, seed } = open;
  const threshold = placeOf(skill.axis, heardAt);
  const answers: { chosen: number; place: number }[] = [];
  for (;;) {
    const { next } = standingOf({ skill, choices, amount, seed }, answers);
    if (!next) return;
    const p = chanceOfRight(foldsOf(skill.axis), next.place, threshold, SLOPE, LAPSE);
    const chosen = random.uniform() < p ? next.odd : (next.odd + 1 + random.below(2)) % 3;
    const seconds = SECONDS * (0.6 + 0.8 * random.uniform());
    await answerTrial(
      trainee,
      { sessionId: open.id, position: answers.length, chosen, seconds },
      at,
    );
    answers.push({ chosen, place: next.place });
  }
}

/** What engineer and panel trained: all simulated, as the panel of the demo is. */
export async function demoEars(
  engineer: SignedIn,
  onPanel: ReadonlyMap<string, string>,
  now: Date,
): Promise<void> {
  const random = new Random(EARS.seed);
  const band = skillOf('band')!;
  const test = { skill: 'band', choices: usualChoices(band), amount: EARS.testDb };
  await addTest(engineer, test, now);
  for (const { skill: id, daysAgo, heardAt } of EARS.engineer) {
    const at = new Date(now.getTime() - daysAgo * DAY_MS);
    const draft: SessionDraft = {
      skill: id,
      choices: usualChoices(skillOf(id)!),
      amount: null,
      sound: { kind: 'made', sound: 'cello' },
    };
    await walked(traineeOfEngineer(engineer), draft, heardAt, random, at);
  }
  for (const [alias, heardAt] of Object.entries(EARS.panel)) {
    const { token } = await trainingLink(engineer, onPanel.get(alias) ?? '', now);
    const trainee = await traineeByLink(token);
    await shareWithPanel(trainee, true);
    await walked(
      trainee,
      { ...test, sound: { kind: 'made', sound: 'noise' } },
      heardAt,
      random,
      now,
    );
  }
}
