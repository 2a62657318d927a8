import { criterionSlots } from '@/core/criteria';
import { nameKey } from '@/core/language';
import { conditionsIn, type FreeInput, type Plan, type TransitionInfo } from '@/core/plan';
import { type CheckedCase, type CheckedProject, orderRun } from '@/core/project';
import type { Showing } from './goals';
import type { Movable } from './moves';

/** A transition with the free inputs that its guard names as truths, and what it asks of them. */
export interface WantedTransition {
  /** As its goal has it. */
  readonly id: string;
  readonly source: string;
  readonly mark: number;
  readonly inputs: readonly { readonly name: string; readonly value: boolean }[];
  /** How often it was tried. */
  tried: number;
}

/** Transitions whose guards name free inputs as truths. */
export function wantedTransitions(plan: Plan): WantedTransition[] {
  const inputs = new Map(plan.inputs.map((input) => [input.slot, input]));
  return plan.transitions.flatMap((info): WantedTransition[] => {
    const mark = plan.regions
      .flatMap(({ name, states }) => states.map((state) => ({ full: `${name}.${state.name}`, mark: state.mark })))
      .find(({ full }) => full === info.source)?.mark;
    const asked = mark === undefined ? [] : askedOf(plan, info, inputs);
    return asked.length === 0 || mark === undefined
      ? []
      : [{ id: `${info.source} to ${info.to || 'itself'} when`, source: info.source, mark, inputs: asked, tried: 0 }];
  });
}

function askedOf(plan: Plan, info: TransitionInfo, inputs: ReadonlyMap<number, FreeInput>): WantedTransition['inputs'] {
  const guard = plan.decisions.find(
    ({ kind, transition }) => kind === 'guard' && transition?.choice === info.choice && transition.number === info.number,
  );
  return (guard ? conditionsIn(guard.tree) : []).flatMap(({ node }) => {
    const input = node.k === 'slot' && node.type === 'BOOL' ? inputs.get(node.slot) : undefined;
    return input ? [{ name: input.name, value: true }] : [];
  });
}

/** Stretches in which a state is active (ns). */
export function whenActive({ outcome: { trace } }: Showing, mark: number, stopNs: number): (readonly [number, number])[] {
  const { time, mark: marks, entered } = trace.marks;
  const spans: [number, number][] = [];
  marks.forEach((one, index) => {
    if (one !== mark) return;
    const ns = Math.round((time[index] as number) * 1e9);
    if (entered[index] === 1) spans.push([ns, stopNs]);
    else if (spans.length > 0) (spans[spans.length - 1] as [number, number])[1] = ns;
  });
  return spans;
}

/** The free inputs that each accepted criterion names, by requirement and criterion. */
export function inputsNamed(project: CheckedProject, template: CheckedCase, movables: readonly Movable[]): ReadonlyMap<string, readonly Movable[]> {
  const { plan } = template.experiment;
  return new Map(
    orderRun(project, template).watched.flatMap(({ requirement, name, criterion }) => {
      const slots = new Set(criterionSlots(criterion));
      const names = new Set(plan.inputs.filter(({ slot }) => slots.has(slot)).map((one) => nameKey(one.name)));
      const own = movables.filter((one) => names.has(nameKey(one.name)));
      return own.length > 0 ? [[`${requirement} ${name}`, own] as const] : [];
    }),
  );
}
