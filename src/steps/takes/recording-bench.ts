import { detailsOf } from '@/core/checks/programme';
import { benchFault, type BenchTake } from '@/core/simulation/recording-bench';
import type { ChainItem } from '@/core/chain/item';
import { hash32 } from '@/core/signal/random';
import { db, transaction, type Tx } from '@/platform/database';
import { notFound, UserError } from '@/platform/errors';
import { enqueue } from '@/platform/jobs';
import { announce } from '@/platform/live';
import type { SignedIn } from '@/platform/sign-in/service';
import { itemsOfChain } from '@/steps/chains/service';
import { listRecordedChains } from '@/steps/chains/store';
import { comparisonOf, sourceOf } from '@/steps/comparisons/service';
import { type BenchPlan, storedBenchPlan } from './plans';
import { findBenchOrder, insertBenchOrder, finishBenchOrder } from './recording-bench-store';
import { keepRecorded } from './service';

const USUAL_DISTANCE_M = 0.3;
const RATE = 48_000;
/** Accidents on a bench that is told to have some: in one take of six. */
const KNOCK_SHARE = 1 / 6;

export async function orderBench(
  engineer: SignedIn,
  comparisonId: string,
  plan: BenchPlan,
  at: Date,
): Promise<void> {
  await comparisonOf(engineer, comparisonId);
  await transaction(async (tx) => {
    const chains = await listRecordedChains(tx, comparisonId);
    await sourceOf(tx, comparisonId, plan.sourceId);
    for (const id of plan.chainIds) {
      const chain = chains.find((one) => one.id === id);
      if (!chain) throw notFound('chain');
      const fault = benchFault(await itemsOfChain(tx, chain));
      if (fault) throw new UserError(422, `The bench cannot record ${chain.name}: it ${fault}.`);
    }
    const id = await insertBenchOrder(tx, comparisonId, plan, at);
    const label = 'recordings of the simulated bench';
    await enqueue(tx, 'record-takes', { comparisonId, subjectId: id, label }, at);
  });
}

/** One recording with all that the worker needs. */
export interface BenchJob {
  fileName: string;
  chainId: string;
  sourceId: string;
  items: ChainItem[];
  take: BenchTake;
  sampleRateHz: number;
}

/** What an order still asks for; null when it is done. */
export async function benchJobs(
  orderId: string,
): Promise<{ comparisonId: string; jobs: BenchJob[] } | null> {
  const order = await findBenchOrder(db(), orderId);
  if (order?.state !== 'waiting') return null;
  const plan = storedBenchPlan.parse(order.plan);
  const chains = await listRecordedChains(db(), order.comparisonId);
  const jobs: BenchJob[] = [];
  for (const chain of chains.filter(({ id }) => plan.chainIds.includes(id))) {
    const items = await itemsOfChain(db(), chain);
    const ribbon = items.some(({ gear }) => gear.specs.type?.includes('ribbon'));
    for (const step of plan.programme) {
      const { programme } = step;
      if (programme === 'backing' || (programme === 'plosives' && ribbon)) continue;
      const takes = programme === 'performance' ? plan.takes : 1;
      for (const detail of detailsOf(step)) {
        for (let number = 1; number <= takes; number++) {
          const seed = hash32(`${plan.seed} ${chain.name} ${programme} ${detail} ${number}`) >>> 0;
          const tail = [programme === 'performance' ? `take${number}` : programme, detail];
          jobs.push({
            fileName: `${fileStem([chain.name, ...tail])}.wav`,
            chainId: chain.id,
            sourceId: plan.sourceId,
            items,
            sampleRateHz: RATE,
            take: {
              programme,
              detail,
              instrument: plan.instrument,
              distanceM: chain.distanceM ?? USUAL_DISTANCE_M,
              angleDeg: chain.angleDeg ?? 0,
              room: plan.room,
              performanceSeed: performanceSeed(plan, chain.name, number),
              seed,
              knock: plan.accidents && (seed % 997) / 997 < KNOCK_SHARE,
            },
          });
        }
      }
    }
  }
  return { comparisonId: order.comparisonId, jobs };
}

/** Words of a name, without what a file name should not hold. */
function fileStem(parts: readonly string[]): string {
  return parts
    .filter(Boolean)
    .join('_')
    .replace(/ › |[/\\]/g, '_')
    .replaceAll(' ', '');
}

/** At once, chains share each performance; replayed, there is one; else every take is another. */
function performanceSeed(plan: BenchPlan, chain: string, number: number): number {
  if (plan.capture === 'replayed') return plan.seed;
  if (plan.capture === 'at once') return plan.seed + number - 1;
  return hash32(`${plan.seed} ${chain} ${number}`) >>> 0;
}

/** What was recorded becomes takes, all together or none. */
export async function keepBenchTakes(
  orderId: string,
  comparisonId: string,
  recorded: readonly { job: BenchJob; audioId: number }[],
  at: Date,
): Promise<void> {
  await transaction(async (tx) => {
    if (!(await finishBenchOrder(tx, orderId, 'ready'))) return;
    for (const { job, audioId } of recorded) {
      const { fileName, chainId, sourceId } = job;
      const { programme, detail } = job.take;
      await keepRecorded(
        tx,
        { comparisonId, audioId, fileName, chainId, sourceId, programme, detail },
        at,
      );
    }
    await announce(tx, comparisonId);
  });
}

export async function failBench(tx: Tx, orderId: string): Promise<void> {
  await finishBenchOrder(tx, orderId, 'failed');
}
