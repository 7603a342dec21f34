import { z } from 'zod';
import { failureResponse } from '@/platform/route';
import { live, type LiveEvent } from '@/platform/live';
import { openStreams } from '@/platform/open-streams';
import { requireEngineer } from '@/platform/sign-in/session';
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
    const encoder = new TextEncoder();
    let end = () => {};
    const stream = new ReadableStream<Uint8Array>({
      start(controller) {
        const write = (text: string) => controller.enqueue(encoder.encode(text));
        const tell = ({ kind }: LiveEvent) => write(`event: ${kind}\ndata: {}\n\n`);
        const unsubscribe = live().subscribe(id, seen, tell);
        const heartbeat = setInterval(() => write(': \n\n'), HEARTBEAT_MS);
        end = () => {
          clearInterval(heartbeat);
          unsubscribe();
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
