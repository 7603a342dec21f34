import { redirect } from 'next/navigation';
import { type ComparisonParams, readPage } from '@/platform/page';
import { overviewOf } from '@/steps/overview/service';

/** A comparison opens at the step that is next. */
export default async function ComparisonPage(props: ComparisonParams) {
  const { comparison, next } = await readPage(props, overviewOf);
  redirect(`/comparisons/${comparison.id}/${next.step}`);
}
