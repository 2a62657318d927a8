import type { Faults } from '@/core/fault';
import { nameKey, nearestName } from '@/core/language';
import type { RawController, RawLoop, RawPairing, RawUse } from '@/core/shapes';
import type { ReadDocument } from '@/core/yaml';
import type { ComponentDocument, LoopDocument, PairingDocument } from './types';

type Path = Parameters<ReadDocument['place']>[0];
type Wire = NonNullable<RawLoop['wires']>[number];
type Components = ReadonlyMap<string, ComponentDocument>;

/** What a pairing is made from. */
interface Sources {
  readonly loops: ReadonlyMap<string, LoopDocument>;
  readonly components: Components;
  /** What project.yaml says of the controller. */
  readonly controller: RawController | undefined;
  /** Loops whose documents are there but too faulty to be used. */
  readonly unusable: ReadonlyMap<string, unknown>;
}

/** The parts of a pairing: the controller with what it has in its own loop, and what of the host is left. */
export interface PairedParts {
  /** Components of the controller, as its loop calls them. */
  readonly own: readonly string[];
  /** Components of the host that stay. */
  readonly kept: readonly string[];
  /** Inputs of the controller that the rest of its loop drives there, or a free input of it. */
  readonly inputs: readonly { readonly name: string; readonly free?: string }[];
  readonly outputs: readonly string[];
  /** Signals that the host offers: outputs of its components, and its free inputs. */
  readonly signals: readonly string[];
  /** Inputs of the host's components, and its free inputs. */
  readonly ends: readonly string[];
  /** Messages that the controller takes and sends, and those that what stays takes; none of them has to be paired. */
  readonly messages: { readonly taken: readonly string[]; readonly sent: readonly string[]; readonly takenByHost: readonly string[] };
  /** Signals of what stays that what made room had read. */
  readonly readBefore: readonly string[];
  /** Inputs of what stays that what made room had driven: something else has to. */
  readonly orphans: readonly string[];
}

/** Components of a loop that are its controller: those that project.yaml names, or those that only work at hits. */
function controllerUses({ raw }: Pick<LoopDocument, 'raw'>, components: Components, controller: RawController | undefined): string[] {
  const wanted = controller?.components?.map(nameKey);
  return Object.entries(raw.components).flatMap(([name, { use }]) => {
    if (wanted) return wanted.includes(nameKey(use)) ? [name] : [];
    const behaviour = components.get(nameKey(use))?.raw.behaviour;
    const isSampled =
      behaviour &&
      (['chart', 'routine', 'decision table'].includes(behaviour.kind) || (behaviour.kind === 'network' && behaviour.period !== undefined));
    return isSampled ? [name] : [];
  });
}

/** What there is to be paired between the controller of one loop and another loop. @param replaces components of the host that make room; its controller unless said */
export function pairedParts(
  from: Pick<LoopDocument, 'raw'>,
  host: Pick<LoopDocument, 'raw'>,
  replaces: readonly string[] | undefined,
  { components, controller }: Pick<Sources, 'components' | 'controller'>,
): PairedParts {
  const own = controllerUses(from, components, controller);
  const gone = keysOf(replaces ?? controllerUses(host, components, controller));
  const kept = Object.keys(host.raw.components).filter((name) => !gone.has(nameKey(name)));
  const faceOf = (raw: RawLoop, name: string) => components.get(nameKey(raw.components[name]?.use ?? ''))?.raw;
  const ports = (raw: RawLoop, names: readonly string[], side: 'inputs' | 'outputs'): string[] =>
    names.flatMap((name) => Object.keys(faceOf(raw, name)?.[side] ?? {}).map((port) => `${name}.${port}`));
  const messages = (raw: RawLoop, names: readonly string[], side: 'in' | 'out'): string[] =>
    names.flatMap((name) => Object.keys(faceOf(raw, name)?.messages?.[side] ?? {}).map((message) => `${name}.${message}`));
  const inside = keysOf(within(from.raw, own).flatMap(({ to }) => list(to)));
  const free = new Map(Object.entries(from.raw.inputs ?? {}).flatMap(([name, { to }]) => list(to).map((end) => [nameKey(end), name] as const)));
  const stays = keysOf(kept);
  const isKept = (end: string): boolean => stays.has(headOf(end));
  const freeOfHost = Object.entries(host.raw.inputs ?? {});
  return {
    own,
    kept,
    inputs: ports(from.raw, own, 'inputs')
      .filter((name) => !inside.has(nameKey(name)))
      .map((name) => {
        const driver = free.get(nameKey(name));
        return { name, ...(driver === undefined ? {} : { free: driver }) };
      }),
    outputs: ports(from.raw, own, 'outputs'),
    messages: { taken: messages(from.raw, own, 'in'), sent: messages(from.raw, own, 'out'), takenByHost: messages(host.raw, kept, 'in') },
    signals: [...ports(host.raw, kept, 'outputs'), ...freeOfHost.map(([name]) => name)],
    ends: [...ports(host.raw, kept, 'inputs'), ...freeOfHost.filter(([, { to }]) => list(to).some(isKept)).map(([name]) => name)],
    readBefore: [
      ...(host.raw.wires ?? []).filter(({ from: one, to }) => isKept(one) && list(to).some((end) => gone.has(headOf(end)))).map((wire) => wire.from),
      ...freeOfHost.filter(([, { to }]) => list(to).some((end) => gone.has(headOf(end)))).map(([name]) => name),
    ],
    orphans: (host.raw.wires ?? []).filter(({ from: one }) => gone.has(headOf(one))).flatMap(({ to }) => list(to).filter(isKept)),
  };
}

/** The loop that comes of a pairing; what does not fit is told, and nothing comes of it where it cannot be wired. */
export function pairedLoop({ raw, document }: PairingDocument, sources: Sources, faults: Faults): LoopDocument | undefined {
  const from = loopNamed(raw, 'controller', document, sources, faults);
  const host = loopNamed(raw, 'host', document, sources, faults);
  if (!from || !host) return undefined;
  return new Pairing(raw, document, from, host, sources, faults).loop();
}

function loopNamed(raw: RawPairing, key: 'controller' | 'host', document: ReadDocument, { loops, unusable }: Sources, faults: Faults) {
  const found = loops.get(nameKey(raw[key]));
  if (found || unusable.has(nameKey(raw[key]))) return found;
  const near = nearestName(
    raw[key],
    [...loops.values()].map((one) => one.raw.loop),
  );
  faults.add(
    'unknown-name',
    document.place([key]),
    `There is no loop "${raw[key]}".`,
    near ? `Did you mean "${near}"?` : 'Name a loop under loops/.',
  );
  return undefined;
}

interface FreeInput {
  readonly name: string;
  readonly input: NonNullable<RawLoop['inputs']>[string];
  readonly isOfHost: boolean;
  readonly ends: string[];
}

class Pairing {
  private readonly parts: PairedParts;
  /** The pairs, each with its place in the sheet. */
  private readonly wires: { readonly wire: Wire; readonly path: Path }[] = [];
  /** Free inputs by the keys of their names, with what they lead to: those of the host, and those of the controller's own loop that come along. Of one name in both it is one and the same. */
  private readonly free = new Map<string, FreeInput>();
  /** Ends in the host that a pair drives. */
  private readonly driven = new Set<string>();

  constructor(
    private readonly raw: RawPairing,
    private readonly document: ReadDocument,
    private readonly from: LoopDocument,
    private readonly host: LoopDocument,
    sources: Sources,
    private readonly faults: Faults,
  ) {
    this.parts = pairedParts(from, host, raw.replaces, sources);
  }

  loop(): LoopDocument | undefined {
    const { raw, document, from, host, parts } = this;
    const before = this.faults.count;
    this.checkParts();
    if (parts.own.length === 0) return undefined;
    const kept = keysOf(parts.kept);
    for (const [name, input] of Object.entries(host.raw.inputs ?? {}))
      this.free.set(nameKey(name), { name, input, isOfHost: true, ends: list(input.to).filter((end) => kept.has(headOf(end))) });
    this.pairInputs();
    const told = this.faults.count;
    this.pairOutputs();
    // An end whose name is mistyped is told once.
    if (this.faults.count === told) this.checkOrphans();
    if (this.faults.count > before) return undefined;
    const uses = (of: LoopDocument, names: readonly string[]): [string, RawUse][] =>
      names.flatMap((name) => {
        const use = of.raw.components[name];
        return use ? [[name, use]] : [];
      });
    const inside = [...within(from.raw, parts.own), ...within(host.raw, parts.kept)];
    // Pairs come last: an end that has a source already is told of its pair.
    const wires = [...inside, ...this.wires.map(({ wire }) => wire)];
    const inputs = [...this.free.values()].flatMap(({ name, input, ends }) => {
      const left = ends.filter((end) => !this.driven.has(nameKey(end)));
      return left.length > 0 ? [[name, { ...input, to: left }] as const] : [];
    });
    const sets = [...new Set([...(from.raw.parameter_sets ?? []), ...(host.raw.parameter_sets ?? [])])];
    const trusted = host.raw.trusted?.filter(({ signal }) => kept.has(headOf(signal)));
    return {
      document: this.redirected(inside.length),
      paired: { controller: parts.own, from: from.raw.loop, files: [document.file, from.document.file, host.document.file] },
      raw: {
        loop: raw.pairing,
        ...(raw.about === undefined ? {} : { about: raw.about }),
        components: Object.fromEntries([...uses(from, parts.own), ...uses(host, parts.kept)]),
        wires: wires.map(({ from: source, to }) => ({ from: source, to })),
        inputs: Object.fromEntries(inputs),
        ...(sets.length > 0 ? { parameter_sets: sets } : {}),
        ...(trusted?.length ? { trusted } : {}),
        solver: host.raw.solver,
        stop: host.raw.stop,
      },
    };
  }

  private checkParts(): void {
    const { raw, document, faults, parts, from, host } = this;
    if (parts.own.length === 0)
      faults.add(
        'type',
        document.place(['controller']),
        `The loop ${from.raw.loop} has no controller that could be taken.`,
        'Name the components that are the controller in project.yaml, under controller: components.',
      );
    raw.replaces?.forEach((name, index) => {
      const known = Object.keys(host.raw.components);
      if (keysOf(known).has(nameKey(name))) return;
      const near = nearestName(name, known);
      faults.add(
        'unknown-name',
        document.place(['replaces', index]),
        `The loop ${host.raw.loop} has no component "${name}".`,
        near ? `Did you mean "${near}"?` : `It has: ${known.join(', ')}.`,
      );
    });
    const both = parts.own.filter((name) => keysOf(parts.kept).has(nameKey(name)));
    for (const name of both)
      faults.add(
        'duplicate-name',
        document.place(raw.replaces ? ['replaces'] : ['host']),
        `Controller and host both have a component ${name}.`,
        'List it under replaces, or give one of the two another name in its loop.',
      );
  }

  /** Free inputs of the controller's own loop come along where nothing is paired. */
  private pairInputs(): void {
    const { raw, document, faults, parts } = this;
    const given = Object.entries(raw.inputs ?? {});
    this.checkNames(
      'inputs',
      given.map(([name]) => name),
      [...parts.inputs.map(({ name }) => name), ...parts.messages.taken],
    );
    for (const { name, free } of parts.inputs) {
      const pair = given.find(([one]) => nameKey(one) === nameKey(name));
      if (pair) this.pairInput(name, pair[1], ['inputs', pair[0]]);
      else if (free !== undefined) this.bringAlong(free, name);
      else
        faults.add(
          'unconnected-input',
          document.place(['inputs']),
          `The input ${name} of the controller is paired with nothing.`,
          `Add it under inputs: ${name}: … with a signal of ${this.host.raw.loop}.`,
        );
    }
    for (const [name, signal] of given)
      if (keysOf(parts.messages.taken).has(nameKey(name))) this.wires.push({ wire: { from: signal, to: name }, path: ['inputs', name] });
  }

  private bringAlong(free: string, end: string): void {
    const known = this.free.get(nameKey(free));
    const input = this.from.raw.inputs?.[free];
    if (known) known.ends.push(end);
    else if (input) this.free.set(nameKey(free), { name: free, input, isOfHost: false, ends: [end] });
  }

  private pairInput(name: string, signal: string, path: Path): void {
    const { parts, faults, document } = this;
    const free = this.free.get(nameKey(signal));
    if (free?.isOfHost) free.ends.push(name);
    else if (parts.signals.some((one) => nameKey(one) === nameKey(signal))) this.wires.push({ wire: { from: signal, to: name }, path });
    else {
      const near = nearestName(signal, parts.signals);
      faults.add(
        'unknown-name',
        document.place(path),
        `The host has no signal "${signal}".`,
        near ? `Did you mean "${near}"?` : `It has: ${shown(parts.signals)}.`,
      );
    }
  }

  private pairOutputs(): void {
    const { raw, document, faults, parts, from } = this;
    const given = Object.entries(raw.outputs ?? {});
    const names = given.map(([name]) => name);
    this.checkNames('outputs', names, [...parts.outputs, ...parts.messages.sent]);
    for (const [name, to] of given)
      list(to).forEach((end, index) => {
        this.pairOutput(name, end, ['outputs', name, ...(typeof to === 'string' ? [] : [index])]);
      });
    const said = keysOf([...names, ...(raw.unused ?? [])]);
    const read = keysOf(within(from.raw, parts.own).map((wire) => wire.from));
    raw.unused?.forEach((name, index) => {
      if (!keysOf(parts.outputs).has(nameKey(name))) this.tellUnknown(name, parts.outputs, ['unused', index], 'output');
    });
    for (const name of parts.outputs)
      if (!said.has(nameKey(name)) && !read.has(nameKey(name)))
        faults.warn(
          'unused',
          document.place(['outputs']),
          `The output ${name} of the controller drives nothing in ${this.host.raw.loop}.`,
          'Pair it, or list it under unused.',
        );
  }

  private pairOutput(name: string, end: string, path: Path): void {
    const found = this.free.get(nameKey(end));
    const free = found?.isOfHost ? found : undefined;
    const ends = free ? free.ends.filter((one) => keysOf(this.parts.kept).has(headOf(one))) : [end];
    const known = keysOf([...this.parts.ends, ...this.parts.messages.takenByHost]);
    if (!free && !known.has(nameKey(end))) this.tellUnknown(end, this.parts.ends, path, 'input', 'host');
    for (const one of ends) {
      // What was free in the host is driven now; one that another component of the host drives is told when the loop is wired.
      this.driven.add(nameKey(one));
      this.wires.push({ wire: { from: name, to: one }, path });
    }
  }

  private checkOrphans(): void {
    for (const end of this.parts.orphans)
      if (!this.driven.has(nameKey(end)))
        this.faults.add(
          'unconnected-input',
          this.document.place(['outputs']),
          `The input ${end} of the host was driven by what makes room, and is driven by nothing now.`,
          `Pair an output of the controller with it, under outputs.`,
        );
  }

  private checkNames(side: 'inputs' | 'outputs', names: readonly string[], known: readonly string[]): void {
    for (const name of names)
      if (!keysOf(known).has(nameKey(name))) this.tellUnknown(name, known, [side, name], side === 'inputs' ? 'input' : 'output');
  }

  private tellUnknown(name: string, known: readonly string[], path: Path, what: string, whose = 'controller'): void {
    const near = nearestName(name, known);
    this.faults.add(
      'unknown-name',
      this.document.keyPlace(path),
      `The ${whose} has no ${what} "${name}" that could be paired.`,
      near ? `Did you mean "${near}"?` : `It has: ${shown(known)}.`,
    );
  }

  /** What is wrong about a pair, once the loop is wired, is told where the sheet has it; about the rest, where it comes from. */
  private redirected(firstPair: number): ReadDocument {
    const { document, from, host, parts, wires } = this;
    const place = (path: Path): readonly [ReadDocument, Path] => {
      const [group, at, ...rest] = path;
      if (group === 'wires') return [document, wires[Number(at) - firstPair]?.path ?? []];
      if (group === 'components') return keysOf(parts.own).has(nameKey(String(at))) ? [from.document, path] : [host.document, path];
      if (group === 'solver' || group === 'stop') return [host.document, [group, ...(at === undefined ? [] : [at]), ...rest]];
      return [document, path];
    };
    return {
      ...document,
      place: (path) => place(path)[0].place(place(path)[1]),
      keyPlace: (path) => place(path)[0].keyPlace(place(path)[1]),
      placesWithin: (path) => place(path)[0].placesWithin(place(path)[1]),
    };
  }
}

/** Wires between some components of a loop. */
function within({ wires = [] }: RawLoop, names: readonly string[]): Wire[] {
  const own = keysOf(names);
  return wires.flatMap(({ from, to }) => {
    const inside = own.has(headOf(from)) ? list(to).filter((end) => own.has(headOf(end))) : [];
    return inside.length > 0 ? [{ from, to: inside }] : [];
  });
}

function headOf(name: string): string {
  return nameKey(name.split('.')[0] ?? '');
}

function keysOf(names: readonly string[]): ReadonlySet<string> {
  return new Set(names.map(nameKey));
}

function list(value: string | readonly string[]): readonly string[] {
  return typeof value === 'string' ? [value] : value;
}

function shown(names: readonly string[]): string {
  return names.length > 12 ? `${names.slice(0, 12).join(', ')}, …` : names.join(', ') || 'none';
}
