import { TASK_IDS, TASKS, type TaskId } from '@/core/tasks';
import { FORCED_TRIALS } from '@/core/tasks/shared/forced-panel';
import { randomInt, randomUUID } from 'node:crypto';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { verify } from '@node-rs/argon2';
import { z } from 'zod';
import { CODE_WORDS } from '@/core/design/words';
import { Random } from '@/core/signal/random';
import { backingTrack } from '@/core/simulation/backing';
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
import { encodeWav } from '@/core/wav/write';
import { putAudio } from '@/platform/audio-store';
import { db, pool, transaction } from '@/platform/database';
import {
  createFirstAccount,
  isFirstStart,
  setPassword,
  type SignedIn,
} from '@/platform/sign-in/service';
import { findAccount } from '@/platform/sign-in/store';
import { addChain, chooseReference } from '@/steps/chains/service';
import { sourceDraft } from '@/steps/comparisons/schema';
import { createComparison, sourceOf } from '@/steps/comparisons/service';
import { decisionDraft, type MarkDraft, marksOrder, NO_WEIGHING } from '@/steps/decision/schema';
import { decisionOf, giveMarks, lockDecision, weigh } from '@/steps/decision/service';
import { givenAnswer } from '@/steps/listening/schema';
import { insertAnswer, insertListener } from '@/steps/sitting/seats';
import { addPanelist } from '@/steps/panel/service';
import type { PartDraft, SittingDraft } from '@/steps/sitting/schema';
import { closeSitting, openSitting, planSitting, sittingsOf } from '@/steps/sitting/service';
import { listSittings } from '@/steps/sitting/store';
import type { BenchPlan } from '@/steps/takes/plans';
import { orderBench } from '@/steps/takes/recording-bench';
import { keepRecorded } from '@/steps/takes/service';
import { listTakes } from '@/steps/takes/store';
import { SCENARIO } from '../../demo/scenario';
import { loadArrays } from './demo-arrays';
import { loadCello } from './demo-cello';
import { seedGear } from './demo-gear';
import { keepBrief, matched, settled } from './demo-steps';
import {
  findDemoLoad,
  insertDemoLoad,
  markDemoLoaded,
  openToken,
  trialsOf,
  undoDemoLoad,
} from './demo-store';

const demoFile = z.object({
  name: z.string(),
  password: z.string(),
  listenerToken: z.string().nullable(),
});
export type Demo = z.infer<typeof demoFile>;

function chainName(chain: (typeof SCENARIO.chains)[number]): string {
  return `${chain.microphone} › ${chain.preamp}`;
}

function modelsOf(chain: (typeof SCENARIO.chains)[number]) {
  const microphone = MICROPHONES.find(({ name }) => name === chain.microphone);
  const preamp = PREAMPS.find(({ name }) => name === chain.preamp);
  if (!microphone || !preamp) throw new Error(`the demo names gear that is not there`);
  return { microphone, preamp };
}

/**
 * Loads the scenario once, through the same steps an engineer takes, into a bank that nobody has an account
 * in. The database itself says whether that was done: a load that was cut off is taken back and begun again.
 */
export async function loadDemo(folder: string, say: (line: string) => void): Promise<Demo | null> {
  return alone(async () => {
    const file = path.join(folder, 'demo.json');
    const load = await findDemoLoad(db());
    if (load && !load.loaded && load.usedSince) {
      say('The demo was loaded in part, and somebody has worked here since; all of it is kept.');
      await markDemoLoaded(db(), new Date());
      return doorTo(file, load.accountId, load.name);
    }
    if (load?.loaded) return doorTo(file, load.accountId, load.name);
    if (load) {
      say('An earlier loading of the demo was cut off; beginning it again.');
      await transaction((tx) => undoDemoLoad(tx, load.accountId));
    } else if (!(await isFirstStart())) {
      const demo = written(file);
      // Loaded before banks kept account of it.
      if (demo && (await fits(demo))) return demo;
      say('This bank has data of its own; the demo scenario is left out.');
      return null;
    }
    return loadScenario(file, say);
  });
}

/** Only one process at a time loads; others wait, and then find it done. The lock dies with its process. */
async function alone<T>(work: () => Promise<T>): Promise<T> {
  const client = await pool().connect();
  try {
    await client.query('SET statement_timeout = 0');
    await client.query('SELECT pg_advisory_lock(hashtextextended($1, 4))', ['demo']);
    return await work();
  } finally {
    // Closed, not given back: the lock goes with it.
    client.release(true);
  }
}

function written(file: string): Demo | null {
  if (!existsSync(file)) return null;
  try {
    return demoFile.parse(JSON.parse(readFileSync(file, 'utf8')));
  } catch {
    return null;
  }
}

/** What opens the demo; where its file was lost, its engineer gets a new password. */
async function doorTo(file: string, accountId: string, name: string): Promise<Demo> {
  const demo = written(file);
  if (demo && demo.name === name) return demo;
  const password = freshPassword();
  await setPassword(accountId, password, new Date());
  return writeDown(file, { name, password, listenerToken: await openToken(db(), accountId) });
}

function writeDown(file: string, demo: Demo): Demo {
  writeFileSync(file, JSON.stringify(demo), { mode: 0o600 });
  return demo;
}

/** Whether what was written down opens this bank. */
async function fits({ name, password }: Demo): Promise<boolean> {
  const account = await findAccount(db(), name);
  return account !== null && (await verify(account.password_hash, password));
}

function freshPassword(): string {
  const word = () => CODE_WORDS[randomInt(CODE_WORDS.length)]!.toLowerCase();
  return `${word()}-${word()}-${word()}-${randomInt(10, 100)}`;
}

async function loadScenario(file: string, say: (line: string) => void): Promise<Demo> {
  say('Loading the demo scenario (takes are synthesised; everything in it is made up).');
  const password = freshPassword();
  const account = { name: SCENARIO.engineer, password };
  const id = await createFirstAccount(account, new Date(), (tx, made) =>
    insertDemoLoad(tx, made, new Date()),
  );
  const engineer: SignedIn = {
    accountId: id,
    studioId: id,
    name: SCENARIO.engineer,
    role: 'owner',
  };
  const comparisonId = await createComparison(engineer, SCENARIO.comparison, new Date(), true);
  const gear = await seedGear(engineer, new Date());
  const chainIds = [];
  for (const chain of SCENARIO.chains) {
    const items = [chain.microphone, chain.preamp, SCENARIO.converter];
    chainIds.push(
      await addChain(engineer, comparisonId, {
        name: chainName(chain),
        items: '',
        priceCents: null,
        distanceM: chain.distanceM,
        gear: items.map((name) => ({ gearId: gear.get(name) ?? '', settings: {} })),
      }),
    );
  }
  await keepBrief(
    engineer,
    comparisonId,
    {
      ...SCENARIO.brief,
      prediction: {
        favouriteChainId:
          chainIds[
            SCENARIO.chains.findIndex((c) => chainName(c) === SCENARIO.prediction.favourite)
          ],
        toldApart: SCENARIO.prediction.toldApart,
        remark: SCENARIO.prediction.remark,
      },
    },
    SCENARIO.furtherSources.map((source) => sourceDraft.parse(source)),
  );
  await chooseReference(
    engineer,
    comparisonId,
    { chainId: chainIds[0]!, reason: 'known from the last two records' },
    new Date(),
  );
  await planWithoutTakes(engineer, gear);
  await loadCello(engineer, gear, say);
  await loadArrays(engineer, gear, say);
  await recordTakes(engineer, comparisonId, chainIds, say);
  await keepBacking(comparisonId);
  await settled(comparisonId);
  await matched(engineer, comparisonId, SCENARIO.passageS, {
    method: 'loudness',
    referenceChainId: chainIds[0]!,
    contexts: [{ kind: 'raw' }, { kind: 'mix', balanceDb: 0 }],
  });
  const { marks, late } = SCENARIO.decision;
  await giveMarks(engineer, comparisonId, marksOf(marks, gear), new Date());
  say('Twelve simulated listeners answer.');
  await closedSitting(engineer, comparisonId, chainIds);
  await settled(comparisonId);
  await giveMarks(engineer, comparisonId, marksOf(late, gear), new Date());
  await decided(engineer, comparisonId, chainIds);
  const listenerToken = await openOne(engineer, comparisonId, chainIds);
  await settled(comparisonId);
  const demo = writeDown(file, { name: engineer.name, password, listenerToken });
  await markDemoLoaded(db(), new Date());
  return demo;
}

function marksOf(
  marks: readonly { of: string; criterion: string; value: string; remark: string }[],
  gear: ReadonlyMap<string, string>,
): MarkDraft[] {
  return marksOrder.parse({
    marks: marks.map(({ of, ...mark }) => ({ ...mark, of: 'gear', id: gear.get(of) })),
  }).marks;
}

/** Weighs what was heard and seen, and writes the decision down. */
async function decided(
  engineer: SignedIn,
  comparisonId: string,
  chainIds: readonly string[],
): Promise<void> {
  const { places, mustHave, uses, listenAgainInDays, reasons, ...said } = SCENARIO.decision;
  const idOf = (chain: string | null) =>
    chain === null
      ? null
      : (chainIds[SCENARIO.chains.findIndex((one) => chainName(one) === chain)] ?? null);
  const view = await decisionOf(engineer, comparisonId);
  const weighing = {
    ...NO_WEIGHING,
    places,
    byHand: {
      [mustHave.text]: Object.fromEntries([
        ...mustHave.passes.map((chain) => [idOf(chain) ?? '', 'pass'] as const),
        ...mustHave.fails.map((chain) => [idOf(chain) ?? '', 'fail'] as const),
      ]),
    },
  };
  await weigh(engineer, comparisonId, { weighing, version: 0 }, new Date());
  const again = new Date(Date.now() + listenAgainInDays * 24 * 3600 * 1000);
  const draft = decisionDraft.parse({
    ...said,
    uses: uses.map(({ chain, ...use }) => ({ ...use, chainId: idOf(chain) })),
    reasons,
    listenAgain: again.toISOString().slice(0, 10),
  });
  const sittingId = view.sitting?.sittingId ?? null;
  await lockDecision(engineer, comparisonId, { draft, version: 0, sittingId }, new Date());
}

/** The second comparison: chains, ladders and cautions, before anybody touches a stand. */
async function planWithoutTakes(engineer: SignedIn, gear: Map<string, string>): Promise<void> {
  const { brief: written, chains, ...draft } = SCENARIO.plan;
  // Dated a little earlier, so that the one with everything in it stands first.
  const id = await createComparison(engineer, draft, new Date(Date.now() - 60_000), true);
  for (const { name, items, distanceM } of chains) {
    await addChain(engineer, id, {
      name,
      items: '',
      priceCents: null,
      distanceM,
      gear: items.map((item) => ({ gearId: gear.get(item) ?? '', settings: {} })),
    });
  }
  await keepBrief(engineer, id, written);
}

/** The simulated bench plays and records: the song at once through all chains, and a short test programme. */
async function recordTakes(
  engineer: SignedIn,
  comparisonId: string,
  chainIds: string[],
  say: (line: string) => void,
): Promise<void> {
  const plan: BenchPlan = {
    chainIds,
    instrument: SCENARIO.instrument,
    sourceId: (await sourceOf(db(), comparisonId, null)).id,
    capture: 'at once',
    takes: 1,
    programme: (['performance', 'room', 'off-axis'] as const).map((programme) => ({
      programme,
      details: [],
    })),
    room: 'treated',
    accidents: false,
    seed: SCENARIO.seed,
  };
  await orderBench(engineer, comparisonId, plan, new Date());
  await settled(comparisonId);
  say(`The bench recorded ${(await listTakes(db(), comparisonId)).length} takes.`);
}

/** The other two of the trio, for listening in the mix. */
async function keepBacking(comparisonId: string): Promise<void> {
  const { sampleRateHz, seed } = SCENARIO;
  const samples = backingTrack(['cello', 'clarinet'], sampleRateHz, seed);
  const bytes = encodeWav([samples], sampleRateHz, 24, [Random.derived(seed, 'dither')]);
  const { id: sourceId } = await sourceOf(db(), comparisonId, null);
  await transaction(async (tx) => {
    const audioId = await putAudio(tx, bytes, new Date());
    const fileName = 'Backing_cello_clarinet.wav';
    await keepRecorded(
      tx,
      { comparisonId, audioId, fileName, sourceId, programme: 'backing' },
      new Date(),
    );
  });
}

/** The parts that the demo asks, one of each task, of the plain clips; and pairs once more in the mix. */
async function demoParts(
  engineer: SignedIn,
  comparisonId: string,
  chainIds: readonly string[],
): Promise<{ parts: Record<TaskId, PartDraft>; inMix: PartDraft }> {
  const [set, mixed] = (await sittingsOf(engineer, comparisonId)).sets;
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
          louder: Boolean(offers.louder),
          repeats: offers.repeats ? 1 : 0,
        },
        adaptive: false,
        words,
      },
    ];
  });
  const byTask = Object.fromEntries(parts) as Record<TaskId, PartDraft>;
  const controls = { self: false, louder: false, repeats: 0 };
  const inMix = { ...byTask.pair, clipSetId: mixed.id, controls };
  return { parts: byTask, inMix };
}

/** A panel of the scenario: one mean taste, and every third listener away from it. */
function panelOf(taste: Taste, seed: number): SimulatedListener[] {
  const { aliases, everyThird, spread } = SCENARIO.panel;
  const panel = simulatedPanel(aliases.length, taste, spread, seed);
  for (const listener of panel.filter((_, i) => i % 3 === 2)) {
    for (const feature of FEATURES) {
      listener.taste[feature] += (everyThird as Partial<Taste>)[feature] ?? 0;
    }
  }
  return panel;
}

/** What is left of a difference where right answers are asked. */
function faintly(character: Character, mean: Character): Character {
  const faint = { ...mean };
  for (const feature of FEATURES) {
    faint[feature] += SCENARIO.panel.hearing * (character[feature] - mean[feature]);
  }
  return faint;
}

async function openedSitting(
  engineer: SignedIn,
  comparisonId: string,
  seats: number,
  parts: PartDraft[],
  random?: Random,
): Promise<string> {
  const plan: SittingDraft = {
    title: 'Contralto, quiet verse',
    seats,
    codeMode: 'fresh',
    invitedOnly: false,
    resetSound: 'none',
    trainingSound: 'music',
    reveal: 'after closing',
    // What is liked is what the comparison asks.
    primaryPart:
      1 +
      Math.max(
        0,
        parts.findIndex(({ task }) => task === 'pair'),
      ),
    room: 'own',
    parts,
  };
  const sittingId = await planSitting(engineer, comparisonId, plan, new Date());
  await openSitting(engineer, comparisonId, sittingId, new Date(), random);
  return sittingId;
}

/** What a few of the simulated listeners say beside an answer, by seat and trial; made up like they are. */
const REMARKS: Record<string, string> = {
  '2 3': 'The second sits further away; I would not want it for the quiet lines.',
  '5 1': 'Hard to tell. The breath before the last word decided it.',
  '7 6': 'One of them is a little hard on the s.',
  '9 12': 'Nearer, as if she sang to me.',
};

/** A closed sitting of every task, and pairs in the mix, answered by simulated listeners; the same on every installation. */
async function closedSitting(
  engineer: SignedIn,
  comparisonId: string,
  chainIds: readonly string[],
): Promise<void> {
  const { aliases, taste, tasteInMix, seed } = SCENARIO.panel;
  const random = new Random(seed);
  const { parts, inMix } = await demoParts(engineer, comparisonId, chainIds);
  const asked = [...Object.values(parts), inMix];
  const sittingId = await openedSitting(engineer, comparisonId, aliases.length, asked, random);
  const habits = Random.derived(SCENARIO.seed, 'listening habits');
  const onPanel: string[] = [];
  for (const alias of aliases) {
    const told = SCENARIO.panel.told[alias] ?? { experience: '', hearing: '', playback: '' };
    onPanel.push(await addPanelist(engineer, { alias, ...told }, new Date()));
  }
  const [alone, mixed] = [panelOf(taste, seed), panelOf(tasteInMix, seed + 1)];
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
        panelistId: onPanel[i],
      };
      const at = new Date();
      const listenerId = await insertListener(tx, { ...listener, simulated: true }, at);
      let learned: Character[] = [];
      for (const trial of trials.filter((row) => row.seat === seat)) {
        const own = trial.chainIds.map((id) => characters[chainIds.indexOf(id)]!);
        if (trial.kind === 'learning') learned = own;
        const task = TASKS[trial.task];
        const sounds = task.learns ? learned : own;
        const panel = trial.part === asked.length ? mixed : alone;
        const answer = task.simulate(panel[i]!, {
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
          remark: REMARKS[`${seat} ${trial.position}`],
          hasty: false,
          serverS: null,
          unfetched: false,
        };
        await insertAnswer(tx, { listenerId, sittingId, seat }, given, at);
      }
    }
  });
  await closeSitting(engineer, comparisonId, sittingId, new Date());
}

/** The open sitting: a few pairs, then one trial or two of other tasks. */
async function openOne(
  engineer: SignedIn,
  comparisonId: string,
  chainIds: readonly string[],
): Promise<string> {
  const none = { self: false, louder: false, repeats: 0 };
  const { pair, line, words, ...parts } = (await demoParts(engineer, comparisonId, chainIds)).parts;
  const sittingId = await openedSitting(engineer, comparisonId, 24, [
    { ...pair, trials: 6, controls: none },
    { ...parts['duo-trio'], trials: 2 },
    { ...line, controls: none },
    { ...words, trials: 2 },
  ]);
  const sitting = (await listSittings(db(), comparisonId)).find(({ id }) => id === sittingId);
  if (!sitting) throw new Error('the open sitting is not there');
  return sitting.token;
}
