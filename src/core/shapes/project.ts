import Joi from 'joi';
import { either, listOf, object, oneOf, required } from './shape';
import { atLeastOne, byText, type Named, name, named, numeric, type Scalar, scalar, text, title, truth, whole } from './values';

/** Kinds of parts of the logic that cases may have to touch. */
export const coverageKinds = ['states', 'transitions', 'outcomes', 'rows', 'conditions', 'positions', 'limits', 'messages'] as const;
export type CoverageKind = (typeof coverageKinds)[number];

/** Integrity levels of standards that say what tests have to touch. */
export const integrityLevels = [
  'DO-178C A',
  'DO-178C B',
  'DO-178C C',
  'DO-178C D',
  'ISO 26262 ASIL A',
  'ISO 26262 ASIL B',
  'ISO 26262 ASIL C',
  'ISO 26262 ASIL D',
  'IEC 61508 SIL 1',
  'IEC 61508 SIL 2',
  'IEC 61508 SIL 3',
  'IEC 61508 SIL 4',
] as const;
export type IntegrityLevel = (typeof integrityLevels)[number];

/** Where runs are made: on the model, on compiled code of the controllers, on a controller at a bench. */
export const stages = ['model', 'code', 'bench'] as const;
export type Stage = (typeof stages)[number];

/** Where very many runs can be made: a bench makes one at a time, and keeps what it recorded. */
export const manyRunStages = ['model', 'code'] as const;

/** Which components of the loops are the controller, and how they become code. */
export interface RawController {
  /** Components; all sampled ones unless said. */
  readonly components?: readonly string[];
  /** Bits of an LREAL in the code. */
  readonly floats?: 32 | 64;
  /** How far signals of the code may lie from those of the model. */
  readonly tolerances?: Named<number>;
}

/** project.yaml */
export interface RawProject {
  readonly project: string;
  readonly about?: string;
  readonly level?: string;
  readonly stages?: readonly Stage[];
  readonly controller?: RawController;
  /** What cases have to touch: as a level asks, or kinds of parts. */
  readonly coverage?: IntegrityLevel | readonly CoverageKind[];
}

interface RawConstant {
  readonly value: number | boolean;
  readonly unit?: string;
  readonly about?: string;
}

/** definitions.yaml: what several components use. */
export interface RawDefinitions {
  readonly constants?: Named<RawConstant>;
  readonly enumerations?: Named<readonly string[]>;
}

/** words.yaml: what prose calls things, and words that are not wanted in it. */
export interface RawWords {
  /** From a phrase to the name it stands for. */
  readonly synonyms?: Named<string>;
  /** From a word or phrase to what to write instead. */
  readonly vague?: Named<string>;
}

/** coverage.yaml: parts of the logic that no case has to touch, each with its reason. */
export interface RawCoverage {
  readonly justified?: readonly RawJustification[];
}

export interface RawJustification {
  /** Id of the part. */
  readonly part: string;
  readonly reason: string;
  readonly by: string;
  readonly on: string;
  /** What stood for the logic then: with another one it has lapsed. */
  readonly logic: string;
}

/** parameters/*.yaml: a tuning with a name. */
export interface RawParameterSet {
  readonly parameter_set: string;
  readonly about?: string;
  readonly values: Named<Scalar>;
}

export const projectShape = object<RawProject>({
  project: required(title(100)),
  about: text,
  level: text,
  stages: listOf(oneOf(...stages), (schema) => schema.min(1).unique()),
  controller: object<RawController>({
    components: listOf(text, (schema) => schema.min(1)),
    floats: oneOf(32, 64),
    tolerances: byText({ joi: Joi.number().min(0) }),
  }),
  coverage: either(
    [oneOf(...integrityLevels), listOf(oneOf(...coverageKinds))],
    `{{#label}} must be one of ${integrityLevels.join(', ')}, or a list of some of ${coverageKinds.join(', ')}`,
  ),
});

export const definitionsShape = object<RawDefinitions>({
  constants: named(object<RawConstant>({ value: required(either([numeric, truth])), unit: text, about: text })),
  enumerations: named(listOf(name, (schema) => schema.min(1))),
});

export const wordsShape = object<RawWords>({ synonyms: byText(text), vague: byText(text) });

export const coverageShape = object<RawCoverage>({
  justified: listOf(
    object<RawJustification>({ part: required(text), reason: required(text), by: required(text), on: required(text), logic: required(text) }),
  ),
});

export const parameterSetShape = object<RawParameterSet>({
  parameter_set: required(title(200)),
  about: text,
  values: required(byText(scalar, atLeastOne)),
});

/** taken-from.yaml in exported folders and archives: the revision of a project that they hold. */
export interface TakenFrom {
  /** The project's own identity, whatever its name. */
  readonly project: string;
  readonly revision: number;
}

export const takenFromShape = object<TakenFrom>({ project: required(text), revision: required(whole(1, 2 ** 31)) }, (schema) => schema.unknown());
