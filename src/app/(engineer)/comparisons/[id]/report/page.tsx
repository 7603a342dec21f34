import { notFound } from 'next/navigation';
import { z } from 'zod';
import { type ComparisonParams, readPage } from '@/platform/page';
import { canPrint } from '@/platform/print';
import { decidedOn } from '@/steps/decision/service';
import { DecisionPage } from '@/steps/decision/ui/DecisionPage';
import { resultsOf } from '@/steps/results/service';
import { ReportScreen } from '@/steps/results/ui/ReportScreen';

type Props = ComparisonParams & { searchParams: Promise<{ sitting?: string }> };

/** One closed sitting as a document to print or send, without the book around it. */
export default async function Page(props: Props) {
  const wanted = z.uuid().safeParse((await props.searchParams).sitting);
  const { view, decided } = await readPage(
    props,
    async (engineer, id) => {
      const read = await resultsOf(engineer, id, wanted.success ? wanted.data : null);
      return {
        view: read,
        decided: read.result && (await decidedOn(engineer, id, read.result.seal)),
      };
    },
    'read',
  );
  const { comparison, result } = view;
  if (!result?.parts || !result.across) notFound();
  const { parts, across } = result;
  const decision = decided && <DecisionPage comparisonId={comparison.id} version={decided} />;
  const printable = canPrint();
  return <ReportScreen {...{ comparison, result, parts, across, decision, printable }} />;
}
