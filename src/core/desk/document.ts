import { stringify } from 'yaml';
import { fileNameOf, type SourceFile } from '@/core/documents';
import type { DeskButton, DeskItem, RawDesk } from '@/core/shapes';

/** What of a desk is written down. */
export interface KeptDesk {
  readonly name: string;
  readonly about: string;
  readonly file?: string;
  readonly loop: string;
  readonly variant?: string;
  readonly startFrom?: string;
  readonly requirements: readonly string[];
  readonly buttons: readonly DeskButton[];
}

/** A desk with its present items as a document of the project; one that has no name yet is called after what it watches. */
export function deskDocument(desk: KeptDesk, items: readonly DeskItem[]): SourceFile {
  const name = desk.name || `Desk for ${desk.requirements.slice(0, 3).join(', ') || desk.loop}`;
  const document: RawDesk = {
    desk: name,
    ...(desk.about ? { about: desk.about } : {}),
    loop: desk.loop,
    ...(desk.variant ? { variant: desk.variant } : {}),
    ...(desk.startFrom ? { start_from: desk.startFrom } : {}),
    ...(desk.requirements.length > 0 ? { requirements: desk.requirements } : {}),
    items: items.map((item) => Object.fromEntries(Object.entries(item).filter(([, value]) => value !== undefined)) as unknown as DeskItem),
    ...(desk.buttons.length > 0 ? { buttons: desk.buttons } : {}),
  };
  const path = desk.file || `desks/${fileNameOf(name)}.yaml`;
  return { path, text: stringify(document, { lineWidth: 0 }) };
}
