import type { Faults } from '@/core/fault';
import { nameKey } from '@/core/language';
import type { RawChart, RawRegion, RawState } from '@/core/shapes';
import type { Instance } from '../instance';
import { namesUsed } from '../namesUsed';
import { ancestry, type ChartState } from './types';

/** What is suspicious in a chart, though it runs: states without a way out, guards that stand twice, variables that nobody reads or writes. */
export class ChartWarnings {
  constructor(
    private readonly instance: Instance,
    private readonly behaviour: RawChart,
    private readonly states: readonly ChartState[],
    private readonly faults: Faults,
  ) {}

  tell(): void {
    for (const state of this.states) {
      this.tellStuck(state);
      this.tellTwice(state);
    }
    this.tellVariables();
  }

  private tellStuck(state: ChartState): void {
    const isLast = state.raw.final || state.regions.length > 0 || state.region.states.length === 1;
    const leaves = ancestry(state).some((one) => (one.raw.go ?? []).some((transition) => transition.to !== undefined));
    if (isLast || leaves || this.behaviour.bareStates) return;
    this.faults.warn(
      'no-way-out',
      this.instance.component.document.keyPlace(state.path),
      `Nothing leads out of the state "${state.names.join('.')}".`,
      'Add a transition, or mark it as final: true.',
    );
  }

  private tellTwice(state: ChartState): void {
    const { go = [] } = state.raw;
    if (go.length < 2) return;
    const seen = new Set<string>();
    go.forEach(({ on, when, after }, index) => {
      const cause = [on, when, after].join(' | ').replace(/\s+/g, ' ').toLowerCase();
      if (seen.has(cause))
        this.faults.warn(
          'same-guard',
          this.instance.component.document.place([...state.path, 'go', index]),
          `An earlier transition has the same condition; this one is never taken.`,
          'Remove it, or make the two conditions exclude each other.',
        );
      seen.add(cause);
    });
  }

  private tellVariables(): void {
    const names = Object.keys(this.behaviour.variables ?? {});
    if (names.length === 0) return;
    const used = namesUsed([...textsOf(this.behaviour.regions), this.behaviour.prologue ?? '']);
    for (const name of names) {
      const use = used.get(nameKey(name));
      const place = this.instance.component.document.keyPlace(['behaviour', 'variables', name]);
      if (!use) this.faults.warn('unused', place, `The variable "${name}" is not used.`, 'Remove it.');
      else if (!use.written)
        this.faults.warn('never-written', place, `The variable "${name}" is read, but never written.`, 'Make it a parameter, or assign to it.');
      else if (!use.read && !this.isOutput(name))
        this.faults.warn('unused', place, `The variable "${name}" is written, but never read.`, 'Make it an output, or remove it.');
    }
  }

  private isOutput(name: string): boolean {
    return this.instance.outputs.has(nameKey(name));
  }
}

/** All expressions and statements of a chart. */
function textsOf(regions: Readonly<Record<string, RawRegion>>): string[] {
  const texts: string[] = [];
  const add = (...found: (string | number | boolean | undefined)[]): void => {
    for (const one of found) if (one !== undefined) texts.push(String(one));
  };
  const addState = (state: RawState): void => {
    add(state.entry, state.stay, state.exit, state.initial_do);
    for (const { when, after, do: action } of state.go ?? []) add(when, after, action);
    for (const history of Object.values(state.history ?? {})) add(history.do);
    Object.values(state.states ?? {}).forEach(addState);
    addRegions(state.regions ?? {});
  };
  const addRegions = (all: Readonly<Record<string, RawRegion>>): void => {
    for (const region of Object.values(all)) {
      add(region.initial_do);
      Object.values(region.states).forEach(addState);
    }
  };
  addRegions(regions);
  return texts;
}
