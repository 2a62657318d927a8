import type { SourceFile } from '@/core/documents';
import { isIdentifier, nameKey } from '@/core/language';
import { type CheckedProject, checkProject } from '@/core/project';
import { type NameAt, namesOf, nameUnder } from './names';
import { sameMeaning } from './sameMeaning';
import { componentAround, membersOf, partUse, type Target, targetOf } from './target';

/** Documents in which a name has been replaced, or why it cannot be. */
export type Renamed = { readonly files: readonly SourceFile[]; readonly places: number; readonly was: string } | { readonly refused: string };

/**
 * Renames what the name at an offset of a file stands for, in all documents of a project. Prose stays as it is. What comes out is checked against what was:
 * a renaming after which anything means something else is refused.
 * @param offset place in the text of the file, within the name or at its end
 */
export function renameAt(files: readonly SourceFile[], file: string, offset: number, to: string): Renamed {
  const text = files.find((one) => one.path === file)?.text;
  if (text === undefined) return { refused: `There is no document ${file}.` };
  if (!isIdentifier(to)) return { refused: `"${to}" is no name: use letters, digits and single underscores, a letter first.` };
  const before = checkProject(files);
  const under = nameUnder(file, text, offset);
  if (!under) return { refused: 'There is no name at this place.' };
  const target = targetOf(before, file, text, under.name, under.index);
  if (typeof target === 'string') return { refused: target };
  const taken = takenBy(before, target, to);
  if (taken) return { refused: taken };
  let places = 0;
  const changed = files.flatMap((one) => {
    const edits = namesOf(one.path, one.text).flatMap((found) => {
      const at = partToReplace(before, target, one, found);
      const part = at === undefined ? undefined : found.parts[at];
      return part && nameKey(part.text) === nameKey(target.name) ? [part] : [];
    });
    places += edits.length;
    return edits.length === 0 ? [] : [{ path: one.path, text: replaced(one.text, edits, to) }];
  });
  const after = new Map(changed.map((one) => [one.path, one]));
  const difference = sameMeaning(before, checkProject(files.map((one) => after.get(one.path) ?? one)));
  return difference ? { refused: difference } : { files: changed, places, was: target.name };
}

/** Somebody else has the name already. */
function takenBy({ project }: CheckedProject, target: Target, to: string): string | undefined {
  const key = nameKey(to);
  if (key === nameKey(target.name)) return undefined;
  switch (target.k) {
    case 'component':
      return project.components.has(key) ? `There is a component "${to}" already.` : undefined;
    case 'loop':
      return project.loops.has(key) ? `There is a loop "${to}" already.` : undefined;
    case 'instance': {
      const names = Object.keys(project.loops.get(nameKey(target.loop))?.raw.components ?? {});
      return names.some((name) => nameKey(name) === key) ? `The loop ${target.loop} has a "${to}" already.` : undefined;
    }
    case 'member':
      return membersOf(project, target.component).has(key) ? `${target.component} has a "${to}" already.` : undefined;
  }
}

function replaced(text: string, edits: readonly { readonly text: string; readonly from: number }[], to: string): string {
  return [...edits]
    .sort((a, b) => b.from - a.from)
    .reduce((whole, { text: old, from }) => whole.slice(0, from) + to + whole.slice(from + old.length), text);
}

/** Keys whose values are prose or words of the language, not names of the project. */
const words = new Set([
  ...['about', 'unit', 'type', 'kind', 'picture', 'text', 'source', 'note', 'method', 'tuning', 'accepted'],
  ...['project', 'section', 'requirement', 'criterion', 'case', 'like', 'tags', 'meant_for', 'parameter_set', 'parameter_sets', 'start_from'],
]);

/** Which part of a name in a document is the target, if any. */
function partToReplace(checked: CheckedProject, target: Target, file: SourceFile, name: NameAt): number | undefined {
  const { path, isKey, parts } = name;
  if (!isKey && path.some((step) => words.has(String(step)))) return undefined;
  if (!isKey && isShown(file.path, String(path.at(-1)))) return undefined;
  if (file.path.startsWith('campaigns/') && !isNamedInCampaign(name)) return undefined;
  switch (target.k) {
    case 'component':
      return namesComponent(file, name) ? 0 : undefined;
    case 'loop':
      return !isKey && path.length === 1 && path[0] === 'loop' ? 0 : undefined;
    case 'instance':
      return instancePart(checked, target, file, name);
    case 'member':
      return parts.length > 0 ? memberPart(checked, target, file, name) : undefined;
  }
}

/** A campaign names things of the project in what varies and in what is measured, and nowhere else. */
function isNamedInCampaign({ path, isKey }: NameAt): boolean {
  return isKey ? path.length === 2 && path[0] === 'vary' : path[0] === 'measures';
}

/** Words of a desk or a scene that name forms, buttons and parts of a picture, and no thing of the project. */
function isShown(file: string, key: string): boolean {
  if (file.startsWith('scenes/')) return key !== 'by' && key !== 'loop';
  return file.startsWith('desks/') && (key === 'as' || key === 'button' || key === 'desk');
}

function namesComponent({ path: file, text }: SourceFile, { path, isKey, parts }: NameAt): boolean {
  if (/\.st$/i.test(file) || path.at(-1) === 'body') return /(:|FUNCTION_BLOCK|FUNCTION)\s*$/i.test(text.slice(0, parts[0]?.from));
  return !isKey && (path.at(-1) === 'use' || (path.length === 1 && path[0] === 'component'));
}

function instancePart(
  checked: CheckedProject,
  target: Target & { readonly k: 'instance' },
  file: SourceFile,
  { path, isKey, parts }: NameAt,
): number | undefined {
  const loop = checked.project.loops.get(nameKey(target.loop));
  if (file.path === loop?.document.file) return isKey ? (path.at(-2) === 'components' ? 0 : undefined) : parts.length > 1 ? 0 : undefined;
  if (/^(components|loops)\//.test(file.path)) return undefined;
  return partInCatalogue(checked, parts, 0, (full, key) => nameKey(full[0] ?? '') === nameKey(target.name) && ofLoop(key, target.loop));
}

function ofLoop(key: string, loop: string): boolean {
  return key === nameKey(loop) || key.startsWith(`${nameKey(loop)}/`);
}

function memberPart(checked: CheckedProject, target: Target & { readonly k: 'member' }, file: SourceFile, name: NameAt): number | undefined {
  const { path, isKey, parts } = name;
  const { project } = checked;
  const own = componentAround(project, file.path, file.text, parts[0]?.from ?? 0);
  const isOwn = (use: string | undefined): boolean => use !== undefined && nameKey(use) === nameKey(target.component);
  if (own && isOwn(own.raw.component))
    return isKey && path[0] === 'component' ? undefined : path.length === 1 && path[0] === 'component' ? undefined : 0;
  if (own) {
    // A part of a network: its settings by key, its outputs behind its name.
    if (isKey && path.at(-4) === 'parts' && isOwn(partUse(own.raw.behaviour, String(path.at(-3))))) return 0;
    return parts.length > 1 && isOwn(partUse(own.raw.behaviour, parts[0]?.text ?? '')) ? 1 : undefined;
  }
  const loop = [...project.loops.values()].find((one) => one.document.file === file.path);
  if (loop) {
    const use = (instance: string): string | undefined => loop.raw.components[instance]?.use;
    if (isKey) return path.at(-2) === 'parameters' && isOwn(use(String(path.at(-3)))) ? 0 : undefined;
    return parts.length > 1 && isOwn(use(parts[0]?.text ?? '')) ? 1 : undefined;
  }
  return partInCatalogue(checked, parts, 1, (full, key) => isOwn(project.loops.get(key)?.raw.components[full[0] ?? '']?.use));
}

/** Where a name means something whose full name fits, the part of it that stands for the `wanted`-th part of the full one. */
function partInCatalogue(
  checked: CheckedProject,
  parts: NameAt['parts'],
  wanted: number,
  fits: (full: readonly string[], loop: string) => boolean,
): number | undefined {
  for (const [key, { catalogue }] of checked.loops)
    for (const name of catalogue.fullNames(parts.map((one) => one.text))) {
      const full = name.split('.');
      const at = wanted - (full.length - parts.length);
      if (at >= 0 && fits(full, key)) return at;
    }
  return undefined;
}
