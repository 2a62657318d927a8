import type { CompilerWarning } from '@/core/build';
import type { Plan, SiteNumber } from '@/core/plan';

/**
 * The warnings in what a compiler said.
 * @param places the places of the model that lines of `plan.c` stand for
 */
export function warningsIn(log: string, places: ReadonlyMap<number, SiteNumber>, sites: Plan['sites']): CompilerWarning[] {
  return [...log.matchAll(/^(\S+?):(\d+)(?::\d+)?: warning: (.*)$/gm)].map(([, file = '', line = '', text = '']) => {
    const site = file.endsWith('plan.c') ? places.get(Number(line)) : undefined;
    const place = site === undefined ? undefined : sites[site];
    return { text, source: `${file}:${line}`, ...(place ? { place } : {}) };
  });
}
