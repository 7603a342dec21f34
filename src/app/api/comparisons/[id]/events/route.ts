import { z } from 'zod';
import { failureResponse } from '@/platform/route';
import { live, type LiveEvent } from '@/platform/live';
import { openStreams } from '@/platform/open-streams';
import { currentSignIn, requireEngineer } from '@/platform/sign-in/session';
import { signedIn } from '@/platform/sign-in/service';
import { uuid } from '@/steps/comparisons/schema';
import { comparisonOf } from '@/steps/comparisons/service';

const HEARTBEAT_MS = 15_000;
const mark = z
  .string()
  .max(60)
  .nullish()
  .transform((text) => text ?? 'unknown');

/** Server-sent events: something of this comparison changed; the database is away, or back. */
export async function GET(request: Request, { params }: { params: Promise<{ id: string }> }) {
  try {
    const engineer = await requireEngineer();
    const { id } = await comparisonOf(engineer, uuid.parse((await params).id));
    const seen = mark.parse(new URL(request.url).searchParams.get('seen'));
    const signInId = await currentSignIn();
    const encoder = new TextEncoder();
    let end = () => {};
    const stream = new ReadableStream<Uint8Array>({
      start(controller) {
        const write = (text: string) => controller.enqueue(encoder.encode(text));
        const tell = ({ kind }: LiveEvent) => write(`event: ${kind}\ndata: {}\n\n`);
        const unsubscribe = live().subscribe(id, seen, tell);
        // Told when the person's access ends, and asked now and then: whoever is out hears nothing more.
        const stillIn = () =>
          void signedIn(signInId, new Date())
            .then((person) => person ?? end())
            .catch(() => undefined);
        const about = engineer.accountId;
        const unsubscribePerson = live().subscribe(about, live().mark(about), stillIn);
        const heartbeat = setInterval(() => {
          write(': \n\n');
          stillIn();
        }, HEARTBEAT_MS);
        end = () => {
          clearInterval(heartbeat);
          unsubscribe();
          unsubscribePerson();
          openStreams.delete(end);
          try {
            controller.close();
          } catch {
            // The reader closed it already.
          }
        };
        openStreams.add(end);
        request.signal.addEventListener('abort', end);
        write('retry: 1500\n\n');
      },
      cancel: () => end(),
    });
    return new Response(stream, {
      headers: { 'content-type': 'text/event-stream', 'cache-control': 'no-store' },
    });
  } catch (error) {
    return failureResponse(error);
  }
}
