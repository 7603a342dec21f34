import type { Metadata } from 'next';
import { connection } from 'next/server';
import { nullWhenMissing } from '@/platform/errors';
import { traineeByLink, trainingOf } from '@/steps/ears/service';
import { TrainApp } from '@/steps/ears/ui/train/TrainApp';
import { linkToken } from '@/steps/listening/schema';
import { Message } from '@/steps/listening/ui/Message';
import { InEnglish } from '@/ui/language/InEnglish';

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
  if (!token.success || !view) {
    return (
      <InEnglish>
        <Message title="This link leads to no training" brand="Zeitbank training">
          Perhaps a letter is missing at its end, or it ended. Ask the engineer to send another.
        </Message>
      </InEnglish>
    );
  }
  return (
    <InEnglish>
      <TrainApp token={token.data} initial={view} />
    </InEnglish>
  );
}
