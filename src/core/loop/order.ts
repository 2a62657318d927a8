import type { Place } from '@/core/fault';
import { nameKey } from '@/core/language';
import { type Assignment, slotsRead, slotsReadByWork, type Task } from '@/core/plan';
import type { Assembling } from './assembling';

/** The continuous values of a plan, each after those it reads. */
export function orderAssignments(shared: Assembling): Assignment[] {
  const { builder, faults } = shared;
  const { assignments } = builder.parts;
  const producer = new Map(assignments.map((assignment) => [assignment.slot, assignment]));
  const needs = (assignment: Assignment): Assignment[] => [...slotsRead(assignment.value)].flatMap((slot) => producer.get(slot) ?? []);
  const { order, rings } = orderByNeed(assignments, needs);
  for (const ring of rings) {
    const names = ring.map((assignment) => builder.slots[assignment.slot]?.name ?? '');
    faults.add(
      'algebraic-ring',
      placeOfSlot(names[0] ?? '', shared),
      `These values depend on each other within one instant: ${[...names, names[0]].reverse().join(' → ')}.`,
      'Break the ring with a state (a lag or an integrator), or let a sampled component stand in it.',
    );
  }
  return order;
}

/** Where a continuous value's formula stands. */
function placeOfSlot(name: string, { instances, loop }: Assembling): Place {
  const [head = '', tail = ''] = name.split('.');
  const document = instances.get(nameKey(head))?.component.document;
  if (!document) return loop.document.place([]);
  const raw = instances.get(nameKey(head))?.component.raw.behaviour;
  const inLet = raw?.kind === 'equations' && Object.hasOwn(raw.let ?? {}, tail);
  return document.keyPlace(['behaviour', inLet ? 'let' : 'outputs', tail]);
}

/** The sampled work of a plan, each task after those whose results it reads in the same hit. */
export function orderTasks({ builder, loop, faults }: Assembling): Task[] {
  const { tasks } = builder.parts;
  const owner = new Map(tasks.flatMap((task) => task.logged.map((slot) => [slot, task] as const)));
  const needs = (task: Task): Task[] =>
    [...slotsReadByWork(task.work)].flatMap((slot) => {
      const producer = owner.get(slot);
      return producer && producer.component !== task.component ? [producer] : [];
    });
  const { order, rings } = orderByNeed(tasks, needs);
  for (const ring of rings) {
    const names = ring.map((task) => task.component);
    faults.add(
      'sampled-ring',
      loop.document.keyPlace(['components', names[0] ?? '']),
      `These sampled components wait for each other within one hit: ${[...names, names[0]].reverse().join(' → ')}.`,
      'Join them in one chart, let the signal pass through a continuous component, or keep it for the next hit in the statements "later" of a routine.',
    );
  }
  return order;
}

/**
 * Orders work so that producers come before consumers, keeping text order where it is free (depth-first topological sort, Tarjan 1976).
 * @param items in text order
 * @param needs the items whose results one item reads
 * @returns the order, and every ring met as the list of its members
 */
function orderByNeed<T>(items: readonly T[], needs: (item: T) => readonly T[]): { order: T[]; rings: T[][] } {
  const order: T[] = [];
  const rings: T[][] = [];
  const done = new Set<T>();
  const onPath = new Set<T>();
  for (const root of items) {
    // An explicit stack: chains of thousands of equations must not exhaust the call stack.
    const stack: { item: T; pending: T[] }[] = [];
    const enter = (item: T): void => {
      onPath.add(item);
      stack.push({ item, pending: [...needs(item)] });
    };
    if (!done.has(root)) enter(root);
    for (let frame = stack.at(-1); frame; frame = stack.at(-1)) {
      const next = frame.pending.shift();
      if (next === undefined) {
        stack.pop();
        onPath.delete(frame.item);
        done.add(frame.item);
        order.push(frame.item);
      } else if (onPath.has(next)) {
        const path = stack.map((one) => one.item);
        rings.push(path.slice(path.indexOf(next)));
      } else if (!done.has(next)) {
        enter(next);
      }
    }
  }
  return { order, rings };
}
