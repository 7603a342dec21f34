import type { Metadata } from 'next';
import { connection } from 'next/server';
import { nullWhenMissing } from '@/platform/errors';
import { languageAsked } from '@/platform/language/asked';
import { traineeByLink, trainingOf } from '@/steps/ears/service';
import { NoTraining } from '@/steps/ears/ui/train/NoTraining';
import { TrainApp } from '@/steps/ears/ui/train/TrainApp';
import { linkToken } from '@/steps/listening/schema';
import { Told } from '@/ui/language/Told';

export const metadata: Metadata = { title: 'Zeitbank training' };

/** Training of somebody of the panel. */
export default async function TrainByLinkPage({ params }: { params: Promise<{ token: string }> }) {
  await connection();
  const token = linkToken.safeParse((await params).token);
  const view = token.success
    ? await traineeByLink(token.data)
        .then((trainee) => trainingOf(trainee, token.data))
        .catch(nullWhenMissing)
    : null;
  return (
    <Told language={await languageAsked()} parts={['listening', 'training']}>
      {token.success && view ? <TrainApp token={token.data} initial={view} /> : <NoTraining />}
    </Told>
  );
}
