import { type ComparisonParams, readPage } from '@/platform/page';
import { overviewOf } from '@/steps/overview/service';
import { ComparisonFrame } from '@/steps/overview/ui/ComparisonFrame';
import { runSheetOf } from '@/steps/takes/run-sheet';
import { RunSheetScreen } from '@/steps/takes/ui/RunSheetScreen';

export default async function Page(props: ComparisonParams) {
  const { name, seen, overview, view } = await readPage(props, async (engineer, id) => ({
    overview: await overviewOf(engineer, id),
    view: await runSheetOf(engineer, id),
  }));
  return (
    <ComparisonFrame name={name} seen={seen} overview={overview} step="takes">
      <RunSheetScreen comparisonId={overview.comparison.id} view={view} />
    </ComparisonFrame>
  );
}
