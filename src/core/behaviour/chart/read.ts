import type { Faults } from '@/core/fault';
import {
  conditionTree,
  declare,
  Formula,
  type Found,
  lowerStatements,
  type PlanBuilder,
  plainStatementScope,
  readTime,
  readValue,
  type Scope,
  type StatementScope,
  typeExpression,
  typeFormula,
  type Variable,
} from '@/core/formula';
import { nameKey } from '@/core/language';
import {
  arithmetic,
  both,
  type Clause,
  type ConditionTree,
  comparison,
  constant,
  hitNumber,
  type Node,
  type SiteNumber,
  type SlotNumber,
  slotValue,
  taskTime,
  type Work,
  when,
} from '@/core/plan';
import type { RawChart, RawHistory, RawRegion, RawState, RawTargets, RawTransition } from '@/core/shapes';
import { faceNames, scopeOf } from '../equations';
import { type Instance, portFound } from '../instance';
import { taskTiming } from '../timing';
import { clausesOf } from './clauses';
import { ChartEvents } from './events';
import { finished, lowerChart } from './lower';
import { numbered } from './select';
import { domainOf, Targets } from './targets';
import {
  activeNode,
  type ChartEntrance,
  type ChartHistory,
  type ChartRegion,
  type ChartState,
  type ChartTarget,
  type ChartTransition,
  isWithin,
  regionsIn,
} from './types';
import { ChartWarnings } from './warnings';

/** Adds a sampled state chart to the plan as one task. */
export function addChart(instance: Instance, behaviour: RawChart, builder: PlanBuilder, faults: Faults): void {
  const reader = new ChartReader(instance, behaviour, builder, faults);
  reader.read();
}

class ChartReader {
  private readonly names: Map<string, Found>;
  private readonly writable = new Map<string, Variable>();
  private readonly logged: SlotNumber[] = [];
  private readonly allStates: ChartState[] = [];
  private readonly allRegions: ChartRegion[] = [];
  private readonly targets: Targets;
  private readonly events: ChartEvents;
  private readonly timing: ReturnType<typeof taskTiming>;
  /** Whom a run-time error of the chart as a whole is traced back to. */
  private readonly site: SiteNumber;
  private scope: Scope;
  /** What actions can name, once all states are known. */
  private ofActions: StatementScope | undefined;

  constructor(
    private readonly instance: Instance,
    private readonly behaviour: RawChart,
    private readonly builder: PlanBuilder,
    private readonly faults: Faults,
  ) {
    this.names = faceNames(instance);
    this.scope = scopeOf(this.names, builder);
    this.targets = new Targets(instance.component.document, this.allStates, faults);
    this.timing = taskTiming(instance, behaviour, faults);
    this.site = builder.site(instance.component.document.place(['behaviour', 'regions']), instance.name);
    const now = taskTime(this.timing ?? { periodNs: 1, offsetNs: 0 });
    this.events = new ChartEvents(instance, builder, now, awaited(behaviour.regions), this.site);
  }

  read(): void {
    const { instance, behaviour, builder, events, faults, timing, site, allRegions, allStates } = this;
    this.declareVariables();
    const top = this.regions(['behaviour', 'regions'], behaviour.regions, undefined);
    this.scope = this.withStates();
    if (!this.names.has('payload')) this.names.set('payload', { node: slotValue('LREAL', events.payload) });
    this.readEntrances();
    for (const state of allStates) this.readActions(state);
    // Only now all messages are known that the chart tells itself.
    const transitions = allStates.flatMap((state) => (state.raw.go ?? []).map((raw, index) => this.readAction(state, raw, index)));
    this.tellDone();
    for (const read of transitions) read(timing?.periodNs ?? 1);
    this.describe();
    if (!this.targets.isIncomplete) this.tellUnreachable();
    new ChartWarnings(instance, behaviour, allStates, faults).tell();
    if (!timing) return;
    const prologue = behaviour.prologue === undefined ? [] : this.actions(['behaviour', 'prologue'], behaviour.prologue);
    const hasEnd = top.length > 0 && top.every((region) => region.states.some((state) => state.raw.final));
    const chart = { top, all: allRegions, events, prologue, ...(hasEnd ? { ended: top.map(finished).reduce(both) } : {}) };
    builder.parts.tasks.push({ component: instance.name, ...timing, work: lowerChart(chart, builder, site), logged: this.logged });
  }

  /** What is to be known about each transition when somebody asks why it was not taken. */
  private describe(): void {
    for (const region of this.allRegions)
      for (const { number, transition } of numbered(region))
        this.builder.parts.transitions.push({
          chart: this.instance.name,
          source: [this.instance.name, ...transition.source.names].join('.'),
          to: this.builder.textOf(transition.site),
          site: transition.site,
          active: activeNode(transition.source),
          clauses: transition.clauses,
          choice: region.choice,
          number,
        });
  }

  private declareVariables(): void {
    for (const [key, port] of this.instance.outputs) {
      this.names.set(key, portFound(port));
      this.writable.set(key, port);
      this.logged.push(port.slot);
    }
    for (const [name, raw] of Object.entries(this.behaviour.variables ?? {})) {
      const declared = declare(`${this.instance.name}.${name}`, raw, typeof raw.start === 'boolean' ? 'BOOL' : 'LREAL');
      const place = this.instance.component.document.place(['behaviour', 'variables', name, 'start']);
      const start = raw.start === undefined ? 0 : (readValue(raw.start, declared, place, this.faults) ?? 0);
      const port = { ...declared, slot: this.builder.slot({ ...declared, start }) };
      this.names.set(nameKey(name), portFound(port));
      this.writable.set(nameKey(name), port);
      this.logged.push(port.slot);
    }
  }

  private regions(path: string[], raws: Readonly<Record<string, RawRegion>>, parent: ChartState | undefined): ChartRegion[] {
    return Object.entries(raws).map(([name, raw]) => this.region([...path, name], name, raw.states, parent, raw.wraps ?? false));
  }

  private region(
    path: string[],
    name: string,
    raws: Readonly<Record<string, RawState>>,
    parent: ChartState | undefined,
    wraps: boolean,
  ): ChartRegion {
    const { builder, instance } = this;
    const names = [...(parent?.names ?? []), ...(name ? [name] : [])];
    const fullName = [instance.name, ...names].join('.');
    const slot = builder.slot({ name: fullName, type: 'INT', unit: '', start: 0 });
    this.logged.push(slot);
    const region: ChartRegion = {
      slot,
      choice: builder.hidden(`${fullName} choice`),
      parent,
      states: [],
      wraps,
      initial: { targets: [], action: [] },
      name: fullName,
    };
    this.allRegions.push(region);
    for (const [stateName, raw] of Object.entries(raws)) this.state([...path, ...(name || !parent ? ['states'] : []), stateName], names, raw, region);
    builder.parts.regions.push({
      slot,
      name: fullName,
      states: region.states.map((state) => ({ name: state.names.at(-1) ?? '', mark: state.mark })),
    });
    return region;
  }

  private state(path: string[], names: readonly string[], raw: RawState, region: ChartRegion): void {
    const { builder } = this;
    const name = path.at(-1) ?? '';
    if (region.states.some((state) => nameKey(state.names.at(-1) ?? '') === nameKey(name))) {
      this.faults.add(
        'duplicate-name',
        this.instance.component.document.keyPlace(path),
        `The state "${name}" appears twice in its region.`,
        'Rename one of the two.',
      );
    }
    const state: ChartState = {
      k: 'state',
      names: [...names, name],
      path,
      raw,
      region,
      number: region.states.length + 1,
      mark: builder.nextMark(),
      since: builder.hidden(`${region.name}.${name} since`, -1),
      regions: [],
      histories: [],
      entry: [],
      stay: [],
      exit: [],
      done: [],
      transitions: [],
    };
    region.states.push(state);
    this.allStates.push(state);
    if (raw.states) state.regions.push(this.region([...path, 'states'], '', raw.states, state, false));
    if (raw.regions) state.regions.push(...this.regions([...path, 'regions'], raw.regions, state));
    for (const [key, history] of Object.entries(raw.history ?? {})) state.histories.push(this.history(state, key, history));
    if (state.histories.length > 0 && state.regions.length === 0)
      this.faults.add(
        'type',
        this.instance.component.document.keyPlace([...path, 'history']),
        `"${name}" has no states to remember.`,
        'Give it states, or remove the history.',
      );
  }

  private history(owner: ChartState, name: string, raw: RawHistory): ChartHistory {
    const regions = raw.deep ? regionsIn(owner) : owner.regions;
    const memory = new Map(regions.map((region) => [region, this.builder.hidden(`${region.name} memory of ${name}`)] as const));
    return {
      k: 'history',
      name,
      path: [...owner.path, 'history', name],
      owner,
      memory,
      deep: raw.deep ?? false,
      fallback: { targets: [], action: [] },
    };
  }

  /** Initial states and defaults of histories, once all states are known. */
  private readEntrances(): void {
    for (const region of this.allRegions) {
      const { parent } = region;
      const unnamed = parent?.raw.states !== undefined;
      const raw = unnamed ? parent.raw : this.rawRegion(region);
      const path = unnamed ? parent.path : this.regionPath(region);
      region.initial = this.entrance(
        raw?.initial ?? '',
        raw?.initial_do,
        path,
        'initial',
        'initial_do',
        (target) => isWithin(target, region),
        region,
      );
    }
    for (const state of this.allStates)
      for (const history of state.histories) {
        const raw = state.raw.history?.[history.name] as RawHistory;
        const inside = (target: ChartTarget): boolean => state.regions.some((region) => isWithin(target, region));
        history.fallback = this.entrance(raw.default, raw.do, history.path, 'default', 'do', inside, state.regions[0]);
      }
  }

  private entrance(
    names: RawTargets,
    text: string | undefined,
    path: string[],
    key: string,
    actionKey: string,
    fits: (target: ChartTarget) => boolean,
    region: ChartRegion | undefined,
  ): ChartEntrance {
    const targets = listed(names).flatMap((name) => {
      const found = this.targets.inside(name, region);
      if (found && fits(found)) return [found];
      const place = this.instance.component.document.place([...path, key]);
      this.faults.add('unknown-name', place, `The initial state "${name}" is not in this region.`, this.targets.suggest(name));
      return [];
    });
    const first = region?.states[0];
    return {
      targets: targets.length === 0 && first ? [first] : targets,
      action: text === undefined ? [] : this.actions([...path, actionKey], text),
    };
  }

  private rawRegion(region: ChartRegion): RawRegion | undefined {
    const name = region.name.split('.').at(-1) ?? '';
    return region.parent ? region.parent.raw.regions?.[name] : this.behaviour.regions[name];
  }

  private regionPath(region: ChartRegion): string[] {
    const name = region.name.split('.').at(-1) ?? '';
    return region.parent ? [...region.parent.path, 'regions', name] : ['behaviour', 'regions', name];
  }

  /** Guards may ask whether a state is active: `region.State`. */
  private withStates(): Scope {
    const plain = scopeOf(this.names, this.builder);
    return {
      ...plain,
      find: (path) => {
        const value = plain.find(path);
        if (value || (path.length < 2 && !this.behaviour.bareStates)) return value;
        const state = this.targets.named(path);
        return state ? { node: activeNode(state) } : undefined;
      },
      names: () => [...this.names.keys(), ...this.allStates.map((state) => state.names.join('.'))],
    };
  }

  private readActions(state: ChartState): void {
    for (const kind of ['entry', 'stay', 'exit'] as const) {
      const text = state.raw[kind];
      if (text !== undefined) state[kind] = this.actions([...state.path, kind], text);
    }
  }

  private actions(path: (string | number)[], text: string): Work[] {
    const formula = new Formula(this.instance.component.document, path, text, this.faults);
    this.ofActions ??= this.actionScope();
    return lowerStatements(formula.statements(), formula, this.ofActions, this.builder);
  }

  private actionScope(): StatementScope {
    const scope: StatementScope = {
      ...plainStatementScope(this.scope, this.writable),
      stream: () => this.builder.stream(),
      command: (statement, within) => this.events.command(statement, within, scope),
    };
    return scope;
  }

  /** Reads the targets and the action of a transition; its guard is read later. */
  private readAction(source: ChartState, raw: RawTransition, index: number): (periodNs: number) => void {
    const path = [...source.path, 'go', index];
    const { document } = this.instance.component;
    const names = listed(raw.to ?? []);
    const targets = names.flatMap((name) => this.targets.from(source, name, document.place([...path, 'to'])) ?? []);
    const action = raw.do === undefined ? [] : this.actions([...path, 'do'], raw.do);
    const domain = targets.length > 0 ? domainOf(source, targets, raw.internal ?? false) : undefined;
    if (targets.length > 0 && !domain)
      this.faults.add(
        'type',
        document.place([...path, 'to']),
        `"${names.join(', ')}" lies in another parallel region.`,
        'Go to a state of the same region; let the other region react with a guard of its own.',
      );
    return (periodNs) => {
      const clauses = this.clauses(source, raw, path, periodNs);
      if (!clauses || targets.length < names.length || (targets.length > 0 && !domain)) return;
      const guard = clauses.list.map((clause) => clause.node).reduce(both);
      const site = this.builder.site(document.place(path), names.join(', '));
      const transition: ChartTransition = {
        source,
        guard,
        clauses: clauses.list,
        tree: clauses.tree,
        ...(clauses.askedWhen ? { askedWhen: clauses.askedWhen } : {}),
        site,
        action,
        targets,
        ...(domain ? { domain } : {}),
      };
      source.transitions.push(transition);
    };
  }

  /** A final state tells that the state around it is done, and, where it is the last of several side by side, the state around those. */
  private tellDone(): void {
    for (const state of this.allStates) {
      if (!state.raw.final) continue;
      const { region } = state;
      const tell = (name: string): Work[] =>
        this.events.isAwaited(`done.state.${name}`) ? this.events.raise(`done.state.${name}`, zero, this.site) : [];
      const { parent } = region;
      if (!parent) continue;
      const named = parent.raw.regions !== undefined;
      const around = named ? region : parent.region.states.length === 1 ? parent.region : undefined;
      const whole = around?.parent?.raw.regions ? around.parent : undefined;
      state.done.push(...tell((named ? region.name.split('.').at(-1) : parent.names.at(-1)) ?? ''));
      const told = whole ? tell(whole.names.at(-1) ?? '') : [];
      if (whole && told.length > 0) state.done.push(when(whole.regions.map(finished).reduce(both), told));
    }
  }

  private clauses(state: ChartState, raw: RawTransition, path: (string | number)[], periodNs: number): Guard | undefined {
    const { noMessage } = this.events;
    const parts: (Guard | undefined)[] = [];
    if (raw.on !== undefined) parts.push(named(`message ${listed(raw.on).join(' or ')}`, this.awaitedMessage(listed(raw.on), [...path, 'on'])));
    else if (noMessage) parts.push(named('no message is being handled', noMessage));
    if (raw.after !== undefined) parts.push(named(`after ${String(raw.after)}`, this.elapsed(state, raw.after, [...path, 'after'], periodNs)));
    if (raw.when !== undefined) parts.push(this.conditions([...path, 'when'], String(raw.when)));
    if (!parts.every((part) => part !== undefined)) return undefined;
    // That no message is being handled is nobody's condition: it says when the guard is asked at all.
    const own = raw.on === undefined && noMessage && parts.length > 1 ? parts.slice(1) : parts;
    const tree = own.map((part) => part.tree).reduce((a, b) => ({ k: 'and', a, b }));
    return { list: parts.flatMap((part) => part.list), tree, ...(own === parts || !noMessage ? {} : { askedWhen: noMessage }) };
  }

  private conditions(path: (string | number)[], text: string): Guard | undefined {
    const formula = new Formula(this.instance.component.document, path, text, this.faults);
    const expression = formula.expression();
    const node = expression && typeExpression(expression, 'BOOL', formula, this.scope);
    return node && { list: clausesOf(text, expression, node), tree: conditionTree(text, expression, node) };
  }

  private awaitedMessage(names: readonly string[], path: (string | number)[]): Node | undefined {
    const guard = this.events.guard(names);
    if (!('unknown' in guard)) return guard;
    const fix = guard.near ? `Did you mean "${guard.near}"?` : 'Declare it under messages: in: of the face, or RAISE it in this chart.';
    this.faults.add('unknown-name', this.instance.component.document.place(path), `This chart receives no message "${guard.unknown}".`, fix);
    return undefined;
  }

  private typed(path: (string | number)[], text: string, type: 'BOOL' | undefined): Node | undefined {
    return typeFormula(new Formula(this.instance.component.document, path, text, this.faults), type, this.scope);
  }

  /** (hit − hit of entry) × period ≥ duration, all in whole nanoseconds. */
  private elapsed(state: ChartState, after: string | number | boolean, path: (string | number)[], periodNs: number): Node | undefined {
    const site = this.builder.site(this.instance.component.document.place(path), `after ${String(after)}`);
    const duration = this.durationNode(after, path, site);
    if (!duration) return undefined;
    state.timed = true;
    const hits: Node = arithmetic('LREAL', '-', hitNumber, slotValue('LREAL', state.since), site);
    const a: Node = arithmetic('LREAL', '*', hits, constant('LREAL', periodNs), site);
    return comparison('>=', a, duration);
  }

  private durationNode(after: string | number | boolean, path: (string | number)[], site: number): Node | undefined {
    const { document } = this.instance.component;
    if (typeof after === 'string' && /^\s*(\d|T(IME)?#)/i.test(after)) {
      const value = readTime(after, document.place(path), this.faults);
      return value === undefined ? undefined : constant('LREAL', value);
    }
    const node = this.typed(path, String(after), undefined);
    if (!node) return undefined;
    if (node.type === 'TIME') return node;
    if (node.k === 'const' || node.type === 'BOOL') {
      this.faults.add(
        'time',
        document.place(path),
        `"${String(after)}" is not a duration.`,
        'Write a duration such as 5 s, or a parameter in seconds.',
      );
      return undefined;
    }
    const a: Node = arithmetic('LREAL', '*', node, constant('LREAL', 1e9), site);
    return { k: 'convert', type: 'TIME', how: 'round', a, site };
  }

  private tellUnreachable(): void {
    const reached = new Set<ChartState>();
    const reach = ({ targets }: { readonly targets: readonly ChartTarget[] }): void => {
      for (const target of targets)
        for (let at: ChartState | undefined = target.k === 'state' ? target : target.owner; at && !reached.has(at); at = at.region.parent)
          reached.add(at);
    };
    for (const region of this.allRegions) reach(region.initial);
    for (const { transitions, histories } of this.allStates) {
      transitions.forEach(reach);
      for (const { fallback } of histories) reach(fallback);
    }
    for (const state of this.allStates) {
      if (reached.has(state)) continue;
      // Charts from elsewhere may hold such states; they are pointed out, but no mistake.
      const tell = this.behaviour.bareStates ? this.faults.warn : this.faults.add;
      tell.call(
        this.faults,
        'unreachable-state',
        this.instance.component.document.keyPlace(state.path),
        `No transition leads to the state "${state.names.join('.')}".`,
        'Add a transition to it, or remove it.',
      );
    }
  }
}

function named(text: string, node: Node | undefined): Guard | undefined {
  return node && { list: [{ text, node }], tree: { k: 'condition', text, node } };
}

/** A guard as its outermost parts, which must all be TRUE, and as the whole tree of its conditions. */
interface Guard {
  readonly list: readonly Clause[];
  readonly tree: ConditionTree;
  /** When it is asked, unless always. */
  readonly askedWhen?: Node;
}

const zero: Node = constant('LREAL', 0);

function listed(names: string | readonly string[]): readonly string[] {
  return typeof names === 'string' ? [names] : names;
}

/** Everything that some transition waits for. */
function awaited(regions: Readonly<Record<string, RawRegion>>): string[] {
  const ofState = (state: RawState): string[] => [
    ...(state.go ?? []).flatMap((transition) => listed(transition.on ?? [])),
    ...Object.values(state.states ?? {}).flatMap(ofState),
    ...awaited(state.regions ?? {}),
  ];
  return Object.values(regions).flatMap((region) => Object.values(region.states).flatMap(ofState));
}
