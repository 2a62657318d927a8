import type { Project } from '@/core/documents';
import { nameKey } from '@/core/language';
import type { CheckedProject } from '@/core/project';
import type { RawComponent } from '@/core/shapes';
import type { Path } from '@/core/yaml';
import type { NameAt } from './names';

/** What a name in a document stands for, as far as it can be renamed. */
export type Target =
  | { readonly k: 'component' | 'loop'; readonly name: string }
  | { readonly k: 'instance'; readonly loop: string; readonly name: string }
  /** Input, output, parameter, variable, continuous state, region or part of a component. */
  | { readonly k: 'member'; readonly component: string; readonly name: string };

/** What the `index`-th part of a name in a file stands for; a text says why it cannot be renamed. */
export function targetOf(checked: CheckedProject, file: string, text: string, name: NameAt, index: number): Target | string {
  const { project } = checked;
  const part = name.parts[index];
  if (!part) return nothing;
  const word = part.text;
  const component = componentAround(project, file, text, part.from);
  const used = project.components.get(nameKey(word));
  const loop = [...project.loops.values()].find((one) => one.document.file === file);
  if (component) {
    if (nameKey(word) === nameKey(component.raw.component) && !membersOf(project, component.raw.component).has(nameKey(word)))
      return { k: 'component', name: component.raw.component };
    if (index === 0 && membersOf(project, component.raw.component).has(nameKey(word)))
      return { k: 'member', component: component.raw.component, name: word };
    if (used) return { k: 'component', name: used.raw.component };
    const inner = index === 1 ? partUse(component.raw.behaviour, name.parts[0]?.text ?? '') : undefined;
    if (inner && membersOf(project, inner).has(nameKey(word))) return { k: 'member', component: inner, name: word };
    return nothing;
  }
  if (loop) {
    if (name.path[0] === 'loop') return { k: 'loop', name: loop.raw.loop };
    const instance = (key: string): string | undefined => Object.entries(loop.raw.components).find(([own]) => nameKey(own) === nameKey(key))?.[1].use;
    if (index === 0 && instance(word) !== undefined) return { k: 'instance', loop: loop.raw.loop, name: word };
    if (used) return { k: 'component', name: used.raw.component };
    const owner = instance(index === 1 ? (name.parts[0]?.text ?? '') : String(name.path[1] ?? ''));
    return owner && membersOf(project, owner).has(nameKey(word)) ? { k: 'member', component: owner, name: word } : nothing;
  }
  if (name.path[0] === 'loop' && file.startsWith('cases/')) return { k: 'loop', name: word };
  for (const [key, assembled] of checked.loops)
    for (const full of assembled.catalogue.fullNames(name.parts.map((one) => one.text))) {
      const parts = full.split('.');
      const at = index + parts.length - name.parts.length;
      const use = project.loops.get(key)?.raw.components[parts[0] ?? '']?.use;
      if (at === 0 && use) return { k: 'instance', loop: key.split('/')[0] ?? key, name: word };
      if (at === 1 && use) return { k: 'member', component: use, name: word };
    }
  return nothing;
}

const nothing =
  'This is no name of a component, a loop, an instance in a loop, or something of a component such as an input, a parameter or a region.';

/** Names of a component by which others know what is inside it. */
export function membersOf(project: Project, component: string): ReadonlySet<string> {
  const raw = project.components.get(nameKey(component))?.raw;
  return new Set(raw ? memberGroups(raw).flatMap(({ entries }) => Object.keys(entries).map(nameKey)) : []);
}

/** The mappings of a component in which its members stand, with their paths in its document. */
export function memberGroups(raw: RawComponent): { readonly path: Path; readonly entries: object }[] {
  const behaviour = raw.behaviour as unknown as Readonly<Record<string, unknown>>;
  const face = (['inputs', 'outputs', 'parameters'] as const).map((group) => ({ path: [group], entries: raw[group] as unknown }));
  const inside = ['states', 'let', 'variables', 'regions', 'parts'].map((group) => ({ path: ['behaviour', group], entries: behaviour[group] }));
  return [...face, ...inside].flatMap(({ path, entries }) => (typeof entries === 'object' && entries !== null ? [{ path, entries }] : []));
}

/** The component a place in a file belongs to: a file of Structured Text may hold several. */
export function componentAround(project: Project, file: string, text: string, offset: number): ReturnType<Project['components']['get']> {
  const inFile = [...project.components.values()].filter((one) => one.document.file === file);
  if (inFile.length < 2) return inFile[0];
  const before = [...text.slice(0, offset + 1).matchAll(/(?<!END_)FUNCTION_BLOCK\s+(\w+)/gi)].at(-1)?.[1] ?? '';
  return inFile.find((one) => nameKey(one.raw.component) === nameKey(before)) ?? inFile[0];
}

/** What a part of a network is made of. */
export function partUse(behaviour: object, part: string): string | undefined {
  const parts = (behaviour as { parts?: Readonly<Record<string, { use: string }>> }).parts ?? {};
  return Object.entries(parts).find(([name]) => nameKey(name) === nameKey(part))?.[1].use;
}
