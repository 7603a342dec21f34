import { type ComparisonParams, readPage } from '@/platform/page';
import { chainPlan } from '@/steps/chains/service';
import { CautionNotes } from '@/steps/chains/ui/CautionNotes';
import { ChainsScreen } from '@/steps/chains/ui/ChainsScreen';
import { overviewOf } from '@/steps/overview/service';
import { ComparisonFrame } from '@/steps/overview/ui/ComparisonFrame';

export default async function Page(props: ComparisonParams) {
  const { name, seen, overview, view } = await readPage(props, async (engineer, id) => ({
    overview: await overviewOf(engineer, id),
    view: await chainPlan(engineer, id),
  }));
  const { id } = overview.comparison;
  return (
    <ComparisonFrame
      name={name}
      seen={seen}
      overview={overview}
      step="chains"
      remarks={<CautionNotes comparisonId={id} cautions={view.cautions} />}
    >
      <ChainsScreen comparisonId={id} view={view} />
    </ComparisonFrame>
  );
}
