import { type Project, type RequirementDocument, readProject, type SourceFile } from '@/core/documents';
import { Faults } from '@/core/fault';
import { compareImport, type Difference, type ImportComparison } from './compare';
import { readMarkdown } from './markdown';
import { readReqif } from './reqif';
import type { RequirementItem } from './requirementItem';
import { type ColumnMapping, itemsOfTable, type Table } from './table';
import { takeDifferences } from './take';

/** Requirements from outside, as they were read. */
export type Brought =
  | { readonly k: 'prose'; readonly text: string }
  | { readonly k: 'table'; readonly table: Table; readonly mapping: ColumnMapping }
  | { readonly k: 'reqif'; readonly text: string };

export interface BroughtIn extends ImportComparison {
  /** Why it could not be read, if so. */
  readonly problem?: string;
}

/** What requirements from outside would do to a project. */
export function bringIn(files: readonly SourceFile[], brought: Brought): BroughtIn {
  const { requirements } = projectOf(files);
  const faults = new Faults();
  const items = itemsOf(
    brought,
    requirements.map((one) => one.raw.requirement),
    faults,
  );
  const [problem] = faults.all();
  return problem
    ? { differences: [], unchanged: 0, doubled: [], problem: `Line ${problem.place.line}: ${problem.message} ${problem.fix}` }
    : compareImport(requirements, items);
}

function itemsOf(brought: Brought, taken: readonly string[], faults: Faults): RequirementItem[] {
  switch (brought.k) {
    case 'prose':
      return readMarkdown(brought.text, taken);
    case 'table':
      return itemsOfTable(brought.table, brought.mapping, taken);
    case 'reqif':
      return readReqif('the file', brought.text, taken, faults);
  }
}

/** The documents of a project with some of the differences taken over. */
export function takeIn(files: readonly SourceFile[], differences: readonly Difference[]): SourceFile[] {
  return takeDifferences(files, projectOf(files), differences);
}

/** All requirements of a project as they go out. */
export function requirementItems(files: readonly SourceFile[]): RequirementItem[] {
  return projectOf(files).requirements.map(({ raw, section }: RequirementDocument) => ({
    id: raw.requirement,
    section,
    text: raw.text,
    ...(raw.source ? { source: raw.source } : {}),
    ...(raw.level === undefined ? {} : { level: String(raw.level) }),
    ...(raw.verify_by ? { verifyBy: raw.verify_by } : {}),
    ...(raw.relations ? { relations: raw.relations } : {}),
  }));
}

function projectOf(files: readonly SourceFile[]): Project {
  return readProject(files, new Faults());
}
