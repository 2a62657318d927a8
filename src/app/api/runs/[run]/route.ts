import { database } from '@/server/database';
import { readRunOrder } from '@/server/evidence';
import { answer, refuse, send } from '../../answer';

/** What the browser needs to make a run again. */
export async function GET(_: Request, { params }: { params: Promise<{ run: string }> }): Promise<Response> {
  return answer(async () => {
    const { run } = await params;
    const order = await readRunOrder(database(), /^\d{1,9}$/.test(run) ? Number(run) : 0);
    if (typeof order === 'string') return refuse(409, order);
    return order ? send(order) : refuse(404, 'There is no such run.');
  });
}
