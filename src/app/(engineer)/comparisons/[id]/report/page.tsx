import { notFound } from 'next/navigation';
import { z } from 'zod';
import { type ComparisonParams, readPage } from '@/platform/page';
import { resultsOf } from '@/steps/results/service';
import { ReportScreen } from '@/steps/results/ui/ReportScreen';

type Props = ComparisonParams & { searchParams: Promise<{ sitting?: string }> };

/** One closed sitting as a document to print or send, without the book around it. */
export default async function Page(props: Props) {
  const wanted = z.uuid().safeParse((await props.searchParams).sitting);
  const { view } = await readPage(props, async (engineer, id) => ({
    view: await resultsOf(engineer, id, wanted.success ? wanted.data : null),
  }));
  const { comparison, result } = view;
  if (!result?.parts || !result.across) notFound();
  const { parts, across } = result;
  return <ReportScreen {...{ comparison, result, parts, across }} />;
}
