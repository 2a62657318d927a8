export { type Brought, type BroughtIn, bringIn, requirementItems, takeIn } from './bring';
export { compareImport, type Difference, type WordChange } from './compare';
export { editRequirement, type RequirementChange } from './edit';
export { type HistoryEntry, historyOf, type RequirementStep, type RequirementsVersion } from './history';
export {
  type CriterionView,
  inspectRequirements,
  meaningOf,
  type RequirementsInspection,
  type RequirementView,
  requirementsOf,
  type SentenceMeaning,
} from './inspect';
export { readMarkdown, writeMarkdown } from './markdown';
export { criterionName } from './name';
export { readReqif, writeReqif } from './reqif';
export type { RequirementItem } from './requirementItem';
export { guessMapping, itemsOfTable, readCsvTable, type Table, type TableField, tableFields, tableOf, writeCsvTable } from './table';
export { takeDifferences } from './take';
