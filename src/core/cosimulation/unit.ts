import { outsideName, partLoop } from '@/core/build';
import type { LoopDocument, Project } from '@/core/documents';
import { planFingerprint } from '@/core/evidence';
import { Faults } from '@/core/fault';
import { nameKey, nearestName } from '@/core/language';
import { assembleLoop } from '@/core/loop';
import { fixedMethods, integerRange, isFixed, type Plan, type SlotNumber, type ValueType } from '@/core/plan';
import { unitCode } from '@/core/units';
import { pairs } from './variableC';

/** What a unit is made of, and what it shows. */
export interface UnitChoice {
  /** Components of the loop, as it calls them; the whole loop unless said. */
  readonly components?: readonly string[];
  /** Names of what is shown; all of them unless said. */
  readonly inputs?: readonly string[];
  readonly outputs?: readonly string[];
  readonly parameters?: readonly string[];
  /** Distance of the communication points that is proposed to importers (ns). */
  readonly stepNs: number;
}

/** A variable that a unit shows. */
export interface UnitVariable {
  readonly name: string;
  /** Number by which importers ask for it. */
  readonly reference: number;
  readonly causality: 'input' | 'output' | 'parameter';
  readonly isContinuous: boolean;
  /** A parameter that may be set while it runs. */
  readonly isTunable: boolean;
  readonly type: ValueType;
  readonly unit: string;
  readonly start: number;
  readonly min?: number;
  readonly max?: number;
  readonly slot: SlotNumber;
  /** Of an input: its number among those of the plan. */
  readonly input?: number;
}

/** A co-simulation unit before it is written: the plan inside, and what it shows. */
export interface CosimulationUnit {
  readonly name: string;
  /** As names of files and functions want it. */
  readonly identifier: string;
  readonly about: string;
  readonly plan: Plan;
  readonly variables: readonly UnitVariable[];
  readonly stepNs: number;
  /** SHA-256 of the plan and of what is shown of it. */
  readonly fingerprint: string;
}

/**
 * Makes a unit of a loop or of some of its components.
 * @throws Error in words when a name is not there, or what is chosen cannot become a unit
 */
export function cosimulationUnit(project: Project, loop: LoopDocument, choice: UnitChoice): CosimulationUnit {
  checkComponents(loop, choice.components ?? []);
  const plan = planOf(project, loop, choice.components);
  const refusal = refusalOf(plan) ?? (choice.components && messagesAcross(plan));
  if (refusal) throw new Error(refusal);
  const all = shown(plan, choice.components);
  const variables = (['input', 'output', 'parameter'] as const).flatMap((causality) => {
    const own = all.filter((one) => one.causality === causality);
    const names = choice[`${causality}s`];
    return names ? names.map((name) => named(own, name, causality)) : own;
  });
  const name = choice.components ? choice.components.join(' + ') : loop.raw.loop;
  return {
    name,
    identifier: name.replace(/[^A-Za-z0-9]+/g, '_').replace(/^(?=\d)/, '_'),
    about: loop.raw.about ?? '',
    plan,
    variables: variables.map((one, index) => ({ ...one, unit: unitCode(one.unit), reference: index + 1 })),
    stepNs: choice.stepNs,
    fingerprint: planFingerprint({ ...plan, parameters: variables.map(({ slot }) => slot) }),
  };
}

function checkComponents({ raw }: LoopDocument, components: readonly string[]): void {
  const known = Object.keys(raw.components);
  for (const name of components) {
    if (known.some((one) => nameKey(one) === nameKey(name))) continue;
    const near = nearestName(name, known);
    throw new Error(`the loop ${raw.loop} has no component "${name}"; ${near ? `did you mean "${near}"?` : `it has: ${known.join(', ')}`}`);
  }
}

function planOf(project: Project, loop: LoopDocument, components: readonly string[] | undefined): Plan {
  const faults = new Faults();
  const part = components ? partLoop(project, loop, components, loop.raw.solver) : { loop, components: project.components };
  const { plan } = assembleLoop({ ...project, components: part.components }, part.loop, faults);
  const [fault] = faults.all();
  if (fault) throw new Error(`this cannot stand alone: ${fault.message} ${fault.fix}`);
  return plan;
}

function refusalOf(plan: Plan): string | undefined {
  if (plan.crossings.length > 0)
    return `${plan.crossings[0] ? plan.sites[plan.crossings[0].site]?.text : ''} is an event that is located between steps; a unit with a fixed step cannot do that`;
  const [late] = plan.delays ?? [];
  if (late)
    return `${plan.slots[late.slot]?.name ?? ''} is a dead time of continuous values, which does not go into a unit; let a sampled component have it`;
  const [inner] = plan.units ?? [];
  if (inner) return `${inner.component} is a unit itself; leave it out of the components`;
  if (plan.played.length > 0) return 'it plays a recording, which does not go into a unit';
  if (!isFixed(plan.solver.method) && !pairs[plan.solver.method] && plan.states.length > 0)
    return `its solver ${plan.solver.method} does not go into a unit; choose one of ${[...fixedMethods, ...Object.keys(pairs)].join(', ')}`;
  return undefined;
}

/** A unit has values at its face, and no messages. */
function messagesAcross({ messages, faces }: Plan): string | undefined {
  const sent = new Set(faces.flatMap(({ sends }) => sends.flatMap(({ to }) => to)));
  const crossing = messages.find(({ name }, index) => nameKey(name).startsWith(`${nameKey(outsideName)}.`) || !sent.has(index));
  if (!crossing) return undefined;
  const name = crossing.name.replace(`${outsideName}.`, '').replace('_', '.');
  return `the message ${name} goes between these components and the rest of the loop; a unit has values only. Take in the component at the other end`;
}

/** Everything that could be shown. */
function shown(plan: Plan, components: readonly string[] | undefined): Omit<UnitVariable, 'reference'>[] {
  const continuous = new Set(plan.assignments.map((one) => one.slot));
  for (const { slot } of plan.states) continuous.add(slot);
  const variable = (
    slot: SlotNumber,
    name: string,
    causality: UnitVariable['causality'],
    extra: Partial<UnitVariable> = {},
  ): Omit<UnitVariable, 'reference'> => {
    const { type, unit, start, min, max } = plan.slots[slot] as Plan['slots'][number];
    const isReal = type === 'LREAL' || type === 'REAL';
    return {
      name,
      causality,
      isContinuous: isReal && (causality === 'input' || continuous.has(slot)),
      isTunable: false,
      type,
      unit,
      start,
      ...(min === undefined ? {} : { min }),
      ...(max === undefined ? {} : { max }),
      slot,
      ...extra,
    };
  };
  const wanted = components?.map(nameKey);
  const faces = plan.faces.filter(({ component }) => !wanted || wanted.includes(nameKey(component)));
  return [
    ...plan.inputs.map((input, index) => variable(input.slot, input.name, 'input', { input: index })),
    ...faces.flatMap(({ component, outputs }) => outputs.map(({ name, slot }) => variable(slot, `${component}.${name}`, 'output'))),
    ...plan.parameters.map((slot) => variable(slot, plan.slots[slot]?.name ?? '', 'parameter', { isTunable: true })),
  ];
}

function named(all: readonly Omit<UnitVariable, 'reference'>[], name: string, causality: string): Omit<UnitVariable, 'reference'> {
  const key = nameKey(name);
  const found = all.filter((one) => nameKey(one.name) === key || nameKey(one.name).endsWith(`.${key}`));
  if (found.length === 1 && found[0]) return found[0];
  const names = all.map((one) => one.name);
  const last = nearestName(
    name,
    names.map((one) => one.slice(one.lastIndexOf('.') + 1)),
  );
  const near = nearestName(name, names) ?? names.find((one) => one.endsWith(`.${last}`));
  throw new Error(
    found.length > 1
      ? `"${name}" could be ${found.map((one) => one.name).join(' or ')}`
      : `there is no ${causality} "${name}"; ${near ? `did you mean "${near}"?` : `there are: ${names.join(', ') || 'none'}`}`,
  );
}

/** Whether a type is kept as a whole number by both versions of the standard (version 2 has 32 bits with a sign). */
export function isWhole(type: ValueType): boolean {
  return integerRange[type] !== undefined;
}
