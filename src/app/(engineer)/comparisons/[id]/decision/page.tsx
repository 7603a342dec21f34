import { z } from 'zod';
import { type ComparisonParams, readPage } from '@/platform/page';
import { decisionOf } from '@/steps/decision/service';
import { DecisionRemarks } from '@/steps/decision/ui/DecisionRemarks';
import { DecisionScreen } from '@/steps/decision/ui/DecisionScreen';
import { overviewOf } from '@/steps/overview/service';
import { ComparisonFrame } from '@/steps/overview/ui/ComparisonFrame';

type Props = ComparisonParams & { searchParams: Promise<{ sitting?: string }> };

export default async function Page(props: Props) {
  const wanted = z.uuid().safeParse((await props.searchParams).sitting);
  const { name, seen, overview, view } = await readPage(props, async (engineer, id) => ({
    overview: await overviewOf(engineer, id),
    view: await decisionOf(engineer, id, wanted.success ? wanted.data : null),
  }));
  return (
    <ComparisonFrame
      name={name}
      seen={seen}
      overview={overview}
      step="decision"
      remarks={<DecisionRemarks view={view} />}
    >
      <DecisionScreen view={view} name={name} />
    </ComparisonFrame>
  );
}
