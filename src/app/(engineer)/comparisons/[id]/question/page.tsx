import { type ComparisonParams, readPage } from '@/platform/page';
import { chainsOf } from '@/steps/chains/service';
import { sourcesSeen } from '@/steps/comparisons/service';
import { QuestionScreen } from '@/steps/comparisons/ui/QuestionScreen';
import { overviewOf } from '@/steps/overview/service';
import { ComparisonFrame } from '@/steps/overview/ui/ComparisonFrame';

export default async function Page(props: ComparisonParams) {
  const { name, seen, overview, chains, sources } = await readPage(props, async (engineer, id) => ({
    overview: await overviewOf(engineer, id),
    chains: await chainsOf(engineer, id),
    sources: await sourcesSeen(engineer, id),
  }));
  return (
    <ComparisonFrame name={name} seen={seen} overview={overview} step="question">
      <QuestionScreen
        comparison={overview.comparison}
        sources={sources}
        chains={chains.map((chain) => ({ id: chain.id, name: chain.name }))}
      />
    </ComparisonFrame>
  );
}
