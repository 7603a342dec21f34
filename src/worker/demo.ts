import { randomInt, randomUUID } from 'node:crypto';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { z } from 'zod';
import { CODE_WORDS } from '@/core/design/words';
import { Random } from '@/core/signal/random';
import { characterOf, simulatedChoice, simulatedPanel } from '@/core/simulation/listeners';
import { MICROPHONES } from '@/core/simulation/microphones';
import { PREAMPS } from '@/core/simulation/preamps';
import { db, transaction } from '@/platform/database';
import { openWork } from '@/platform/jobs';
import { createFirstAccount, isFirstStart, type SignedIn } from '@/platform/sign-in/service';
import { addChain, chooseReference } from '@/steps/chains/service';
import { brief } from '@/steps/comparisons/schema';
import {
  changeComparison,
  changePassage,
  comparisonOf,
  createComparison,
} from '@/steps/comparisons/service';
import { listPassages } from '@/steps/comparisons/store';
import { insertAnswer, insertListener } from '@/steps/listening/store';
import { startMatch } from '@/steps/match/service';
import { closeSitting, openSitting, planSitting } from '@/steps/sitting/service';
import { listSittings } from '@/steps/sitting/store';
import { type BenchPlan, orderBench } from '@/steps/takes/recording-bench';
import { listTakes } from '@/steps/takes/store';
import { SCENARIO } from '../../demo/scenario';
import { seedGear } from './demo-gear';

const demoFile = z.object({ name: z.string(), password: z.string(), listenerToken: z.string() });
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

/** Loads the scenario once, through the same steps an engineer takes. */
export async function loadDemo(folder: string, say: (line: string) => void): Promise<Demo | null> {
  const file = path.join(folder, 'demo.json');
  if (existsSync(file)) return demoFile.parse(JSON.parse(readFileSync(file, 'utf8')));
  const begun = path.join(folder, 'demo.begun');
  if (!(await isFirstStart()) && !existsSync(begun)) {
    say('This bank has data of its own; the demo scenario is left out.');
    return null;
  }
  say('Loading the demo scenario (takes are synthesised; everything in it is made up).');
  const { engineer, password } = await demoEngineer(begun);
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
  await keepBrief(engineer, comparisonId, {
    ...SCENARIO.brief,
    prediction: {
      favouriteChainId:
        chainIds[SCENARIO.chains.findIndex((c) => chainName(c) === SCENARIO.prediction.favourite)],
      toldApart: SCENARIO.prediction.toldApart,
      remark: SCENARIO.prediction.remark,
    },
  });
  await chooseReference(
    engineer,
    comparisonId,
    { chainId: chainIds[0], reason: 'known from the last two records' },
    new Date(),
  );
  await planWithoutTakes(engineer, gear);
  await recordTakes(engineer, comparisonId, chainIds, say);
  await settled(comparisonId);
  const [fromS, toS] = SCENARIO.passageS;
  const [passage] = await listPassages(db(), comparisonId);
  await changePassage(engineer, comparisonId, passage.id, { fromS, toS });
  await startMatch(
    engineer,
    comparisonId,
    {
      passageId: passage.id,
      method: 'loudness',
      referenceChainId: chainIds[0],
      contexts: [{ kind: 'raw' }],
      offsets: {},
    },
    new Date(),
  );
  await settled(comparisonId);
  say('Twelve simulated listeners answer.');
  await closedSitting(engineer, comparisonId, chainIds);
  const listenerToken = await openOne(engineer, comparisonId);
  await settled(comparisonId);
  const demo = { name: engineer.name, password, listenerToken };
  writeFileSync(file, JSON.stringify(demo), { mode: 0o600 });
  return demo;
}

/** The made-up engineer; a load that was cut off is begun again under the same name. */
async function demoEngineer(begun: string): Promise<{ engineer: SignedIn; password: string }> {
  if (existsSync(begun)) {
    const kept = z
      .object({ id: z.string(), password: z.string() })
      .parse(JSON.parse(readFileSync(begun, 'utf8')));
    await db().rows('DELETE FROM answer');
    await db().rows('DELETE FROM listener');
    await db().rows('DELETE FROM sitting');
    await db().rows('DELETE FROM comparison');
    await db().rows('DELETE FROM gear');
    const engineer: SignedIn = { id: kept.id, name: SCENARIO.engineer, role: 'owner' };
    return { engineer, password: kept.password };
  }
  const word = () => CODE_WORDS[randomInt(CODE_WORDS.length)].toLowerCase();
  const password = `${word()}-${word()}-${word()}-${randomInt(10, 100)}`;
  const id = await createFirstAccount({ name: SCENARIO.engineer, password }, new Date());
  writeFileSync(begun, JSON.stringify({ id, password }), { mode: 0o600 });
  return { engineer: { id, name: SCENARIO.engineer, role: 'owner' }, password };
}

async function keepBrief(
  engineer: SignedIn,
  comparisonId: string,
  written: unknown,
): Promise<void> {
  const comparison = await comparisonOf(engineer, comparisonId);
  const { version, title, question, sourceName, passageName } = comparison;
  const change = { title, question, sourceName, passageName, brief: brief.parse(written), version };
  await changeComparison(engineer, comparisonId, change, new Date());
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
    sourceName: null,
    capture: 'at once',
    takes: 1,
    programme: ['performance', 'room', 'off-axis'],
    room: 'treated',
    accidents: false,
    seed: SCENARIO.seed,
  };
  await orderBench(engineer, comparisonId, plan, new Date());
  await settled(comparisonId);
  say(`The bench recorded ${(await listTakes(db(), comparisonId)).length} takes.`);
}

/** Waits until the worker has nothing left to do for the comparison. */
async function settled(comparisonId: string): Promise<void> {
  while ((await openWork(db(), comparisonId)).length > 0) {
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
}

async function plannedSitting(
  engineer: SignedIn,
  comparisonId: string,
  trialsPerListener: number,
  seats: number,
  draw?: (most: number) => number,
): Promise<string> {
  const sittingId = await planSitting(
    engineer,
    comparisonId,
    {
      title: 'Contralto, quiet verse',
      prompt: 'Which recording suits this part better?',
      tiesAllowed: true,
      trialsPerListener,
      seats,
      codeMode: 'fresh',
    },
    new Date(),
  );
  await openSitting(engineer, comparisonId, sittingId, new Date(), draw);
  return sittingId;
}

async function closedSitting(
  engineer: SignedIn,
  comparisonId: string,
  chainIds: readonly string[],
): Promise<void> {
  const { aliases, taste, spread } = SCENARIO.panel;
  const pairs = (chainIds.length * (chainIds.length - 1)) / 2;
  // Seeded, so that every installation shows the same result.
  const random = new Random(SCENARIO.seed);
  const draw = (most: number) => Math.floor(random.uniform() * most);
  const sittingId = await plannedSitting(engineer, comparisonId, pairs, aliases.length, draw);
  const habits = Random.derived(SCENARIO.seed, 'listening habits');
  const panel = simulatedPanel(aliases.length, taste, spread, SCENARIO.seed);
  const characters = SCENARIO.chains.map((chain) => {
    const { microphone, preamp } = modelsOf(chain);
    return characterOf(microphone, preamp, chain.distanceM);
  });
  const characterOfChain = (id: string) => characters[chainIds.indexOf(id)];
  await transaction(async (tx) => {
    const trials = await tx.rows<{ seat: number; position: number; first: string; second: string }>(
      `SELECT seat, position, first_chain_id AS first, second_chain_id AS second FROM trial
       WHERE sitting_id = $1 ORDER BY seat, position`,
      [sittingId],
    );
    for (const [i, alias] of aliases.entries()) {
      const listener = panel[i];
      const seat = i + 1;
      const listenerId = await insertListener(
        tx,
        {
          sittingId,
          seat,
          alias,
          tokenHash: randomUUID(),
          playback: 'headphones',
          simulated: true,
        },
        new Date(),
      );
      for (const trial of trials.filter((row) => row.seat === seat)) {
        const firstHeardS = 8 + 9 * habits.uniform();
        const secondHeardS = 8 + 9 * habits.uniform();
        const answer = {
          position: trial.position,
          choice: simulatedChoice(
            listener,
            characterOfChain(trial.first),
            characterOfChain(trial.second),
            true,
          ),
          key: randomUUID(),
          firstHeardS,
          secondHeardS,
          switches: 2 + habits.below(6),
          durationS: firstHeardS + secondHeardS + 3 + 4 * habits.uniform(),
        };
        await insertAnswer(tx, { listenerId, sittingId, seat }, answer, new Date());
      }
    }
  });
  await closeSitting(engineer, comparisonId, sittingId, new Date());
}

async function openOne(engineer: SignedIn, comparisonId: string): Promise<string> {
  const sittingId = await plannedSitting(engineer, comparisonId, 6, 24);
  const sitting = (await listSittings(db(), comparisonId)).find(({ id }) => id === sittingId);
  if (!sitting) throw new Error('the open sitting is not there');
  return sitting.token;
}
