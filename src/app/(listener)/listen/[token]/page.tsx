import { connection } from 'next/server';
import { nullWhenMissing } from '@/platform/errors';
import { linkToken } from '@/steps/listening/schema';
import { readSeat } from '@/steps/listening/seat-cookie';
import { viewFor } from '@/steps/listening/service';
import { ListeningApp } from '@/steps/listening/ui/ListeningApp';
import { NoSitting } from '@/steps/listening/ui/Message';

/** The one page of a listener. */
export default async function ListenPage({ params }: { params: Promise<{ token: string }> }) {
  await connection();
  const token = linkToken.safeParse((await params).token);
  const view = token.success
    ? await readSeat(token.data)
        .then((seat) => viewFor(token.data, seat))
        .catch(nullWhenMissing)
    : null;
  if (!token.success || !view) {
    return <NoSitting />;
  }
  return <ListeningApp token={token.data} initial={view} />;
}
