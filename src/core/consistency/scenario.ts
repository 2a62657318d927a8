import { type Criterion, judge, type Outcome, signalsOf } from '@/core/criteria';
import type { CatalogueEntry } from '@/core/loop';
import type { Column, Trace } from '@/core/trace';

/** Signals over the instants of a question, each held to the next: a small scenario on lanes. The trigger lies at 0 s; the last instant is the end. */
export interface Scenario {
  readonly times: readonly number[];
  readonly lanes: readonly {
    readonly name: string;
    readonly unit: string;
    readonly type: string;
    readonly labels?: readonly string[];
    readonly values: readonly number[];
  }[];
}

/** The scenario as a trace of held signals. @param slots of the lanes, in their order; 0, 1, … unless given */
export function scenarioTrace({ times, lanes }: Scenario, slots?: readonly number[]): Trace {
  const columns = lanes.map(
    ({ name, unit, type, labels, values }, index): Column => ({
      name,
      unit,
      slot: slots?.[index] ?? index,
      base: 0,
      between: 'held',
      type: type as Column['type'],
      ...(labels ? { labels } : {}),
      data: Float64Array.from(values),
    }),
  );
  const marks = { time: new Float64Array(), mark: new Int32Array(), entered: new Uint8Array() };
  return { bases: [Float64Array.from(times)], columns, marks, from: times[0] ?? 0, until: times.at(-1) ?? 0 };
}

/** The scenario with its last values held until every deadline of the criteria has passed, so that what it claims can be seen in it. */
export function lasting(scenario: Scenario, criteria: readonly Criterion[]): Scenario {
  const { times, lanes } = scenario;
  const last = Math.max(times.at(-1) ?? 0, ...criteria.map(horizonOf));
  const end = last + Math.max(0.2, (last - (times[0] ?? 0)) / 8);
  return { times: [...times, end], lanes: lanes.map((lane) => ({ ...lane, values: [...lane.values, lane.values.at(-1) ?? 0] })) };
}

/** So long after its trigger (s) an obligation is decided, if it ever is. */
function horizonOf({ pattern }: Criterion): number {
  if (pattern.k !== 'when' || pattern.timing.k === 'at once') return 0;
  const { timing } = pattern;
  return (timing.seconds ?? 0) + (timing.k === 'within for' ? timing.lasting : 0);
}

/** How a criterion that is triggered at 0 s comes out in a scenario, by the judge of all runs; nothing where it owes nothing there. */
export function outcomeIn(scenario: Scenario, entries: readonly CatalogueEntry[], criterion: Criterion): Outcome | undefined {
  const slots = entries.map((entry) => entry.slot);
  const trace = scenarioTrace(scenario, slots);
  const { obligations } = judge(criterion, signalsOf(trace));
  // An invariant and a stretch of `while` are owed around the trigger, what follows an event from the trigger on.
  return obligations.find(({ from, until }) => from === 0 || (criterion.pattern.k !== 'when' && from <= 0 && until > 0))?.outcome;
}
