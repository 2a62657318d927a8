import type { ComponentDocument, Project, SourceFile } from '@/core/documents';
import type { Place } from '@/core/fault';
import { nameKey } from '@/core/language';
import { checkProject } from '@/core/project';
import type { RawRegion } from '@/core/shapes';
import { type Path, readText } from '@/core/yaml';
import { type NameAt, namesOf, nameUnder } from './names';
import { componentAround, memberGroups, type Target, targetOf } from './target';

/**
 * Where that is defined what the name at an offset of a file stands for: a component, a loop, an instance, something of a face, a part, a region or a state,
 * a constant, an enumeration or a function.
 * Nothing for what the language brings along, such as elements and functions.
 * @param offset place in the text of the file, within the name or at its end
 */
export function definitionAt(files: readonly SourceFile[], file: string, offset: number): Place | undefined {
  const text = files.find((one) => one.path === file)?.text ?? '';
  const under = nameUnder(file, text, offset);
  if (!under) return undefined;
  const checked = checkProject(files);
  const target = targetOf(checked, file, text, under.name, under.index);
  if (typeof target !== 'string') return placeOf(checked.project, target);
  const component = componentAround(checked.project, file, text, offset);
  return (component && placeOfState(component, under.name, under.index)) ?? placeOfShared(files, under.name);
}

function placeOf({ components, loops }: Project, target: Target): Place | undefined {
  switch (target.k) {
    case 'component': {
      const component = components.get(nameKey(target.name));
      return component && (placeInText(component) ?? component.document.place(['component']));
    }
    case 'loop':
      return loops.get(nameKey(target.name))?.document.place(['loop']);
    case 'instance': {
      const loop = loops.get(nameKey(target.loop));
      const key = Object.keys(loop?.raw.components ?? {}).find((one) => nameKey(one) === nameKey(target.name));
      return key === undefined ? undefined : loop?.document.keyPlace(['components', key]);
    }
    case 'member': {
      const component = components.get(nameKey(target.component));
      return component && (placeInText(component, target.name) ?? placeOfMember(component, target.name));
    }
  }
}

function placeOfMember({ document, raw }: ComponentDocument, name: string): Place | undefined {
  for (const { path, entries } of memberGroups(raw)) {
    const key = Object.keys(entries).find((one) => nameKey(one) === nameKey(name));
    if (key !== undefined) return document.keyPlace([...path, key]);
  }
  return undefined;
}

/** In a file of Structured Text a block begins with its name, and all it has is declared before it is used. */
function placeInText({ document, raw }: ComponentDocument, member?: string): Place | undefined {
  if (!/\.st$/i.test(document.file) || raw.behaviour.kind !== 'routine') return undefined;
  const text = raw.behaviour.body;
  const names = namesOf(document.file, text).map(({ parts: [first] }) => first);
  const block = names.findIndex((one) => one && nameKey(one.text) === nameKey(raw.component) && /FUNCTION_BLOCK\s+$/i.test(text.slice(0, one.from)));
  const found = member === undefined ? names[block] : names.slice(block).find((one) => one && nameKey(one.text) === nameKey(member));
  return found && document.placesWithin([])(found.from);
}

/** States may be called alike in several regions: meant is the one that what stands before the name leads to, and of these the nearest. */
function placeOfState({ document, raw }: ComponentDocument, { parts, path }: NameAt, index: number): Place | undefined {
  if (raw.behaviour.kind !== 'chart') return undefined;
  const [before, own] = [parts.slice(0, index).map((one) => nameKey(one.text)), nameKey(parts[index]?.text ?? '')];
  const fitting = statePaths(raw.behaviour.regions, ['behaviour']).filter((one) => {
    const keys = one.map((step) => nameKey(String(step)));
    return keys.at(-1) === own && before.every((name) => keys.includes(name));
  });
  const nearness = (one: Path): number => [...one, undefined].findIndex((step, at) => step !== path[at]);
  const [nearest] = fitting.sort((a, b) => nearness(b) - nearness(a));
  return nearest && document.keyPlace(nearest);
}

/** Constants, enumerations and functions are there for the whole project. */
function placeOfShared(files: readonly SourceFile[], { parts }: NameAt): Place | undefined {
  const own = nameKey(parts[0]?.text ?? '');
  for (const { path: file, text } of files) {
    const isText = /\.st$/i.test(file);
    if (!isText && file !== 'definitions.yaml') continue;
    const defines = ({ path, isKey, parts: [first] }: NameAt): boolean =>
      nameKey(first?.text ?? '') === own && (isText ? /FUNCTION\s+$/i.test(text.slice(0, first?.from)) : isKey && path.length === 2);
    const from = namesOf(file, text).find(defines)?.parts[0]?.from;
    if (from !== undefined) return readText(file, text).placesWithin([])(from);
  }
  return undefined;
}

/** Paths of all regions and states of a chart in its document. */
function statePaths(regions: Readonly<Record<string, RawRegion>>, above: Path): Path[] {
  return Object.entries(regions).flatMap(([name, { states }]) => {
    const region = [...above, 'regions', name];
    return [region, ...pathsWithin(states, region)];
  });
}

function pathsWithin(states: RawRegion['states'], above: Path): Path[] {
  return Object.entries(states).flatMap(([name, state]) => {
    const path = [...above, 'states', name];
    return [path, ...pathsWithin(state.states ?? {}, path), ...statePaths(state.regions ?? {}, path)];
  });
}
