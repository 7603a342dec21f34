import { connection } from 'next/server';
import { UserError } from '@/platform/errors';
import { linkToken } from '@/steps/listening/schema';
import { readSeat } from '@/steps/listening/seat-cookie';
import { viewFor } from '@/steps/listening/service';
import { ListeningApp } from '@/steps/listening/ui/ListeningApp';
import { Message } from '@/steps/listening/ui/Message';

/** The one page of a listener. */
export default async function ListenPage({ params }: { params: Promise<{ token: string }> }) {
  await connection();
  const token = linkToken.safeParse((await params).token);
  const view = token.success
    ? await readSeat(token.data)
        .then((seat) => viewFor(token.data, seat))
        .catch((error: unknown) => {
          if (error instanceof UserError && error.status === 404) return null;
          throw error;
        })
    : null;
  if (!token.success || !view) {
    return (
      <Message title="This link leads to no sitting">
        Perhaps a letter is missing at its end. Ask the engineer to send it again.
      </Message>
    );
  }
  return <ListeningApp token={token.data} initial={view} />;
}
