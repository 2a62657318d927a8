import Joi from 'joi';
import { byKey, channelFaultShape, object, type RawChannelFault, required, type Shape } from '@/core/shapes';
import { checkBench, holderOf, type LiveAct, liveSession, startLive } from '@/server/bench';
import { database } from '@/server/database';
import { liveOrderOf } from '@/server/evidence';
import { findProject } from '@/server/projects';
import { answer, readBody, refuse, send } from '../../../answer';

type Params = { readonly params: Promise<{ project: string }> };

/** What is asked of a bench, by its key. */
interface Asks {
  readonly start: { readonly bench: string; readonly start: true; readonly from?: string; readonly shadow?: string };
  readonly stop: { readonly bench: string; readonly stop: true };
  readonly check: { readonly bench: string; readonly check: true };
  readonly set: { readonly bench: string; readonly set: string; readonly value: number };
  readonly tune: { readonly bench: string; readonly tune: string; readonly value: number };
  /** A parameter, or all of them. */
  readonly back: { readonly bench: string; readonly back: string | true };
  readonly fault: { readonly bench: string; readonly fault: RawChannelFault };
  readonly sound: { readonly bench: string; readonly sound: true };
  readonly begin: { readonly bench: string; readonly begin: true };
}

const name: Shape<string> = { joi: Joi.string().max(400) };
const value: Shape<number> = { joi: Joi.number() };
const yes: Shape<true> = { joi: Joi.valid(true) };
const bench = required(name);
const shape = byKey<Asks>(
  {
    start: object<Asks['start']>({ bench, start: required(yes), from: name, shadow: name }),
    stop: object<Asks['stop']>({ bench, stop: required(yes) }),
    check: object<Asks['check']>({ bench, check: required(yes) }),
    set: object<Asks['set']>({ bench, set: required(name), value: required(value) }),
    tune: object<Asks['tune']>({ bench, tune: required(name), value: required(value) }),
    back: object<Asks['back']>({ bench, back: required({ joi: Joi.alternatives(Joi.string().max(400), Joi.valid(true)) }) }),
    fault: object<Asks['fault']>({ bench, fault: required(channelFaultShape) }),
    sound: object<Asks['sound']>({ bench, sound: required(yes) }),
    begin: object<Asks['begin']>({ bench, begin: required(yes) }),
  },
  'must say what is to be done at the bench',
);

/** How a bench stands that is run by hand, with what it has told since a moment. */
export async function GET(request: Request, { params }: Params): Promise<Response> {
  return answer(async () => {
    const asked = new URL(request.url).searchParams;
    const session = liveSession(keyOf((await params).project, asked.get('bench') ?? ''));
    const holder = session ? undefined : holderOf(asked.get('controller') ?? '');
    if (!session) return send({ state: 'idle', ...(holder ? { holder: { what: holder.what } } : {}) });
    const { inputs, parameters, watched, shadow } = session.of;
    const beside = shadow ? { shadowed: { loop: shadow.loop, signals: shadow.order.signals } } : {};
    return send({ ...session.status(Number(asked.get('since') ?? 0) || 0), inputs, parameters, watched, ...beside });
  });
}

/** Something is done at a bench. */
export async function POST(request: Request, { params }: Params): Promise<Response> {
  return answer(async () => {
    const body = await readBody(request, shape);
    if (body instanceof Response) return body;
    const head = await findProject(database(), (await params).project);
    if (!head) return refuse(404, 'There is no such project.');
    const key = keyOf(head.slug, body.bench);
    if ('start' in body) {
      const order = await liveOrderOf(database(), head, body.bench, {
        ...(body.from === undefined ? {} : { startFrom: body.from }),
        ...(body.shadow === undefined ? {} : { shadow: body.shadow }),
      });
      const problem = typeof order === 'string' ? order : startLive(key, order, `somebody who runs ${body.bench} by hand`);
      return problem === undefined ? send({}, 201) : refuse(409, problem);
    }
    if ('check' in body) {
      const order = await liveOrderOf(database(), head, body.bench);
      const found = typeof order === 'string' ? order : await checkBench(order.order);
      return typeof found === 'string' ? refuse(409, found) : send({ channels: found });
    }
    const session = liveSession(key);
    if (!session) return refuse(409, 'The bench does not run.');
    if ('stop' in body) {
      session.end('it was stopped');
      await session.ended;
      return send({});
    }
    const problem = session.act(actOf(body));
    return problem === undefined ? send({}) : refuse(409, problem);
  });
}

function actOf(body: Exclude<Asks[keyof Asks], Asks['start' | 'stop' | 'check']>): LiveAct {
  if ('set' in body) return { do: 'set', name: body.set, value: body.value };
  if ('tune' in body) return { do: 'tune', name: body.tune, value: body.value };
  if ('back' in body) return body.back === true ? { do: 'back' } : { do: 'back', name: body.back };
  if ('fault' in body) return { do: 'fault', fault: body.fault };
  return 'sound' in body ? { do: 'sound' } : { do: 'begin anew' };
}

function keyOf(project: string, benchName: string): string {
  return JSON.stringify([project, benchName.toLowerCase()]);
}
