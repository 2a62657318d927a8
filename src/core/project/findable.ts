import { nameKey } from '@/core/language';
import type { CheckedProject } from './check';

/** Something of the model that can be found by its name. */
export interface FindableName {
  readonly name: string;
  readonly unit: string;
  readonly about: string;
  /** The item of the model's outline that shows it. */
  readonly at: string;
}

/** What of a model can be found by name. */
export interface FindableNames {
  readonly loops: readonly FindableName[];
  readonly components: readonly FindableName[];
  /** The signals of all loops, each name once, with the component that has it. */
  readonly signals: readonly FindableName[];
  readonly desks: readonly string[];
}

/** The loops, components, signals and desks of a project. */
export function findableNames({ project, loops }: CheckedProject): FindableNames {
  const signals = new Map<string, FindableName>();
  for (const [key, { catalogue }] of loops) {
    const loop = project.loops.get(key);
    if (!loop) continue;
    const used = new Map(Object.entries(loop.raw.components).map(([instance, { use }]) => [nameKey(instance), use]));
    for (const { name, unit, about, role } of catalogue.entries) {
      const component = role === 'input' ? undefined : used.get(nameKey(name.split('.')[0] ?? ''));
      const at = component === undefined ? `loop:${loop.raw.loop}` : `component:${component}`;
      if (!signals.has(nameKey(name))) signals.set(nameKey(name), { name, unit, about, at });
    }
  }
  return {
    loops: [...project.loops.values()].map(({ raw }) => ({ name: raw.loop, unit: '', about: raw.about ?? '', at: `loop:${raw.loop}` })),
    components: [...project.components.values()].map(({ raw }) => ({
      name: raw.component,
      unit: '',
      about: raw.about ?? '',
      at: `component:${raw.component}`,
    })),
    signals: [...signals.values()],
    desks: [...project.desks.values()].map(({ raw }) => raw.desk),
  };
}
