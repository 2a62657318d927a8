import type { CaseDocument, ParameterSetDocument, Project } from '@/core/documents';
import type { Faults, Place } from '@/core/fault';
import { enumerated, FormulaText, readTime, readValue } from '@/core/formula';
import { nameKey, nearestName } from '@/core/language';
import { type AssembledLoop, checkConstraints, conditionNode, type Role } from '@/core/loop';
import { any, constant, type Node, type SlotNumber } from '@/core/plan';
import type { RawStep } from '@/core/shapes';
import type { EndCondition, Experiment, ScriptStep, Walk, WaveChange } from '@/core/simulate';
import type { ReadDocument } from '@/core/yaml';
import { channelFaultWords } from './channelFaultWords';
import { type Course, readCourse, type Target } from './course';
import { withRecorded } from './recorded';
import { faultStep, loopOfCase } from './wireFaults';

type Value = number | boolean | string;

const nowhere: Target = { index: -1, name: '', unit: '', type: 'LREAL', start: 0, isReal: true, read: () => undefined };

/** Turns a case into an experiment on its loop: values, stimuli and script bound to slots. */
export function prepareExperiment(
  document: CaseDocument,
  loop: AssembledLoop,
  project: Pick<Project, 'parameterSets' | 'recordings'>,
  faults: Faults,
): Experiment {
  return new Preparation(document, loopOfCase(document, loop), project.parameterSets, project.recordings, faults).prepare();
}

/** What something else that has the name is, and what can be done with it in a case. */
const roleWords: Readonly<Record<Role, string>> = {
  input: 'a free input: give it a course under stimuli.',
  state: 'a state: give its start under initial.',
  parameter: 'a parameter: set it under parameters.',
  output: 'an output, which the run computes.',
  variable: 'a variable, which the run computes.',
  region: 'a region of a chart, which the run computes.',
};

class Preparation {
  private readonly conditions: Node[] = [];
  /** Parameters that the script changes. */
  private readonly changed: SlotNumber[] = [];

  constructor(
    private readonly test: CaseDocument,
    private readonly loop: AssembledLoop,
    private readonly sets: ReadonlyMap<string, ParameterSetDocument>,
    private readonly recordings: ReadonlyMap<string, string>,
    private readonly faults: Faults,
  ) {}

  prepare(): Experiment {
    const { raw, document } = this.test;
    const last = raw.end ? { written: raw.end.at_most, path: ['end', 'at_most'] } : { written: raw.stop, path: ['stop'] };
    if (raw.end && raw.stop !== undefined)
      this.faults.add(
        'time',
        document.keyPlace(['stop']),
        'The case has both "stop" and "end".',
        'Remove "stop": at_most of "end" says when it ends at the latest.',
      );
    const stopNs = last.written === undefined ? undefined : readTime(last.written, document.place(last.path), this.faults, 1);
    const overrides = [...this.setValues(), ...this.values('parameters', raw.parameters, this.test.document)];
    this.checkTogether(overrides);
    const { stimuli, waves, walks } = this.courses();
    const script = (raw.script ?? []).flatMap((step, index) => this.step(step, ['script', index]));
    const end = raw.end && this.end(raw.end.when);
    const isBeside = script.some((step) => step.k === 'together');
    return {
      case: raw.case,
      plan: withRecorded(this.loop.plan, this.changed),
      stopNs: stopNs ?? this.loop.plan.stopNs,
      seed: raw.seed ?? 0,
      overrides,
      initial: this.values('initial', raw.initial, this.test.document),
      stimuli,
      ...(waves.length > 0 ? { waves } : {}),
      ...(walks.length > 0 ? { walks } : {}),
      script,
      conditions: this.conditions,
      ...(isBeside ? { always: this.conditions.push(constant('BOOL', 1)) - 1 } : {}),
      ...(end ? { end } : {}),
    };
  }

  /** After all waits are known: the run may end while the script waits. */
  private end(when: Value): EndCondition | undefined {
    const waits = [...this.conditions];
    const condition = this.condition(['end', 'when'], String(when));
    const node = condition === undefined ? undefined : this.conditions[condition];
    if (condition === undefined || !node) return undefined;
    return { condition, withWait: waits.map((wait) => this.conditions.push(any([wait, node])) - 1) };
  }

  /** Values that are allowed one by one may still not go together. */
  private checkTogether(overrides: readonly (readonly [SlotNumber, number])[]): void {
    if (overrides.length === 0) return;
    const changed = new Map(overrides);
    const read = (slot: SlotNumber): number => changed.get(slot) ?? this.loop.plan.slots[slot]?.start ?? Number.NaN;
    checkConstraints(this.loop.constraints, read, () => this.place('parameters'), this.faults);
  }

  private place(...path: (string | number)[]): Place {
    return this.test.document.place(path);
  }

  private setValues(): (readonly [SlotNumber, number])[] {
    return (this.test.raw.parameter_sets ?? []).flatMap((name, index) => {
      const set = this.sets.get(nameKey(name));
      if (set) return this.values('values', set.raw.values, set.document);
      const near = nearestName(
        name,
        [...this.sets.values()].map((one) => one.raw.parameter_set),
      );
      const fix = near ? `Did you mean "${near}"?` : 'Add it under parameters/.';
      this.faults.add('unknown-name', this.place('parameter_sets', index), `There is no parameter set "${name}".`, fix);
      return [];
    });
  }

  private values(
    group: 'parameters' | 'initial' | 'values',
    values: Readonly<Record<string, Value>> | undefined,
    document: ReadDocument,
  ): (readonly [SlotNumber, number])[] {
    return Object.entries(values ?? {}).flatMap(([name, value]) => {
      const roles = group === 'initial' ? (['state'] as const) : (['parameter'] as const);
      const entry = this.loop.catalogue.findEntry(name, roles);
      if (!entry) {
        const known = this.loop.catalogue.entries.filter((one) => roles.some((role) => role === one.role)).map((one) => one.name);
        this.unknown(group === 'initial' ? 'continuous state' : 'parameter', name, known, document.keyPlace([group, name]));
        return [];
      }
      if (entry.tuning === 'fixed')
        this.faults.add(
          'outside-limits',
          document.keyPlace([group, name]),
          `${entry.name} is fixed when the thing is built.`,
          'Set it in the loop, or let a variant bring another value.',
        );
      const number = readValue(value, entry, document.place([group, name]), this.faults);
      return number === undefined ? [] : [[entry.slot, number] as const];
    });
  }

  private unknown(kind: string, name: string, known: readonly string[], place: Place): void {
    const near =
      nearestName(name, known) ??
      nearestName(
        name,
        known.map((one) => one.split('.').at(-1) ?? one),
      );
    const other = this.loop.catalogue.findEntry(name, ['input', 'output', 'state', 'variable', 'parameter', 'region']);
    this.faults.add(
      'unknown-name',
      place,
      `There is no ${kind} "${name}" in the loop ${this.loop.plan.loop}.`,
      other
        ? `${other.name} is ${roleWords[other.role]}`
        : near
          ? `Did you mean "${near}"?`
          : known.length > 0
            ? `There is: ${known.slice(0, 12).join(', ')}${known.length > 12 ? ', …' : ''}.`
            : 'There is none.',
    );
  }

  private input(name: string, place: Place): Target | undefined {
    const { plan, catalogue } = this.loop;
    const entry = catalogue.findEntry(name, ['input']);
    const index = plan.inputs.findIndex((input) => input.slot === entry?.slot);
    if (!entry || index < 0) {
      this.unknown(
        'free input',
        name,
        plan.inputs.map((input) => input.name),
        place,
      );
      return undefined;
    }
    const { type, unit } = entry;
    const isReal = plan.inputs[index]?.slope !== undefined;
    const start = plan.slots[entry.slot]?.start ?? 0;
    return { index, name, unit, type, start, isReal, ...enumerated(entry), read: (value, at) => readValue(value, entry, at, this.faults) };
  }

  /** The courses of all free inputs, in order of time. */
  private courses(): Pick<Experiment, 'stimuli'> & { readonly waves: readonly WaveChange[]; readonly walks: readonly Walk[] } {
    const courses = Object.entries(this.test.raw.stimuli ?? {}).flatMap(([name, pieces]): Course[] => {
      const input = this.input(name, this.test.document.keyPlace(['stimuli', name]));
      // Times and shapes are looked at whether or not the name is known.
      const course = readCourse(pieces, input ?? nowhere, (...path) => this.place('stimuli', name, ...path), this.recordings, this.faults);
      return input ? [course] : [];
    });
    const inOrder = <T extends { readonly input: number; readonly atNs: number }>(list: readonly T[]): T[] =>
      [...list].sort((a, b) => a.atNs - b.atNs || a.input - b.input);
    return {
      stimuli: inOrder(courses.flatMap((one) => one.changes)),
      waves: inOrder(courses.flatMap((one) => one.waves)),
      walks: courses.flatMap((one) => one.walks).map((walk, stream) => ({ stream, ...walk })),
    };
  }

  private step(step: RawStep, path: (string | number)[]): ScriptStep[] {
    if ('together' in step)
      return [
        { k: 'together', lines: step.together.map((line, at) => line.flatMap((one, index) => this.step(one, [...path, 'together', at, index]))) },
      ];
    if ('expect' in step) {
      const withinNs = readTime(step.expect.within, this.place(...path, 'expect', 'within'), this.faults);
      const condition = this.condition([...path, 'expect', 'holds'], String(step.expect.holds));
      return withinNs === undefined || condition === undefined ? [] : [{ k: 'expect', condition, withinNs, text: String(step.expect.holds) }];
    }
    if ('bench' in step) return [{ k: 'bench', fault: step.bench, text: channelFaultWords(step.bench) }];
    if ('fault' in step) return [faultStep(step.fault, [...path, 'fault'], this.loop, this.test, this.faults) ?? []].flat();
    if ('change' in step) return [{ k: 'change', changes: this.changes(step.change, [...path, 'change']) }];
    if ('hold' in step) {
      const ns = readTime(step.hold, this.place(...path, 'hold'), this.faults);
      return ns === undefined ? [] : [{ k: 'hold', ns }];
    }
    if ('wait' in step) {
      const giveUpNs = readTime(step.wait.give_up_after, this.place(...path, 'wait', 'give_up_after'), this.faults, 1);
      const condition = this.condition([...path, 'wait', 'until'], String(step.wait.until));
      return giveUpNs === undefined || condition === undefined ? [] : [{ k: 'wait', condition, giveUpNs, text: String(step.wait.until) }];
    }
    if ('send' in step) {
      const message = this.message(step.send, this.place(...path, 'send'));
      return message === undefined ? [] : [{ k: 'send', message, value: step.value ?? 0 }];
    }
    const changes = Object.entries(step.set).flatMap(([name, value]) => {
      const input = this.input(name, this.test.document.keyPlace([...path, 'set', name]));
      const number = input?.read(value, this.place(...path, 'set', name));
      return input && number !== undefined ? [{ input: input.index, value: number }] : [];
    });
    return [{ k: 'set', changes }];
  }

  /** New values of parameters, which must be ones that a run may change. */
  private changes(values: Readonly<Record<string, Value>>, path: (string | number)[]): { readonly slot: SlotNumber; readonly value: number }[] {
    return Object.entries(values).flatMap(([name, value]) => {
      const place = this.test.document.keyPlace([...path, name]);
      const entry = this.loop.catalogue.findEntry(name, ['parameter']);
      if (!entry) {
        const known = this.loop.catalogue.entries.filter((one) => one.role === 'parameter').map((one) => one.name);
        this.unknown('parameter', name, known, place);
        return [];
      }
      if (entry.tuning === 'fixed' || entry.tuning === 'exported')
        this.faults.add(
          'outside-limits',
          place,
          `${entry.name} cannot be changed during a run: its tuning is ${entry.tuning}.`,
          'Set it under parameters: of the case, or make it live in the face of the component.',
        );
      const number = readValue(value, entry, this.place(...path, name), this.faults);
      if (number === undefined) return [];
      this.changed.push(entry.slot);
      return [{ slot: entry.slot, value: number }];
    });
  }

  /** Index of a message by its full name, or by the end of it where that is unique. */
  private message(name: string, place: Place): number | undefined {
    const { messages } = this.loop.plan;
    const key = nameKey(name);
    const exact = messages.findIndex((one) => nameKey(one.name) === key);
    const ending = messages.flatMap((one, index) => (nameKey(one.name).endsWith(`.${key}`) ? [index] : []));
    const found = exact >= 0 ? exact : ending.length === 1 ? ending[0] : undefined;
    if (found === undefined)
      this.unknown(
        'message',
        name,
        messages.map((one) => one.name),
        place,
      );
    return found;
  }

  private condition(path: (string | number)[], text: string): number | undefined {
    const node = conditionNode(new FormulaText(this.test.document, path, text, this.faults), this.loop.catalogue);
    return node ? this.conditions.push(node) - 1 : undefined;
  }
}
