import { stageSettings } from '@/core/processing/stages';
import { db } from '@/platform/database';
import type { SignedIn } from '@/platform/sign-in/service';
import { addChain, chooseReference } from '@/steps/chains/service';
import { createComparison, sourceOf } from '@/steps/comparisons/service';
import { benchPlan } from '@/steps/takes/plans';
import { orderBench } from '@/steps/takes/recording-bench';
import { listTakes } from '@/steps/takes/store';
import { SCENARIO } from '../../demo/scenario';
import { keepBrief, matched, settled } from './demo-steps';

/** The third comparison: recorded and matched, and asked of nobody yet, so that everything may be heard by name. */
export async function loadCello(
  engineer: SignedIn,
  gear: ReadonlyMap<string, string>,
  say: (line: string) => void,
): Promise<void> {
  const {
    brief: written,
    instrument,
    passageS,
    chains,
    takes,
    programme,
    seed,
    ...plan
  } = SCENARIO.cello;
  const { variants, distanceM, ...draft } = plan;
  // Dated before the other two.
  const id = await createComparison(engineer, draft, new Date(Date.now() - 120_000), true);
  await keepBrief(engineer, id, written);
  const idOf = new Map<string, string>();
  for (const { name, items, gainDb } of chains) {
    const [, preamp] = items;
    const made = await addChain(engineer, id, {
      name,
      items: '',
      priceCents: null,
      distanceM,
      gear: items.map((item) => ({
        gearId: gear.get(item) ?? '',
        settings: item === preamp ? { gainDb } : {},
      })),
    });
    idOf.set(name, made);
  }
  const ids = [...idOf.values()];
  const first = ids[0]!;
  const reason = 'the condenser that is there already';
  await chooseReference(engineer, id, { chainId: first, reason }, new Date());
  const { id: sourceId } = await sourceOf(db(), id, null);
  const order = benchPlan.parse({
    chainIds: ids,
    instrument,
    sourceId,
    capture: 'at once',
    takes,
    programme,
    room: 'treated',
    accidents: false,
    seed,
  });
  await orderBench(engineer, id, order, new Date());
  await settled(id);
  const recorded = await listTakes(db(), id);
  say(`The bench recorded ${recorded.length} takes of the cello.`);
  const own = recorded.filter((take) => take.chainId === first && take.programme === 'performance');
  for (const { name, ...made } of variants) {
    const { saturation, toneOf, take } = made;
    const toned = { limitDb: 9, phase: 'minimum', smoothing: 'third' };
    const stages = [
      ...(saturation ? [{ kind: 'saturation', ...saturation }] : []),
      ...(toneOf ? [{ kind: 'tone-match', chainId: idOf.get(toneOf), ...toned }] : []),
    ];
    await addChain(engineer, id, {
      name,
      items: '',
      priceCents: null,
      shape: {
        kind: 'variant',
        ofChainId: first,
        takeId: take ? (own[take - 1]?.id ?? null) : null,
        stages: stages.map((stage) => stageSettings.parse(stage)),
      },
    });
  }
  await matched(engineer, id, passageS, {
    method: 'loudness',
    referenceChainId: first,
    contexts: [{ kind: 'raw' }],
  });
}
