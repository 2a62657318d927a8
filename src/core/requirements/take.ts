import { stringify } from 'yaml';
import { fileNameOf, type Project, type RequirementDocument, type SourceFile } from '@/core/documents';
import { nameKey } from '@/core/language';
import { appendToList } from '@/core/yaml';
import type { Difference } from './compare';
import { editRequirement } from './edit';
import type { RequirementItem } from './requirementItem';

/** Requirements in one document; longer sections go on in a further one, so that an edit never reads thousands again. */
const mostInDocument = 200;

/**
 * Carries out what an import would do. A changed text takes back every acceptance of its criteria; what an import no longer holds is dropped only where it is among the differences.
 * @returns the documents that change
 */
export function takeDifferences(files: readonly SourceFile[], project: Project, differences: readonly Difference[]): SourceFile[] {
  const taking = new Taking(files, project);
  for (const difference of differences) taking.take(difference);
  return taking.changed();
}

class Taking {
  private readonly texts = new Map<string, string>();
  private readonly before: ReadonlyMap<string, string>;
  private readonly known: ReadonlyMap<string, RequirementDocument>;
  /** Documents of a section, and how many requirements the last of them holds. */
  private readonly sections = new Map<string, { path: string; count: number }>();
  private readonly added = new Map<string, string[]>();
  private readonly dropped: RequirementDocument[] = [];

  constructor(files: readonly SourceFile[], project: Project) {
    this.before = new Map(files.map((file) => [file.path, file.text]));
    this.known = new Map(project.requirements.map((one) => [nameKey(one.raw.requirement), one]));
    for (const { section, document } of project.requirements) {
      const last = this.sections.get(section);
      this.sections.set(section, { path: document.file, count: last?.path === document.file ? last.count + 1 : 1 });
    }
  }

  take(difference: Difference): void {
    const found = this.known.get(nameKey('item' in difference ? difference.item.id : difference.id));
    switch (difference.k) {
      case 'new':
        this.add(difference.item.section, entryOf(difference.item));
        return;
      case 'changed':
        if (found)
          this.put(found.document.file, editRequirement(this.text(found.document.file), found.path, { k: 'text', text: difference.item.text }));
        return;
      case 'moved':
        if (!found) return;
        this.add(difference.item.section, stringify(found.raw, { lineWidth: 0 }));
        this.dropped.push(found);
        return;
      case 'removed':
        if (found) this.dropped.push(found);
    }
  }

  changed(): SourceFile[] {
    // From behind, so that places of those before stay what they are.
    const last = (one: RequirementDocument): number => Number(one.path.at(-1));
    for (const one of [...this.dropped].sort((a, b) => last(b) - last(a)))
      this.put(one.document.file, editRequirement(this.text(one.document.file), one.path, { k: 'drop' }));
    for (const [path, entries] of this.added) this.put(path, appendToList(this.text(path), 'requirements', entries));
    return [...this.texts].map(([path, text]) => ({ path, text }));
  }

  private add(section: string, entry: string): void {
    let place = this.sections.get(section);
    if (!place || place.count >= mostInDocument) {
      place = { path: this.freePath(section), count: 0 };
      this.put(place.path, stringify({ section }, { lineWidth: 0 }));
    }
    this.sections.set(section, { ...place, count: place.count + 1 });
    this.added.set(place.path, [...(this.added.get(place.path) ?? []), entry]);
  }

  private freePath(section: string): string {
    const name = fileNameOf(section).slice(0, 60) || 'requirements';
    for (let number = 1; ; number += 1) {
      const path = `requirements/${name}${number === 1 ? '' : `-${number}`}.yaml`;
      if (!this.before.has(path) && !this.texts.has(path)) return path;
    }
  }

  private text(path: string): string {
    return this.texts.get(path) ?? this.before.get(path) ?? '';
  }

  private put(path: string, text: string | undefined): void {
    if (text !== undefined) this.texts.set(path, text);
  }
}

function entryOf({ id, text, source, level, verifyBy, relations }: RequirementItem): string {
  return stringify(
    {
      requirement: id,
      text,
      ...(source ? { source } : {}),
      ...(level ? { level } : {}),
      ...(verifyBy ? { verify_by: verifyBy } : {}),
      ...(relations && relations.length > 0 ? { relations } : {}),
    },
    { lineWidth: 0 },
  );
}
