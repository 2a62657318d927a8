import { stringify } from 'yaml';
import { authoredValue } from '@/core/formula';
import { groupTasks, type Plan } from '@/core/plan';
import type { Scalar } from '@/core/shapes';
import type { HandEvent } from '@/core/simulate';
import type { Take } from './take';

/** What a take becomes: the text of a case, and what could not be taken over. */
export interface TakenCase {
  readonly text: string;
  readonly notes: readonly string[];
}

export interface CaseHeading {
  readonly name: string;
  readonly about?: string;
  readonly loop: string;
  readonly variant?: string;
  /** Parameters and start values the session began with, by name. */
  readonly parameters?: Readonly<Record<string, number | boolean | string>>;
  readonly initial?: Readonly<Record<string, number | boolean | string>>;
  readonly meantFor?: readonly string[];
  readonly seed?: number;
}

type Step =
  | { readonly set: Record<string, Scalar> }
  | { readonly send: string; readonly value?: number }
  | { readonly hold: string }
  | { readonly wait: { readonly until: string; readonly give_up_after: string } };

/** A wait of a case gives up after so many times as long as it took at the desk, and not before ten seconds. */
const patience = 5;
const leastPatienceNs = 10e9;

/**
 * Turns a session into a case. Only what came from outside is sent again; what people waited for becomes `wait until STATE`, with the rest of the time held after it, so that a controller that is
 * quicker or slower still gets each action in the state in which it was meant. On the same loop each action falls on the same instant as at the desk.
 * @param by `time` for the very instants instead
 */
export function caseOf(take: Take, plan: Plan, events: readonly HandEvent[], heading: CaseHeading, by: 'state' | 'time' = 'state'): TakenCase {
  const past = events.filter((event) => event.atNs / 1e9 <= take.until);
  const parameters: Record<string, number | boolean | string> = { ...heading.parameters };
  const notes: string[] = [];
  for (const event of past) {
    if (event.k !== 'tune') continue;
    const name = plan.slots[event.slot]?.name ?? '';
    if (event.atNs === 0) parameters[name] = typed(plan, event.slot, event.value);
    else
      notes.push(`${name} was changed at ${event.atNs / 1e9} s while running; a case keeps its parameters, so this one has the value of the start.`);
  }
  const acts = past.filter((event) => event.k !== 'tune');
  const document = {
    case: heading.name,
    ...(heading.about ? { about: heading.about } : {}),
    loop: heading.loop,
    ...(heading.variant ? { variant: heading.variant } : {}),
    stop: seconds(Math.round(take.until * 1e9)),
    ...(heading.seed ? { seed: heading.seed } : {}),
    ...(Object.keys(parameters).length > 0 ? { parameters } : {}),
    ...(heading.initial && Object.keys(heading.initial).length > 0 ? { initial: heading.initial } : {}),
    script: scriptOf(acts, take, plan, by),
    ...(heading.meantFor && heading.meantFor.length > 0 ? { meant_for: heading.meantFor } : {}),
  };
  return { text: stringify(document, { lineWidth: 0 }), notes };
}

function scriptOf(events: readonly HandEvent[], take: Take, plan: Plan, by: 'state' | 'time'): Step[] {
  const steps: Step[] = [];
  let nowNs = 0;
  for (const event of events) {
    if (event.atNs > nowNs) {
      const reached = by === 'state' ? lastReached(take, plan, nowNs, event.atNs) : undefined;
      if (reached) {
        const patient = Math.max(leastPatienceNs, patience * (reached.seenNs - nowNs));
        steps.push({ wait: { until: reached.state, give_up_after: seconds(Math.ceil(patient / 1e9) * 1e9) } });
      }
      const rest = event.atNs - (reached?.seenNs ?? nowNs);
      if (rest > 0) steps.push({ hold: seconds(rest) });
      nowNs = event.atNs;
    }
    if (event.k === 'send') {
      const message = plan.messages[event.message];
      if (message) steps.push({ send: message.name, ...(event.value === 0 ? {} : { value: event.value }) });
    } else if (event.k === 'set') {
      const input = plan.inputs[event.input];
      if (!input) continue;
      const value = typed(plan, input.slot, event.value);
      const before = steps.at(-1);
      if (before && 'set' in before) before.set[input.name] = value;
      else steps.push({ set: { [input.name]: value } });
    }
  }
  return steps;
}

/**
 * The state that was reached last between two actions, and when a script sees it: at the first hit after the one that entered it. A state that was entered more than once in between,
 * or was active when the wait begins, is no sign of anything.
 */
function lastReached(take: Take, plan: Plan, fromNs: number, untilNs: number): { state: string; seenNs: number } | undefined {
  const entered = take.states
    .map((one) => ({ ...one, name: `${one.region}.${one.state}`, fromNs: Math.round(one.from * 1e9), untilNs: Math.round(one.until * 1e9) }))
    .filter((one) => one.untilNs > fromNs && one.fromNs < untilNs);
  const candidates = entered.filter((one) => one.fromNs > fromNs && entered.filter((other) => other.name === one.name).length === 1);
  const seen = candidates.map((one) => ({ state: one.name, seenNs: nextHit(plan, one.fromNs), untilNs: one.untilNs }));
  return seen
    .filter((one) => one.seenNs <= untilNs && one.seenNs < one.untilNs)
    .reduce<(typeof seen)[number] | undefined>((best, one) => (best && best.seenNs >= one.seenNs ? best : one), undefined);
}

function nextHit(plan: Plan, ns: number): number {
  return Math.min(...groupTasks(plan).map(({ periodNs, offsetNs }) => offsetNs + (Math.floor((ns - offsetNs) / periodNs) + 1) * periodNs));
}

function typed(plan: Plan, slot: number, value: number): Scalar {
  const info = plan.slots[slot];
  return info ? authoredValue(value, info) : value;
}

function seconds(ns: number): string {
  return `${ns / 1e9} s`;
}
