import type { ComponentDocument } from '@/core/documents';
import type { Faults } from '@/core/fault';
import { type Declared, declare, enumerated, type Found, type PlanBuilder, readValue } from '@/core/formula';
import { nameKey } from '@/core/language';
import { type Message, type Node, type SlotNumber, slotValue, type ValueType } from '@/core/plan';
import { Mailbox } from './queue';

/** An input of an instance: what the face declares and, once wired, where its value comes from. */
export interface InputPort extends Declared {
  source?: Found;
}

export interface OutputPort extends Declared {
  readonly slot: SlotNumber;
}

/** One component in a loop, with slots of its own. */
export interface Instance {
  readonly name: string;
  readonly component: ComponentDocument;
  readonly inputs: Map<string, InputPort>;
  readonly outputs: Map<string, OutputPort>;
  readonly parameters: Map<string, OutputPort>;
  /** Where messages to it wait. */
  readonly mailbox: Mailbox | undefined;
  /** Those that get its messages, by `nameKey`. */
  readonly receivers: Map<string, Message[]>;
  /** Times the loop gives to a sampled instance. */
  readonly use?: { readonly periodNs?: number; readonly offsetNs?: number };
}

/**
 * Gives a component's face its slots. Parameter values are set by the caller; start values of outputs that do not suit are told.
 * @param bound parameters that are those of a network around it, by `nameKey`
 */
export function instantiate(
  name: string,
  component: ComponentDocument,
  values: ReadonlyMap<string, number>,
  builder: PlanBuilder,
  faults: Faults,
  use: Instance['use'] = {},
  bound: ReadonlyMap<string, OutputPort> = new Map(),
): Instance {
  const { raw, document } = component;
  const inputs = new Map<string, InputPort>();
  for (const [port, declared] of Object.entries(raw.inputs ?? {})) inputs.set(nameKey(port), { ...declare(`${name}.${port}`, declared) });
  const outputs = new Map<string, OutputPort>();
  // What a network gives out are outputs of its parts; it has no slots of its own for them.
  for (const [port, raws] of raw.behaviour.kind === 'network' ? [] : Object.entries(raw.outputs ?? {})) {
    const declared = declare(`${name}.${port}`, raws);
    const start = raws.start === undefined ? 0 : (readValue(raws.start, declared, document.place(['outputs', port, 'start']), faults) ?? 0);
    outputs.set(nameKey(port), { ...declared, slot: builder.slot({ ...declared, start }) });
  }
  const parameters = new Map<string, OutputPort>();
  for (const [parameter, raws] of Object.entries(raw.parameters ?? {})) {
    const declared = declare(`${name}.${parameter}`, raws, defaultType(raws.value));
    const around = bound.get(nameKey(parameter));
    const slot = around?.slot ?? builder.slot({ ...declared, start: values.get(nameKey(parameter)) ?? 0 });
    if (!around) builder.parts.parameters.push(slot);
    parameters.set(nameKey(parameter), { ...declared, slot });
  }
  const incoming = Object.keys(raw.messages?.in ?? {});
  const mailbox = incoming.length > 0 ? new Mailbox(builder, name) : undefined;
  for (const message of mailbox ? incoming : []) {
    const queue = (mailbox as Mailbox).queue;
    builder.parts.messages.push({ name: `${name}.${message}`, queue, code: (mailbox as Mailbox).code(message), mark: builder.nextMark() });
  }
  const receivers = new Map(Object.keys(raw.messages?.out ?? {}).map((message) => [nameKey(message), [] as Message[]] as const));
  return { name, component, inputs, outputs, parameters, mailbox, receivers, use };
}

/** A parameter without a type is BOOL when its value is, else LREAL. */
export function defaultType(value: unknown): ValueType {
  return typeof value === 'boolean' ? 'BOOL' : 'LREAL';
}

/** What a formula gets that names a port. */
export function portFound(port: OutputPort): Found {
  return { node: slotNode(port), unit: port.unit, ...enumerated(port) };
}

export function slotNode(port: { readonly slot: SlotNumber; readonly type: ValueType }): Node {
  return slotValue(port.type, port.slot);
}

/** Tells names that are declared twice within a face (names differ by more than case). */
export function checkFaceNames(component: ComponentDocument, faults: Faults): void {
  const { raw, document } = component;
  const behaviour = raw.behaviour;
  const seen = new Set<string>();
  const groups: [string[], object | undefined][] = [
    [['inputs'], raw.inputs],
    [['outputs'], raw.outputs],
    [['parameters'], raw.parameters],
    [['behaviour', 'states'], behaviour.kind === 'equations' ? behaviour.states : undefined],
    [['behaviour', 'let'], behaviour.kind === 'equations' ? behaviour.let : undefined],
    [['behaviour', 'variables'], behaviour.kind === 'chart' ? behaviour.variables : undefined],
    [['behaviour', 'conditions'], behaviour.kind === 'decision table' ? behaviour.conditions : undefined],
    [['behaviour', 'parts'], behaviour.kind === 'network' ? behaviour.parts : undefined],
    // In a chart a message is named where nothing else can be meant.
    [['messages', 'in'], behaviour.kind === 'routine' ? raw.messages?.in : undefined],
    [['behaviour', 'regions'], behaviour.kind === 'chart' ? behaviour.regions : undefined],
  ];
  for (const [path, group] of groups) {
    for (const name of Object.keys(group ?? {})) {
      const key = nameKey(name);
      if (seen.has(key)) {
        faults.add(
          'duplicate-name',
          document.keyPlace([...path, name]),
          `The name "${name}" is used twice in ${raw.component} (case does not count).`,
          'Rename one of the two.',
        );
      } else if (key === 'time' && path[0] !== 'outputs') {
        faults.add('duplicate-name', document.keyPlace([...path, name]), '"time" is the simulation time in seconds.', 'Choose another name.');
      }
      seen.add(key);
    }
  }
}
