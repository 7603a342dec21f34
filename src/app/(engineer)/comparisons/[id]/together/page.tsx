import { z } from 'zod';
import { type ComparisonParams, readPage } from '@/platform/page';
import { overviewOf } from '@/steps/overview/service';
import { ComparisonFrame } from '@/steps/overview/ui/ComparisonFrame';
import { togetherOf } from '@/steps/results/together';
import { TogetherScreen } from '@/steps/results/ui/TogetherScreen';

type Props = ComparisonParams & { searchParams: Promise<{ reading?: string }> };

export default async function Page(props: Props) {
  const wanted = z.uuid().safeParse((await props.searchParams).reading);
  const { name, seen, overview, view } = await readPage(props, async (engineer, id) => ({
    overview: await overviewOf(engineer, id),
    view: await togetherOf(engineer, id, wanted.success ? wanted.data : null),
  }));
  return (
    <ComparisonFrame name={name} seen={seen} overview={overview} step="results">
      <TogetherScreen view={view} />
    </ComparisonFrame>
  );
}
