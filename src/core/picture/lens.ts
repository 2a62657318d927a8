import type { ConditionItem, CoverageItem, CoverageReport } from '@/core/coverage';
import { nameKey } from '@/core/language';
import type { ArrowPicture, Picture, RegionPicture } from './types';

/** How often a part of a drawing was done by runs. */
export interface Seen {
  readonly count: number;
  /** The part, as coverage names it. */
  readonly words: string;
  /** What is missing, in words; of what was never done. */
  readonly gap?: string;
  /** The parts of the coverage that it stands for: one for each place in which its component is used. */
  readonly parts: readonly { readonly id: string; readonly loop: string }[];
}

/** How much was touched of what is behind a slip. */
export interface Share {
  readonly touched: number;
  readonly of: number;
}

/** A line of text on which something can be done, and how often it was. */
export interface SeenLine {
  readonly line: number;
  /** What stands beside it: `×12`, `never`. */
  readonly short: string;
  readonly words: string;
  readonly isMissing: boolean;
}

/** Coverage laid over one drawing and its text. */
export interface Lens {
  /** By the ids of states, and of arrows (`region#index`), and by the titles of slips. */
  readonly states: ReadonlyMap<string, Seen>;
  readonly arrows: ReadonlyMap<string, Seen>;
  readonly slips: ReadonlyMap<string, Share>;
  readonly lines: readonly SeenLine[];
}

type Item = CoverageItem | ConditionItem;

/**
 * Lays coverage over a drawing.
 * @param instances names under which the component is used in loops; nothing of a loop, whose slips are the instances themselves
 * @param file of its text
 */
export function lensOf(report: CoverageReport, picture: Picture, instances: readonly string[] | undefined, file: string): Lens {
  const items: readonly Item[] = [...report.items, ...report.conditions];
  const lines = linesOf(items.filter(({ place }) => place?.file === file));
  const nothing: Lens = { states: new Map(), arrows: new Map(), slips: new Map(), lines };
  if (picture.k === 'chart') return { ...nothing, ...ofChart(report.items, picture.regions, instances ?? []) };
  if (picture.k !== 'net') return nothing;
  const places = instances?.map((one) => `${one}.`) ?? [''];
  const slips = picture.slips.flatMap(({ title }) => {
    const starts = places.map((one) => nameKey(`${one}${title}`));
    const own = items.filter(({ component }) => starts.some((start) => nameKey(component) === start || nameKey(component).startsWith(`${start}.`)));
    return own.length === 0 ? [] : [[title, { touched: own.filter(({ gap }) => gap === undefined).length, of: own.length }] as const];
  });
  return { ...nothing, slips: new Map(slips) };
}

function ofChart(items: readonly CoverageItem[], regions: readonly RegionPicture[], instances: readonly string[]): Pick<Lens, 'states' | 'arrows'> {
  const states = new Map<string, Seen>();
  const arrows = new Map<string, Seen>();
  const found = (wanted: (item: CoverageItem) => boolean): Seen | undefined => together(items.filter(wanted));
  const leaving = (state: string): readonly CoverageItem[] => {
    const full = instances.map((one) => nameKey(`${one}.${state}`));
    return items.filter(({ source, to }) => source !== undefined && to !== '' && full.includes(nameKey(source)));
  };
  const visit = (region: RegionPicture): void => {
    for (const state of region.states) {
      const full = instances.map((one) => nameKey(`${one}.${state.id}`));
      const seen = found((item) => item.kind === 'state' && full.includes(nameKey(item.words)));
      if (seen) states.set(state.id, seen);
      for (const [index, of] of arrowsOf(region.arrows, state.id, leaving(state.id))) arrows.set(`${region.id}#${index}`, of);
      for (const inner of state.regions) visit(inner);
    }
  };
  for (const region of regions) visit(region);
  return { states, arrows };
}

/** The transitions of a state stand in its text in the order of their arrows; one that leads to several states has as many arrows. */
function arrowsOf(arrows: readonly ArrowPicture[], state: string, items: readonly CoverageItem[]): [number, Seen][] {
  const inText = new Map<string, CoverageItem[]>();
  const at = ({ place }: CoverageItem): number => (place?.line ?? 0) * 1e4 + (place?.column ?? 0);
  for (const item of [...items].sort((a, b) => at(a) - at(b))) inText.set(`${at(item)}`, [...(inText.get(`${at(item)}`) ?? []), item]);
  const indices = arrows.flatMap(({ from }, index) => (from === state ? [index] : []));
  return [...inText.values()].flatMap((own): [number, Seen][] => {
    const seen = together(own);
    const count = own[0]?.to?.split(', ').length ?? 1;
    return indices.splice(0, count).flatMap((index): [number, Seen][] => (seen ? [[index, seen]] : []));
  });
}

/** Of a component that is used several times: what is done in one of the places is done. */
function together(items: readonly CoverageItem[]): Seen | undefined {
  const [first] = items;
  if (!first) return undefined;
  const count = items.reduce((sum, one) => sum + one.count, 0);
  const parts = items.map(({ id, loop }) => ({ id, loop }));
  return { count, words: first.words, parts, ...(count === 0 && first.gap !== undefined ? { gap: first.gap } : {}) };
}

/** What was done on each line: of a transition how often, of a decision how often it came out TRUE and FALSE, and which of its conditions was not seen to decide. */
function linesOf(items: readonly Item[]): SeenLine[] {
  const byLine = new Map<number, Item[]>();
  for (const item of items) if (item.place) byLine.set(item.place.line, [...(byLine.get(item.place.line) ?? []), item]);
  return [...byLine]
    .sort(([a], [b]) => a - b)
    .map(([line, own]) => {
      const counted = own.flatMap((one) => ('count' in one ? [one] : []));
      const short = counted.map(({ count }) => (count > 0 ? `×${count}` : 'never')).join(' / ');
      const missing = own.flatMap((one) => (one.gap === undefined ? [] : [one.gap]));
      const words = [...counted.map(({ words: of, count }) => `${of}: ${count > 0 ? `×${count}` : 'never'}`), ...missing].join('\n');
      return { line, short, words, isMissing: missing.length > 0 };
    });
}
