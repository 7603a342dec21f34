import { type ComparisonParams, readPage } from '@/platform/page';
import { chainsOf } from '@/steps/chains/service';
import { sourcesSeen } from '@/steps/comparisons/service';
import { QuestionScreen } from '@/steps/comparisons/ui/QuestionScreen';
import { overviewOf } from '@/steps/overview/service';
import { ComparisonFrame } from '@/steps/overview/ui/ComparisonFrame';
import { sealedQuestionsOf } from '@/steps/sitting/service';
import { SealedQuestions } from '@/steps/sitting/ui/SealedQuestions';

export default async function Page(props: ComparisonParams) {
  const { name, seen, overview, chains, sources, sealed } = await readPage(
    props,
    async (engineer, id) => ({
      overview: await overviewOf(engineer, id),
      chains: await chainsOf(engineer, id),
      sources: await sourcesSeen(engineer, id),
      sealed: await sealedQuestionsOf(engineer, id),
    }),
  );
  return (
    <ComparisonFrame name={name} seen={seen} overview={overview} step="question">
      <QuestionScreen
        comparison={overview.comparison}
        sources={sources}
        chains={chains.map((chain) => ({ id: chain.id, name: chain.name }))}
        locked={sealed.some(({ open }) => open)}
        sealed={<SealedQuestions sealed={sealed} chains={chains} />}
      />
    </ComparisonFrame>
  );
}
