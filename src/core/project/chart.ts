import { messageName, readProject, readScxml } from '@/core/documents';
import { type Fault, Faults } from '@/core/fault';
import { nameKey } from '@/core/language';
import { aloneLoop, assembleLoop } from '@/core/loop';
import type { RawRegion, RawState } from '@/core/shapes';
import { type ScriptStep, simulate } from '@/core/simulate';
import { timeWords } from '@/core/wording';

/** One thing that happens to a chart: a message comes, or time passes. */
export type ChartStep = { readonly message: string } | { readonly passNs: number };

const hitNs = 1_000_000;

/**
 * Runs a state chart of an SCXML document by itself, a hit each millisecond, through the same plan and executive as everything else.
 * @param steps durations are rounded up to whole milliseconds
 * @returns the configurations: first the initial one, then one for each message, and one more for time that passes at the end; each the sorted ids
 * of the active atomic states. Or the faults of the document.
 * @throws {RangeError} when the run ends with an error
 */
export function chartConfigurations(file: string, text: string, steps: readonly ChartStep[]): string[][] | readonly Fault[] {
  const faults = new Faults();
  const messages = steps.flatMap((step) => ('message' in step ? [step.message] : []));
  const chart = readScxml(file, text, faults, messages);
  if (!chart || faults.count > 0) return faults.all();
  const empty = readProject([{ path: 'project.yaml', text: 'project: chart\n' }], faults);
  const project = { ...empty, components: new Map([[nameKey(chart.raw.component), chart]]) };
  const { plan } = assembleLoop(project, aloneLoop(chart, '1 ms'), faults);
  if (faults.count > 0) return faults.all();

  const script: ScriptStep[] = [];
  const wanted = [0];
  let hit = 0;
  const pass = (hits: number): void => {
    hit += hits;
    script.push({ k: 'hold', ns: hits * hitNs });
  };
  steps.forEach((step, index) => {
    if ('passNs' in step) pass(Math.max(1, Math.ceil(step.passNs / hitNs)));
    else {
      pass(1);
      const message = plan.messages.findIndex((one) => nameKey(one.name) === nameKey(`${chart.raw.component}.${messageName(step.message)}`));
      if (message >= 0) script.push({ k: 'send', message, value: 0 });
    }
    if ('message' in step || index === steps.length - 1) wanted.push(hit);
  });
  const stopNs = Math.max(1, hit) * hitNs;
  const experiment = { case: file, plan, stopNs, seed: 0, overrides: [], initial: [], stimuli: [], script, conditions: [] };
  const { trace, error } = simulate(experiment);
  if (error) throw new RangeError(`${error.message} at ${timeWords(error.at)}`);
  const ids = new Map([...chart.states].map(([id, name]) => [name, id]));
  const atomic = atomicStates(chart.raw.behaviour.kind === 'chart' ? chart.raw.behaviour.regions : {});
  return wanted.map((row) =>
    plan.regions
      .flatMap((region) => {
        const active = trace.columns.find((column) => column.slot === region.slot)?.data[row] ?? 0;
        const name = region.states[active - 1]?.name;
        return name !== undefined && atomic.has(name) ? [ids.get(name) ?? name] : [];
      })
      .sort(),
  );
}

function atomicStates(regions: Readonly<Record<string, RawRegion>>): Set<string> {
  const ofState = (name: string, state: RawState): string[] =>
    state.states
      ? Object.entries(state.states).flatMap(([inner, raw]) => ofState(inner, raw))
      : state.regions
        ? [...atomicStates(state.regions)]
        : [name];
  return new Set(Object.values(regions).flatMap((region) => Object.entries(region.states).flatMap(([name, raw]) => ofState(name, raw))));
}
