import { z } from 'zod';
import { type ComparisonParams, readPage } from '@/platform/page';
import { overviewOf } from '@/steps/overview/service';
import { ComparisonFrame } from '@/steps/overview/ui/ComparisonFrame';
import { resultsOf } from '@/steps/results/service';
import { ResultRemarks } from '@/steps/results/ui/ResultRemarks';
import { ResultsScreen } from '@/steps/results/ui/ResultsScreen';

type Props = ComparisonParams & { searchParams: Promise<{ sitting?: string }> };

export default async function Page(props: Props) {
  const wanted = z.uuid().safeParse((await props.searchParams).sitting);
  const { name, seen, overview, view } = await readPage(props, async (engineer, id) => ({
    overview: await overviewOf(engineer, id),
    view: await resultsOf(engineer, id, wanted.success ? wanted.data : null),
  }));
  return (
    <ComparisonFrame
      name={name}
      seen={seen}
      overview={overview}
      step="results"
      remarks={view.result && <ResultRemarks view={view} result={view.result} />}
    >
      <ResultsScreen view={view} />
    </ComparisonFrame>
  );
}
