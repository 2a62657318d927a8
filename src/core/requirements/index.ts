export { editRequirement, type RequirementChange } from './edit';
export {
  type CriterionView,
  inspectRequirements,
  meaningOf,
  type ReadingState,
  type RequirementsInspection,
  type RequirementView,
  type SentenceMeaning,
} from './inspect';
export { criterionName } from './name';
