import { encode } from '@/core/exchange';
import { campaignProgress, newestCampaign } from '@/server/campaigns';
import { database } from '@/server/database';
import { onProgress } from '@/server/events';
import { log } from '@/server/log';
import { findProject } from '@/server/projects';
import { answer, refuse } from '../../../answer';
import { numberIn } from '../../../numberIn';

/** Least time between two messages; many runs may finish within it. */
const spacingMs = 150;

/** Server-sent events: the progress of the newest campaign, or of the one that is named (`?campaign=`), now and whenever it moves on. */
export async function GET(request: Request, { params }: { params: Promise<{ project: string }> }): Promise<Response> {
  return answer(async () => {
    const head = await findProject(database(), (await params).project);
    if (!head) return refuse(404, 'There is no such project.');
    const named = numberIn(new URL(request.url).searchParams.get('campaign') ?? '');
    const read = () => (named === 0 ? newestCampaign(database(), head.id) : campaignProgress(database(), named));
    const encoder = new TextEncoder();
    let stop = (): void => undefined;
    const stream = new ReadableStream<Uint8Array>({
      start(controller) {
        let waiting: NodeJS.Timeout | undefined;
        const send = async (): Promise<void> => {
          waiting = undefined;
          try {
            controller.enqueue(encoder.encode(`data: ${encode((await read()) ?? null)}\n\n`));
          } catch (problem) {
            log.debug({ problem: String(problem) }, 'progress not sent');
          }
        };
        const off = onProgress(() => {
          waiting ??= setTimeout(() => void send(), spacingMs);
        });
        const beat = setInterval(() => {
          try {
            controller.enqueue(encoder.encode(': here\n\n'));
          } catch {
            stop();
          }
        }, 15_000);
        stop = () => {
          off();
          clearInterval(beat);
          clearTimeout(waiting);
        };
        void send();
      },
      cancel: () => stop(),
    });
    request.signal.addEventListener('abort', () => stop());
    return new Response(stream, { headers: { 'content-type': 'text/event-stream', 'cache-control': 'no-cache, no-transform' } });
  });
}
