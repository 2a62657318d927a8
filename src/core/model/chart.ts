import type { Faults } from '../fault';
import { nameKey, nearestName } from '../language';
import type { Node, SlotNumber, Work } from '../plan';
import type { PlanBuilder } from './builder';
import { type ChartRegion, type ChartState, type ChartTransition, lowerChart } from './chartLowering';
import { faceNames, scopeOf } from './equations';
import { Formula } from './formula';
import { type Instance, slotNode } from './instance';
import type { RawChart, RawRegion, RawState, RawTransition } from './raw';
import { lowerStatements, plainStatementScope, type Variable } from './statements';
import { taskTiming } from './timing';
import { type Found, type Scope, typeExpression } from './typing';
import { declare, readTime, readValue } from './values';

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
  private scope: Scope;

  constructor(
    private readonly instance: Instance,
    private readonly behaviour: RawChart,
    private readonly builder: PlanBuilder,
    private readonly faults: Faults,
  ) {
    this.names = faceNames(instance);
    this.scope = scopeOf(this.names, builder);
  }

  read(): void {
    const { instance, behaviour, builder, faults } = this;
    const { document } = instance.component;
    const timing = taskTiming(instance, behaviour, faults);
    this.declareVariables();
    const regions = this.regions(['behaviour', 'regions'], behaviour.regions, undefined);
    this.scope = this.withStates();
    for (const state of this.allStates) this.readActions(state);
    for (const state of this.allStates) this.readTransitions(state, timing?.periodNs ?? 1);
    this.tellUnreachable();
    if (!timing) return;
    const site = builder.site(document.place(['behaviour', 'regions']), instance.name);
    builder.parts.tasks.push({
      component: instance.name,
      ...timing,
      work: lowerChart(regions, this.allRegions, builder, site),
      logged: this.logged,
    });
  }

  private declareVariables(): void {
    for (const [key, port] of this.instance.outputs) {
      this.names.set(key, { node: slotNode(port), unit: port.unit });
      this.writable.set(key, port);
      this.logged.push(port.slot);
    }
    for (const [name, raw] of Object.entries(this.behaviour.variables ?? {})) {
      const declared = declare(`${this.instance.name}.${name}`, raw, typeof raw.start === 'boolean' ? 'BOOL' : 'LREAL');
      const place = this.instance.component.document.place(['behaviour', 'variables', name, 'start']);
      const start = readValue(raw.start ?? (declared.type === 'BOOL' ? false : declared.type === 'TIME' ? '0 s' : 0), declared, place, this.faults);
      const slot = this.builder.slot({ ...declared, start: start ?? 0 });
      this.names.set(nameKey(name), { node: { k: 'slot', type: declared.type, slot }, unit: declared.unit });
      this.writable.set(nameKey(name), { slot, type: declared.type });
      this.logged.push(slot);
    }
  }

  private regions(path: string[], raws: Readonly<Record<string, RawRegion>>, parent: ChartState | undefined): ChartRegion[] {
    return Object.entries(raws).map(([name, raw]) => this.region([...path, name], name, raw.initial, raw.states, parent));
  }

  private region(
    path: string[],
    name: string,
    initial: string,
    raws: Readonly<Record<string, RawState>>,
    parent: ChartState | undefined,
  ): ChartRegion {
    const { builder, instance } = this;
    const names = [...(parent?.names ?? []), ...(name ? [name] : [])];
    const fullName = [instance.name, ...names].join('.');
    const slot = builder.slot({ name: fullName, type: 'INT', unit: '', start: 0 });
    this.logged.push(slot);
    const region: ChartRegion = { slot, choice: builder.hidden(`${fullName} choice`), parent, states: [], initial: 0, name: fullName };
    this.allRegions.push(region);
    const document = instance.component.document;
    const statesPath = name || !parent ? [...path, 'states'] : path;
    for (const [stateName, raw] of Object.entries(raws)) {
      const statePath = [...statesPath, stateName];
      if (region.states.some((state) => nameKey(state.names.at(-1) ?? '') === nameKey(stateName))) {
        this.faults.add(
          'duplicate-name',
          document.keyPlace(statePath),
          `The state "${stateName}" stands twice in its region.`,
          'Rename one of the two.',
        );
      }
      const state: ChartState = {
        names: [...names, stateName],
        path: statePath,
        raw,
        region,
        number: region.states.length + 1,
        mark: builder.nextMark(),
        since: builder.hidden(`${fullName}.${stateName} since`, -1),
        regions: [],
        entry: [],
        stay: [],
        exit: [],
        transitions: [],
      };
      region.states.push(state);
      this.allStates.push(state);
      if (raw.states) state.regions.push(this.region([...statePath, 'states'], '', raw.initial ?? '', raw.states, state));
      if (raw.regions) state.regions.push(...this.regions([...statePath, 'regions'], raw.regions, state));
    }
    const found = region.states.findIndex((state) => nameKey(state.names.at(-1) ?? '') === nameKey(initial));
    if (found < 0) {
      const place = document.place([...(name || !parent ? path : path.slice(0, -1)), 'initial']);
      this.faults.add('unknown-name', place, `The initial state "${initial}" is not in this region.`, this.suggestState(initial));
    }
    region.initial = Math.max(0, found);
    builder.parts.regions.push({
      slot,
      name: fullName,
      states: region.states.map((state) => ({ name: state.names.at(-1) ?? '', mark: state.mark })),
    });
    return region;
  }

  private suggestState(name: string): string {
    const near = nearestName(
      name,
      this.allStates.map((state) => state.names.at(-1) ?? ''),
    );
    return near ? `Did you mean "${near}"?` : 'Name one of its states.';
  }

  /** Guards may ask whether a state is active: `region.State`. */
  private withStates(): Scope {
    const plain = scopeOf(this.names, this.builder);
    return {
      ...plain,
      find: (path) => {
        const value = plain.find(path);
        if (value || path.length < 2) return value;
        const state = this.stateNamed(path);
        return state ? { node: activeNode(state) } : undefined;
      },
      names: () => [...this.names.keys(), ...this.allStates.map((state) => state.names.join('.'))],
    };
  }

  private stateNamed(path: readonly string[]): ChartState | undefined {
    const wanted = path.map(nameKey);
    const matches = this.allStates.filter((state) => state.names.slice(-wanted.length).every((name, index) => nameKey(name) === wanted[index]));
    return matches.length === 1 ? matches[0] : matches.find((state) => state.names.length === wanted.length);
  }

  private readActions(state: ChartState): void {
    for (const kind of ['entry', 'stay', 'exit'] as const) {
      const text = state.raw[kind];
      if (text !== undefined) state[kind] = this.actions([...state.path, kind], text);
    }
  }

  private actions(path: (string | number)[], text: string): Work[] {
    const formula = new Formula(this.instance.component.document, path, text, this.faults);
    const scope = plainStatementScope(this.scope, this.writable);
    return lowerStatements(formula.statements(), formula, scope, this.builder);
  }

  private readTransitions(state: ChartState, periodNs: number): void {
    (state.raw.go ?? []).forEach((raw, index) => {
      const path = [...state.path, 'go', index];
      const target = raw.to === undefined ? undefined : this.target(state, raw.to, path);
      if (raw.to !== undefined && !target) return;
      const guard = this.guard(state, raw, path, periodNs);
      if (!guard) return;
      const transition: ChartTransition = {
        source: state,
        guard,
        action: raw.do === undefined ? [] : this.actions([...path, 'do'], raw.do),
        ...(target ? { target: target.state, domain: target.domain } : {}),
      };
      state.transitions.push(transition);
    });
  }

  private target(source: ChartState, name: string, path: (string | number)[]): { state: ChartState; domain: ChartRegion } | undefined {
    const { document } = this.instance.component;
    const place = document.place([...path, 'to']);
    const parts = name.split('.');
    const state = parts.length === 1 ? this.nearestState(source, name) : this.stateNamed(parts);
    if (!state) {
      this.faults.add('unknown-name', place, `There is no state "${name}" to go to.`, this.suggestState(name));
      return undefined;
    }
    const domain = commonRegion(source, state);
    if (!domain) {
      this.faults.add(
        'type',
        place,
        `"${name}" lies in another parallel region.`,
        'Go to a state of the same region; let the other region react with a guard of its own.',
      );
      return undefined;
    }
    return { state, domain };
  }

  /** A bare name means the state of that name nearest to the source: same region first, then outward, then anywhere. */
  private nearestState(source: ChartState, name: string): ChartState | undefined {
    const key = nameKey(name);
    const named = (state: ChartState): boolean => nameKey(state.names.at(-1) ?? '') === key;
    for (let at: ChartState | undefined = source; at; at = at.region.parent) {
      const found = at.region.states.find(named);
      if (found) return found;
    }
    const anywhere = this.allStates.filter(named);
    return anywhere.length === 1 ? anywhere[0] : undefined;
  }

  private guard(state: ChartState, raw: RawTransition, path: (string | number)[], periodNs: number): Node | undefined {
    const parts: (Node | undefined)[] = [];
    if (raw.after !== undefined) parts.push(this.elapsed(state, raw.after, [...path, 'after'], periodNs));
    if (raw.when !== undefined) parts.push(this.typed([...path, 'when'], String(raw.when), 'BOOL'));
    return parts.reduce((a, b) => (a && b ? { k: 'logic', type: 'BOOL', operator: 'AND', a, b } : undefined));
  }

  private typed(path: (string | number)[], text: string, type: 'BOOL' | undefined): Node | undefined {
    const formula = new Formula(this.instance.component.document, path, text, this.faults);
    const expression = formula.expression();
    return expression ? typeExpression(expression, type, formula, this.scope) : undefined;
  }

  /** (hit − hit of entry) × period ≥ duration, all in whole nanoseconds. */
  private elapsed(state: ChartState, after: string | number | boolean, path: (string | number)[], periodNs: number): Node | undefined {
    const site = this.builder.site(this.instance.component.document.place(path), `after ${String(after)}`);
    const duration = this.durationNode(after, path, site);
    if (!duration) return undefined;
    state.timed = true;
    const hits: Node = {
      k: 'arithmetic',
      type: 'LREAL',
      operator: '-',
      a: { k: 'hit', type: 'LREAL' },
      b: { k: 'slot', type: 'LREAL', slot: state.since },
      site,
    };
    const a: Node = { k: 'arithmetic', type: 'LREAL', operator: '*', a: hits, b: { k: 'const', type: 'LREAL', value: periodNs }, site };
    return { k: 'compare', type: 'BOOL', operator: '>=', a, b: duration };
  }

  private durationNode(after: string | number | boolean, path: (string | number)[], site: number): Node | undefined {
    const { document } = this.instance.component;
    if (typeof after === 'string' && /^\s*(\d|T(IME)?#)/i.test(after)) {
      const value = readTime(after, document.place(path), this.faults);
      return value === undefined ? undefined : { k: 'const', type: 'LREAL', value };
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
    const a: Node = { k: 'arithmetic', type: 'LREAL', operator: '*', a: node, b: { k: 'const', type: 'LREAL', value: 1e9 }, site };
    return { k: 'convert', type: 'TIME', how: 'round', a, site };
  }

  private tellUnreachable(): void {
    const targets = new Set<ChartState>();
    for (const state of this.allStates) {
      for (const { target } of state.transitions) {
        for (let at = target; at; at = at.region.parent) targets.add(at);
      }
    }
    for (const state of this.allStates) {
      const initial = state.region.states[state.region.initial] === state;
      if (!initial && !targets.has(state)) {
        this.faults.add(
          'unreachable-state',
          this.instance.component.document.keyPlace(state.path),
          `No transition leads to the state "${state.names.join('.')}".`,
          'Add a transition to it, or remove it.',
        );
      }
    }
  }
}

export function activeNode(state: Pick<ChartState, 'number' | 'region'>): Node {
  return {
    k: 'compare',
    type: 'BOOL',
    operator: '=',
    a: { k: 'slot', type: 'INT', slot: state.region.slot },
    b: { k: 'const', type: 'INT', value: state.number },
  };
}

/** The innermost region that holds source and target; everything in it that is active is left. `undefined` across parallel regions. */
function commonRegion(source: ChartState, target: ChartState): ChartRegion | undefined {
  const ancestry = (state: ChartState): ChartState[] => (state.region.parent ? [...ancestry(state.region.parent), state] : [state]);
  const [a, b] = [ancestry(source), ancestry(target)];
  let common: ChartRegion | undefined;
  for (let depth = 0; depth < Math.min(a.length, b.length); depth += 1) {
    if (a[depth]?.region !== b[depth]?.region) return undefined;
    common = a[depth]?.region;
    if (a[depth] !== b[depth]) break;
  }
  return common;
}
