import { randomInt } from 'node:crypto';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { verify } from '@node-rs/argon2';
import { z } from 'zod';
import { CODE_WORDS } from '@/core/design/words';
import { Random } from '@/core/signal/random';
import { MILD_PROCESSING } from '@/core/processing/settings';
import { backingTrack } from '@/core/simulation/backing';
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
import { addPassage, createComparison, sourceOf } from '@/steps/comparisons/service';
import { decisionDraft, type MarkDraft, marksOrder, NO_WEIGHING } from '@/steps/decision/schema';
import { decisionOf, giveMarks, lockDecision, weigh } from '@/steps/decision/service';
import type { BenchPlan } from '@/steps/takes/plans';
import { orderBench } from '@/steps/takes/recording-bench';
import { keepRecorded } from '@/steps/takes/service';
import { listTakes } from '@/steps/takes/store';
import { SCENARIO } from '../../demo/scenario';
import { loadArrays } from './demo-arrays';
import { loadCello } from './demo-cello';
import { seedGear } from './demo-gear';
import { demoEars } from './demo-ears';
import {
  chainName,
  closedSitting,
  openOne,
  pilotSitting,
  readTogether,
  seedPanel,
} from './demo-panel';
import { keepBrief, matched, settled } from './demo-steps';
import {
  findDemoLoad,
  insertDemoLoad,
  markDemoLoaded,
  openToken,
  undoDemoLoad,
} from './demo-store';

const demoFile = z.object({
  name: z.string(),
  password: z.string(),
  listenerToken: z.string().nullable(),
});
export type Demo = z.infer<typeof demoFile>;

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
  const byLoudness = { method: 'loudness' as const, referenceChainId: chainIds[0]! };
  const { name, passageS } = SCENARIO.opening;
  const opening = await addPassage(engineer, comparisonId, { name });
  const raw = { kind: 'raw' as const };
  await matched(engineer, comparisonId, passageS, { ...byLoudness, contexts: [raw] }, opening);
  await matched(engineer, comparisonId, SCENARIO.passageS, {
    ...byLoudness,
    contexts: [raw, { kind: 'alike', settings: MILD_PROCESSING }, { kind: 'mix', balanceDb: 0 }],
  });
  const { marks, late } = SCENARIO.decision;
  await giveMarks(engineer, comparisonId, marksOf(marks, gear), new Date());
  say('Twelve simulated listeners answer.');
  const onPanel = await seedPanel(engineer);
  const pilot = await pilotSitting(engineer, comparisonId, chainIds, onPanel);
  const whole = await closedSitting(engineer, comparisonId, chainIds, onPanel);
  await demoEars(engineer, onPanel, new Date());
  await settled(comparisonId);
  await readTogether(engineer, comparisonId, [pilot, whole], chainIds[0]!);
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
    takes: SCENARIO.takes,
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
