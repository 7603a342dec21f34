import { type Asked, type ComparisonParams, readPage } from '@/platform/page';
import { recordedChainsOf } from '@/steps/chains/service';
import { overviewOf } from '@/steps/overview/service';
import { ComparisonFrame } from '@/steps/overview/ui/ComparisonFrame';
import { guardedOf } from '@/steps/sitting/service';
import { takesQuery } from '@/steps/takes/schema';
import { takesViewOf } from '@/steps/takes/takes-view';
import { TakesScreen } from '@/steps/takes/ui/TakesScreen';

export default async function Page(props: ComparisonParams & Asked) {
  const query = takesQuery.parse(await props.searchParams);
  const { name, seen, overview, chains, view, guarded } = await readPage(
    props,
    async (engineer, id) => ({
      overview: await overviewOf(engineer, id),
      chains: await recordedChainsOf(engineer, id),
      view: await takesViewOf(engineer, id, query),
      guarded: await guardedOf(engineer, id),
    }),
  );
  return (
    <ComparisonFrame name={name} seen={seen} overview={overview} step="takes">
      <TakesScreen
        comparisonId={overview.comparison.id}
        chains={chains}
        view={view}
        guarded={guarded.takeIds}
        work={overview.work}
      />
    </ComparisonFrame>
  );
}
