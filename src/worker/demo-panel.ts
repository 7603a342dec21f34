import { randomUUID } from 'node:crypto';
import { NO_RULE, setAsideRule } from '@/core/design/set-aside-rule';
import { Random } from '@/core/signal/random';
import {
  type Character,
  characterOf,
  FEATURES,
  meanCharacter,
  type SimulatedListener,
  simulatedPanel,
  type Taste,
} from '@/core/simulation/listeners';
import { MICROPHONES } from '@/core/simulation/microphones';
import { PREAMPS } from '@/core/simulation/preamps';
import { TASK_IDS, TASKS, type TaskId } from '@/core/tasks';
import { FORCED_TRIALS } from '@/core/tasks/shared/forced-panel';
import { db, transaction } from '@/platform/database';
import type { SignedIn } from '@/platform/sign-in/service';
import { givenAnswer } from '@/steps/listening/schema';
import { labelsOf, sightedOf } from '@/steps/listening/sighted';
import { partsOf } from '@/steps/listening/store';
import { addPanelist } from '@/steps/panel/service';
import { chooseTogether } from '@/steps/results/together';
import { insertAnswer, insertListener, insertSighted } from '@/steps/sitting/seats';
import {
  type ListenerGuess,
  type PartDraft,
  PLAIN_PLAN,
  type SittingDraft,
} from '@/steps/sitting/schema';
import { closeSitting, openSitting, planSitting, sittingsOf } from '@/steps/sitting/service';
import { listSittings } from '@/steps/sitting/store';
import { SCENARIO } from '../../demo/scenario';
import { choicesOf, trialsOf } from './demo-store';

const { comparison, panel: PANEL, pilot: PILOT } = SCENARIO;
const NO_CONTROLS = { self: false, levelCatch: false, repeats: 0 };

export function chainName(chain: (typeof SCENARIO.chains)[number]): string {
  return `${chain.microphone} › ${chain.preamp}`;
}

/** The people who listen, by alias; the same in every sitting. */
export async function seedPanel(engineer: SignedIn): Promise<Map<string, string>> {
  const onPanel = new Map<string, string>();
  for (const alias of PANEL.aliases) {
    const told = PANEL.told[alias] ?? { experience: '', hearing: '', playback: '' };
    onPanel.set(alias, await addPanelist(engineer, { alias, ...told }, new Date()));
  }
  return onPanel;
}

/** The parts that the demo asks, one of each task, of the plain clips; and pairs once more in the mix. */
async function demoParts(
  engineer: SignedIn,
  comparisonId: string,
  chainIds: readonly string[],
): Promise<{ parts: Record<TaskId, PartDraft>; inMix: PartDraft }> {
  const { sets } = await sittingsOf(engineer, comparisonId);
  const named = `${comparison.sourceName}, ${comparison.passageName}`;
  const set = sets.find(({ name }) => name === named);
  const mixed = sets.find(({ name }) => name === `${named}, in the mix`);
  if (!set || !mixed) throw new Error('the demo has no clips to listen to');
  const [reference, other] = chainIds as [string, string];
  const parts = TASK_IDS.map((task): [TaskId, PartDraft] => {
    const { prompt, tiesOffered, ofOnePair, asksFirst, offers, proposes, pairLabels } = TASKS[task];
    const { trials, words } = proposes({ chains: chainIds.length, stereo: false });
    // Right answers are asked of one pair, so that there are enough of them.
    const narrow = ofOnePair || asksFirst;
    const pair: PartDraft['pair'] = narrow && pairLabels ? [other, reference] : null;
    return [
      task,
      {
        task,
        clipSetId: set.id,
        prompt,
        tiesAllowed: tiesOffered,
        trials: narrow ? FORCED_TRIALS : trials,
        pair,
        controls: {
          self: Boolean(offers.self),
          levelCatch: Boolean(offers.levelCatch),
          repeats: offers.repeats ? 1 : 0,
        },
        adaptive: false,
        words,
      },
    ];
  });
  const byTask = Object.fromEntries(parts) as Record<TaskId, PartDraft>;
  const inMix = { ...byTask.pair, clipSetId: mixed.id, controls: NO_CONTROLS };
  return { parts: byTask, inMix };
}

/** Some of the panel: one mean taste, and every third listener, in whatever sitting, away from it. */
function panelOf(taste: Taste, aliases: readonly string[], seed: number): SimulatedListener[] {
  const { everyThird, spread } = PANEL;
  const panel = simulatedPanel(aliases.length, taste, spread, seed);
  const isThird = (_: SimulatedListener, i: number) => PANEL.aliases.indexOf(aliases[i]!) % 3 === 2;
  for (const listener of panel.filter(isThird)) {
    for (const feature of FEATURES) {
      listener.taste[feature] += (everyThird as Partial<Taste>)[feature] ?? 0;
    }
  }
  return panel;
}

function modelsOf(chain: (typeof SCENARIO.chains)[number]) {
  const microphone = MICROPHONES.find(({ name }) => name === chain.microphone);
  const preamp = PREAMPS.find(({ name }) => name === chain.preamp);
  if (!microphone || !preamp) throw new Error(`the demo names gear that is not there`);
  return { microphone, preamp };
}

/** What is left of a difference where right answers are asked. */
function faintly(character: Character, mean: Character): Character {
  const faint = { ...mean };
  for (const feature of FEATURES) {
    faint[feature] += PANEL.hearing * (character[feature] - mean[feature]);
  }
  return faint;
}

async function openedSitting(
  engineer: SignedIn,
  comparisonId: string,
  {
    title,
    seats,
    parts,
    setAside = NO_RULE,
    asksGuess = false,
    sightedTrials = 0,
  }: Pick<SittingDraft, 'title' | 'seats' | 'parts'> &
    Partial<Pick<SittingDraft, 'setAside' | 'asksGuess' | 'sightedTrials'>>,
  random?: Random,
): Promise<string> {
  const plan: SittingDraft = {
    ...PLAIN_PLAN,
    title,
    seats,
    // What is liked is what the comparison asks.
    primaryPart:
      1 +
      Math.max(
        0,
        parts.findIndex(({ task }) => task === 'pair'),
      ),
    setAside,
    asksGuess,
    sightedTrials,
    parts,
  };
  const sittingId = await planSitting(engineer, comparisonId, plan, new Date());
  await openSitting(engineer, comparisonId, sittingId, plan, new Date(), random);
  return sittingId;
}

/** What a few of the simulated listeners say beside an answer, by seat and trial; made up like they are. */
const REMARKS: Record<string, string> = {
  '2 3': 'The second sits further away; I would not want it for the quiet lines.',
  '5 1': 'Hard to tell. The breath before the last word decided it.',
  '7 6': 'One of them is a little hard on the s.',
  '9 12': 'Nearer, as if she sang to me.',
};

interface Answering {
  chainIds: readonly string[];
  aliases: readonly string[];
  onPanel: ReadonlyMap<string, string>;
  /** Who listens in a part, one for each alias. */
  panelOfPart: (part: number) => readonly SimulatedListener[];
  habits: Random;
  remarks: Readonly<Record<string, string>>;
  /** What they expect; nobody was asked where left out. */
  guesses?: typeof PANEL.guesses;
}

/** By ids; null where somebody was not asked, or said nothing. */
function guessOf(
  guess: (typeof PANEL.guesses)[string],
  chainIds: readonly string[],
): ListenerGuess | null {
  if (!guess) return null;
  const place = SCENARIO.chains.findIndex((chain) => chainName(chain) === guess.favourite);
  return { favouriteChainId: chainIds[place] ?? null, toldApart: guess.toldApart };
}

/** Simulated listeners take their seats in an open sitting and answer all of it. */
async function answered(sittingId: string, how: Answering): Promise<void> {
  const { chainIds, aliases, onPanel, panelOfPart, habits, remarks, guesses = {} } = how;
  const characters = SCENARIO.chains.map((chain) => {
    const { microphone, preamp } = modelsOf(chain);
    return characterOf(microphone, preamp, chain.distanceM);
  });
  const mean = meanCharacter(characters);
  await transaction(async (tx) => {
    const trials = await trialsOf(tx, sittingId);
    for (const [i, alias] of aliases.entries()) {
      const seat = i + 1;
      const listener = {
        sittingId,
        seat,
        alias,
        playback: 'headphones',
        panelistId: onPanel.get(alias),
        guess: guessOf(guesses[alias], chainIds),
      };
      const at = new Date();
      const listenerId = await insertListener(tx, { ...listener, simulated: true }, at);
      let learned: Character[] = [];
      for (const trial of trials.filter((row) => row.seat === seat)) {
        const own = trial.chainIds.map((id) => characters[chainIds.indexOf(id)]!);
        if (trial.kind === 'learning') learned = own;
        const task = TASKS[trial.task];
        const sounds = task.learns ? learned : own;
        const answer = task.simulate(panelOfPart(trial.part)[i]!, {
          ...trial,
          trial,
          characters: task.rightPlaces > 0 ? sounds.map((one) => faintly(one, mean)) : sounds,
          mean,
        });
        const heardS = own.map(() => 8 + 9 * habits.uniform());
        const given = {
          position: trial.position,
          answer: givenAnswer.parse(answer),
          key: randomUUID(),
          heardS,
          switches: 2 + habits.below(6),
          durationS: heardS.reduce((a, b) => a + b, 3) + 4 * habits.uniform(),
          remark: remarks[`${seat} ${trial.position}`],
          hasty: alias === PANEL.hastyOne && trial.position % 3 === 0,
          serverS: null,
          unfetched: false,
        };
        await insertAnswer(tx, { listenerId, sittingId, seat }, given, at);
      }
    }
  });
}

/** A short closed sitting of choices and places on a line, before the one that counts. @returns its id */
export async function pilotSitting(
  engineer: SignedIn,
  comparisonId: string,
  chainIds: readonly string[],
  onPanel: ReadonlyMap<string, string>,
): Promise<string> {
  const { title, aliases, taste, seed } = PILOT;
  const { pair, line } = (await demoParts(engineer, comparisonId, chainIds)).parts;
  const parts = [pair, line].map((part) => ({ ...part, controls: NO_CONTROLS }));
  const plan = { title, seats: aliases.length, parts };
  const sittingId = await openedSitting(engineer, comparisonId, plan, new Random(seed));
  const panel = panelOf(taste, aliases, seed);
  const habits = Random.derived(seed, 'listening habits');
  const panelOfPart = () => panel;
  await answered(sittingId, { chainIds, aliases, onPanel, panelOfPart, habits, remarks: {} });
  await closeSitting(engineer, comparisonId, sittingId, new Date());
  return sittingId;
}

/**
 * A closed sitting of every task, and pairs in the mix, answered by simulated listeners; the same on every
 * installation. @returns its id
 */
export async function closedSitting(
  engineer: SignedIn,
  comparisonId: string,
  chainIds: readonly string[],
  onPanel: ReadonlyMap<string, string>,
): Promise<string> {
  const { aliases, taste, tasteInMix, seed } = PANEL;
  const { parts, inMix } = await demoParts(engineer, comparisonId, chainIds);
  const asked = [...Object.values(parts), inMix];
  const plan = {
    title: 'Contralto, quiet verse',
    seats: aliases.length,
    parts: asked,
    setAside: setAsideRule.parse(PANEL.setAside),
    asksGuess: true,
    sightedTrials: PANEL.sighted.trials,
  };
  const sittingId = await openedSitting(engineer, comparisonId, plan, new Random(seed));
  const habits = Random.derived(SCENARIO.seed, 'listening habits');
  const alone = panelOf(taste, aliases, seed);
  const mixed = panelOf(tasteInMix, aliases, seed + 1);
  const panelOfPart = (part: number) => (part === asked.length ? mixed : alone);
  const { guesses } = PANEL;
  const how = { chainIds, aliases, onPanel, panelOfPart, habits, guesses, remarks: REMARKS };
  await answered(sittingId, how);
  await answeredByName(sittingId, comparisonId, aliases.length, Random.derived(seed, 'names'));
  await closeSitting(engineer, comparisonId, sittingId, new Date());
  return sittingId;
}

/** What they say of some of their pairs once names and prices are in view: as before, or drawn to the dearer. */
async function answeredByName(
  sittingId: string,
  comparisonId: string,
  seats: number,
  habits: Random,
): Promise<void> {
  const sitting = {
    id: sittingId,
    comparisonId,
    purpose: 'panel',
    sightedTrials: PANEL.sighted.trials,
  } as const;
  const parts = await partsOf(db(), sittingId);
  await transaction(async (tx) => {
    for (let seat = 1; seat <= seats; seat++) {
      const said = await choicesOf(tx, sittingId, seat);
      for (const [i, trial] of (await sightedOf(tx, sitting, seat, parts)).entries()) {
        const shown = await labelsOf(tx, sitting, trial);
        const [first, second] = shown.map(({ priceCents }) => priceCents ?? 0) as [number, number];
        const drawn = first !== second && habits.uniform() < PANEL.sighted.drawnToDearer;
        const { listenerId, choice } = said.get(trial.position)!;
        const given = {
          position: trial.position,
          answer: { choice: drawn ? (first > second ? 'first' : 'second') : choice },
          key: randomUUID(),
          heardS: [6, 6],
          switches: 2,
          durationS: 14,
          shown,
        };
        await insertSighted(tx, { listenerId, sittingId, seat, number: i + 1 }, given, new Date());
      }
    }
  });
}

/** Reads the two closed sittings together: the chain that both heard tells whether the line meant the same. */
export async function readTogether(
  engineer: SignedIn,
  comparisonId: string,
  sittingIds: string[],
  referenceChainId: string,
): Promise<void> {
  const order = { sittingIds, referenceChainId, reason: PILOT.reason };
  await chooseTogether(engineer, comparisonId, order, new Date());
}

/** The open sitting: a few pairs, then one trial or two of other tasks. @returns the token of its link */
export async function openOne(
  engineer: SignedIn,
  comparisonId: string,
  chainIds: readonly string[],
): Promise<string> {
  const { pair, line, words, ...parts } = (await demoParts(engineer, comparisonId, chainIds)).parts;
  const sittingId = await openedSitting(engineer, comparisonId, {
    title: 'Contralto, quiet verse',
    seats: 24,
    parts: [
      { ...pair, trials: 6, controls: NO_CONTROLS },
      { ...parts['duo-trio'], trials: 2 },
      { ...line, controls: NO_CONTROLS },
      { ...words, trials: 2 },
    ],
  });
  const sitting = (await listSittings(db(), comparisonId)).find(({ id }) => id === sittingId);
  if (!sitting) throw new Error('the open sitting is not there');
  return sitting.token;
}
