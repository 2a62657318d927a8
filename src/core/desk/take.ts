import type { LoopDocument } from '@/core/documents';
import { nameKey } from '@/core/language';
import type { Plan } from '@/core/plan';
import type { HandEvent } from '@/core/simulate';
import type { Column, Trace } from '@/core/trace';
import { figure } from '@/core/wording';

/** Who takes part in a take: people, a component that is sampled (a controller), or one that is not (plant). */
export interface Party {
  readonly name: string;
  readonly kind: 'people' | 'controller' | 'plant';
}

/** A state of a party, from when to when (s). */
export interface TakeState {
  readonly party: string;
  /** The region it is a state of. */
  readonly region: string;
  readonly state: string;
  readonly from: number;
  readonly until: number;
}

/** Something that went from one party to another: a value set, an output that changed, a message. */
export interface TakeArrow {
  readonly at: number;
  readonly from: string;
  readonly to: string;
  readonly what: string;
  readonly kind: 'set' | 'change' | 'message';
}

/** A session at the desk as bands in time with arrows between them. */
export interface Take {
  readonly until: number;
  readonly parties: readonly Party[];
  readonly states: readonly TakeState[];
  readonly arrows: readonly TakeArrow[];
  /** Arrows that were left out because there were too many. */
  readonly leftOut: number;
}

const mostArrows = 400;
const people = 'people';

/**
 * What happened in a session: who did what, in order. Drawn from the trace, so that it says what the run did and not what was meant.
 * @param events what people did, in order of time
 */
export function takeOf(trace: Trace, plan: Plan, loop: LoopDocument, events: readonly HandEvent[]): Take {
  const until = trace.until;
  const past = events.filter((event) => event.atNs / 1e9 <= until);
  const arrows = [...past.flatMap((event) => arrowsOf(event, plan, loop)), ...changesIn(trace, loop), ...messagesIn(trace, plan, past)];
  // What happens at one instant begins with people, then goes as values go.
  const rank = (arrow: TakeArrow): number => (arrow.from === people ? 0 : 1);
  arrows.sort((a, b) => a.at - b.at || rank(a) - rank(b));
  const states = statesIn(trace, plan, until);
  const sampled = new Set(plan.tasks.map((task) => nameKey(task.component.split('.')[0] ?? '')));
  const seen = new Set([...arrows.flatMap((arrow) => [arrow.from, arrow.to]), ...states.map((state) => state.party)]);
  const parties = [...(seen.has(people) ? [people] : []), ...Object.keys(loop.raw.components).filter((name) => seen.has(name))].map(
    (name): Party => ({ name, kind: name === people ? 'people' : sampled.has(nameKey(name)) ? 'controller' : 'plant' }),
  );
  const order = { people: 0, controller: 1, plant: 2 } as const;
  parties.sort((a, b) => order[a.kind] - order[b.kind]);
  return { until, parties, states, arrows: arrows.slice(0, mostArrows), leftOut: Math.max(0, arrows.length - mostArrows) };
}

function instanceOf(name: string): string {
  return name.split('.')[0] ?? '';
}

function arrowsOf(event: HandEvent, plan: Plan, loop: LoopDocument): TakeArrow[] {
  const at = event.atNs / 1e9;
  if (event.k === 'set') {
    const input = plan.inputs[event.input];
    if (!input) return [];
    const to = receivers(loop.raw.inputs?.[input.name]?.to ?? []);
    return to.map((one) => ({ at, from: people, to: one, what: `${input.name} := ${valueWords(event.value, plan, input.slot)}`, kind: 'set' }));
  }
  if (event.k === 'send') {
    const message = plan.messages[event.message];
    return message ? [{ at, from: people, to: instanceOf(message.name), what: lastPart(message.name), kind: 'message' }] : [];
  }
  const slot = plan.slots[event.slot];
  return slot
    ? [{ at, from: people, to: instanceOf(slot.name), what: `${lastPart(slot.name)} := ${valueWords(event.value, plan, event.slot)}`, kind: 'set' }]
    : [];
}

function valueWords(value: number, plan: Plan, slot: number): string {
  const info = plan.slots[slot];
  if (info?.type === 'BOOL') return value === 0 ? 'FALSE' : 'TRUE';
  return info?.enumeration?.values[value] ?? `${figure(value)} ${info?.unit ?? ''}`.trim();
}

function receivers(to: string | readonly string[]): string[] {
  return [...new Set((typeof to === 'string' ? [to] : to).map(instanceOf))];
}

function lastPart(name: string): string {
  return name.slice(name.lastIndexOf('.') + 1);
}

/** Truths and whole values that one component hands to another, each time they change; what is continuous has no such instants. */
function changesIn(trace: Trace, loop: LoopDocument): TakeArrow[] {
  const columns = new Map(trace.columns.map((column) => [nameKey(column.name), column]));
  return (loop.raw.wires ?? []).flatMap(({ from, to }) => {
    const column = columns.get(nameKey(from));
    if (!column || column.type === 'LREAL' || column.type === 'REAL') return [];
    const targets = receivers(to).filter((one) => one !== instanceOf(from));
    return changesOf(column, trace.bases[column.base] ?? new Float64Array()).flatMap(({ at, value }) =>
      targets.map(
        (one): TakeArrow => ({ at, from: instanceOf(from), to: one, what: `${lastPart(from)} := ${wordsOf(column, value)}`, kind: 'change' }),
      ),
    );
  });
}

function wordsOf(column: Column, value: number): string {
  if (column.type === 'BOOL') return value === 0 ? 'FALSE' : 'TRUE';
  return column.labels?.[value] ?? String(value);
}

function changesOf(column: Column, time: Float64Array): { at: number; value: number }[] {
  const found: { at: number; value: number }[] = [];
  for (let row = 1; row < time.length; row += 1) {
    const value = column.data[row] as number;
    if (value !== column.data[row - 1]) found.push({ at: time[row] as number, value });
  }
  return found;
}

/** Messages among components, as the trace has marked them; those that people sent are arrows of theirs. */
function messagesIn(trace: Trace, plan: Plan, events: readonly HandEvent[]): TakeArrow[] {
  const names = new Map(plan.messages.map((message) => [message.mark, message.name]));
  const sent = new Set(events.flatMap((event) => (event.k === 'send' ? [`${event.atNs / 1e9} ${plan.messages[event.message]?.mark ?? 0}`] : [])));
  const { time, mark } = trace.marks;
  return Array.from(time, (at, index) => ({ at, mark: mark[index] as number })).flatMap((one): TakeArrow[] => {
    const name = names.get(one.mark);
    if (name === undefined || sent.has(`${one.at} ${one.mark}`)) return [];
    return [{ at: one.at, from: instanceOf(name), to: instanceOf(name), what: lastPart(name), kind: 'message' }];
  });
}

function statesIn(trace: Trace, plan: Plan, until: number): TakeState[] {
  return plan.regions.flatMap((region) => {
    const column = trace.columns.find((one) => one.slot === region.slot);
    const time = column && trace.bases[column.base];
    if (!column || !time || time.length === 0) return [];
    const changes = [{ at: time[0] as number, value: column.data[0] as number }, ...changesOf(column, time)];
    return changes.flatMap(({ at, value }, index): TakeState[] => {
      const state = region.states[value - 1]?.name;
      return state === undefined
        ? []
        : [{ party: instanceOf(region.name), region: region.name, state, from: at, until: changes[index + 1]?.at ?? until }];
    });
  });
}
