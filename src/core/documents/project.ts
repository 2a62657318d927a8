import type Joi from 'joi';
import type { Faults } from '@/core/fault';
import { type Definitions, definitionsOf, TypeLibrary } from '@/core/formula';
import { nameKey } from '@/core/language';
import {
  caseShape,
  checkShape,
  componentShape,
  definitionsShape,
  deskShape,
  loopShape,
  parameterSetShape,
  projectShape,
  type RawCase,
  type RawComponent,
  type RawDefinitions,
  type RawDesk,
  type RawLoop,
  type RawParameterSet,
  type RawProject,
  type RawRequirement,
  type RawRequirements,
  type RawScene,
  type RawWords,
  requirementsShape,
  sceneShape,
  wordsShape,
} from '@/core/shapes';
import { runSteps, type Steps } from '@/core/steps';
import { type Picture, readPicture } from '@/core/xml';
import { type ReadDocument, readYaml } from '@/core/yaml';
import { readScxml } from './scxml';
import { readStructuredText } from './structuredText';
import { variantsOf } from './variants';

/** One text file of a project, its path relative to the project folder. */
export interface SourceFile {
  readonly path: string;
  readonly text: string;
}

export interface ComponentDocument {
  readonly document: ReadDocument;
  readonly raw: RawComponent;
}
export interface LoopDocument {
  readonly document: ReadDocument;
  readonly raw: RawLoop;
}
export interface CaseDocument {
  readonly document: ReadDocument;
  readonly raw: RawCase;
}
export interface ParameterSetDocument {
  readonly document: ReadDocument;
  readonly raw: RawParameterSet;
}
export interface DeskDocument {
  readonly document: ReadDocument;
  readonly raw: RawDesk;
}
export interface SceneDocument {
  readonly document: ReadDocument;
  readonly raw: RawScene;
}
export interface RequirementDocument {
  readonly document: ReadDocument;
  readonly path: readonly (string | number)[];
  readonly section: string;
  readonly raw: RawRequirement;
}

/** All documents of a project, in the order of their paths; names are unique without regard to case. */
export interface Project {
  readonly name: string;
  readonly about: string;
  readonly components: ReadonlyMap<string, ComponentDocument>;
  readonly loops: ReadonlyMap<string, LoopDocument>;
  readonly cases: ReadonlyMap<string, CaseDocument>;
  readonly requirements: readonly RequirementDocument[];
  readonly parameterSets: ReadonlyMap<string, ParameterSetDocument>;
  readonly desks: ReadonlyMap<string, DeskDocument>;
  readonly scenes: ReadonlyMap<string, SceneDocument>;
  /** The pictures of scenes and components by their path, with nothing in them but shapes and words. */
  readonly pictures: ReadonlyMap<string, Picture>;
  /** Texts of recordings by their path. */
  readonly recordings: ReadonlyMap<string, string>;
  /** Constants and enumerations for every formula. */
  readonly definitions: Definitions;
  /** Words of the house for reading requirements. */
  readonly words: { readonly synonyms: Readonly<Record<string, string>>; readonly vague: Readonly<Record<string, string>> };
  /** Function blocks and types for routines. */
  readonly library: TypeLibrary;
  /**
   * Components and loops whose documents are there but too faulty to be used, with the names that could still be read in them.
   * What depends on such a name is not told again; a name that is not among them is.
   */
  readonly unusable: ReadonlyMap<string, ReadonlySet<string>>;
}

/** Reads and shapes the documents of a project folder. What is faulty is told and left out; the rest is still read. */
export function readProject(files: readonly SourceFile[], faults: Faults): Project {
  return runSteps(readProjectInSteps(files, faults));
}

/** The same, with a rest after each document. */
export function* readProjectInSteps(files: readonly SourceFile[], faults: Faults): Steps<Project> {
  const components = new Map<string, ComponentDocument>();
  const loops = new Map<string, LoopDocument>();
  const cases = new Map<string, CaseDocument>();
  const requirements: RequirementDocument[] = [];
  const unusable = new Map<string, ReadonlySet<string>>();
  const library = new TypeLibrary(faults);
  const recordings = new Map<string, string>();
  const parameterSets = new Map<string, ParameterSetDocument>();
  const desks = new Map<string, DeskDocument>();
  const scenes = new Map<string, SceneDocument>();
  const pictures = new Map<string, Picture>();
  let heading: RawProject | undefined;
  let definitions: { document: ReadDocument; raw: RawDefinitions } | undefined;
  let words: RawWords | undefined;
  let sawHeading = false;

  for (const { path, text } of [...files].sort((a, b) => (a.path < b.path ? -1 : 1))) {
    yield;
    const read = <T>(shape: Joi.ObjectSchema): { document: ReadDocument; raw: T } | undefined => {
      const document = readYaml(path, text, faults);
      if (!document) return undefined;
      if (checkShape(document, shape, faults)) return { document, raw: document.value as T };
      const named = document.value as { component?: unknown; loop?: unknown } | null;
      const name = named?.component ?? named?.loop;
      if (typeof name === 'string') unusable.set(nameKey(name), namesIn(document.value));
      return undefined;
    };
    if (path === 'project.yaml') {
      sawHeading = true;
      heading = read<RawProject>(projectShape)?.raw;
    } else if (path === 'words.yaml') {
      words = read<RawWords>(wordsShape)?.raw;
    } else if (path === 'definitions.yaml') {
      definitions = read<RawDefinitions>(definitionsShape);
    } else if (isYaml(path, 'components')) {
      const found = read<RawComponent>(componentShape);
      if (found) keep(components, found.raw.component, found, 'component');
    } else if (path.startsWith('components/') && /\.st$/i.test(path)) {
      for (const found of readStructuredText(path, text, library, faults)) keep(components, found.raw.component, found, 'component');
    } else if (path.startsWith('components/') && /\.scxml$/i.test(path)) {
      const found = readScxml(path, text, faults);
      if (found) keep(components, found.raw.component, found, 'component');
    } else if (/^recordings\/.*\.csv$/i.test(path)) {
      recordings.set(path, text);
    } else if (isYaml(path, 'loops')) {
      const found = read<RawLoop>(loopShape);
      if (found) keep(loops, found.raw.loop, found, 'loop');
      for (const variant of found ? variantsOf(found) : []) keep(loops, variant.raw.loop, variant, 'loop');
    } else if (isYaml(path, 'parameters')) {
      const found = read<RawParameterSet>(parameterSetShape);
      if (found) keep(parameterSets, found.raw.parameter_set, found, 'parameter_set');
    } else if (isYaml(path, 'cases')) {
      const found = read<RawCase>(caseShape);
      if (found) keep(cases, found.raw.case, found, 'case');
    } else if (isYaml(path, 'desks')) {
      const found = read<RawDesk>(deskShape);
      if (found) keep(desks, found.raw.desk, found, 'desk');
    } else if (isYaml(path, 'scenes')) {
      const found = read<RawScene>(sceneShape);
      if (found) keep(scenes, found.raw.scene, found, 'scene');
    } else if (/^(scenes|pictures)\/.*\.svg$/i.test(path)) {
      pictures.set(path, readPicture(path, text, faults));
    } else if (isYaml(path, 'requirements')) {
      const found = read<RawRequirements>(requirementsShape);
      found?.raw.requirements.forEach((raw, index) => {
        requirements.push({ document: found.document, path: ['requirements', index], section: found.raw.section, raw });
      });
    }
  }
  if (!sawHeading) {
    faults.add(
      'missing-document',
      { file: 'project.yaml', line: 1, column: 1 },
      'The folder has no project.yaml.',
      'Add one with at least: project: Name',
    );
  }
  tellDuplicateRequirements(requirements, faults);
  return {
    name: heading?.project ?? 'Project',
    about: heading?.about ?? '',
    components,
    loops,
    cases,
    requirements,
    library,
    recordings,
    desks,
    scenes,
    pictures,
    parameterSets,
    words: { synonyms: words?.synonyms ?? {}, vague: words?.vague ?? {} },
    definitions: definitionsOf(definitions, library, faults),
    unusable,
  };

  function keep<T extends { document: ReadDocument }>(into: Map<string, T>, name: string, found: T, kind: string): void {
    const key = nameKey(name);
    const first = into.get(key);
    if (first)
      faults.add(
        'duplicate-name',
        found.document.place([kind]),
        `The ${kind} "${name}" is already defined in ${first.document.file}.`,
        'Rename or remove one of the two.',
      );
    else into.set(key, found);
  }
}

/** Names that a faulty component's document still shows: its ports, parameters, states, variables and regions. */
function namesIn(value: unknown): ReadonlySet<string> {
  const part = (of: unknown, key: string): unknown =>
    typeof of === 'object' && of !== null && Object.hasOwn(of, key) ? (of as Record<string, unknown>)[key] : undefined;
  const behaviour = part(value, 'behaviour');
  const groups = [
    ...['inputs', 'outputs', 'parameters'].map((key) => part(value, key)),
    ...['states', 'variables', 'regions'].map((key) => part(behaviour, key)),
  ];
  return new Set(groups.flatMap((group) => (typeof group === 'object' && group !== null ? Object.keys(group) : [])).map(nameKey));
}

function isYaml(path: string, folder: string): boolean {
  return path.startsWith(`${folder}/`) && /\.ya?ml$/.test(path);
}

function tellDuplicateRequirements(requirements: readonly RequirementDocument[], faults: Faults): void {
  const seen = new Map<string, RequirementDocument>();
  for (const requirement of requirements) {
    const { document, path, raw } = requirement;
    const first = seen.get(nameKey(raw.requirement));
    if (first)
      faults.add(
        'duplicate-name',
        document.place([...path, 'requirement']),
        `The requirement ${raw.requirement} is already defined in ${first.document.file}.`,
        'Give each requirement an id of its own.',
      );
    else seen.set(nameKey(raw.requirement), requirement);
    const names = new Set<string>();
    (raw.criteria ?? []).forEach((criterion, index) => {
      if (names.has(nameKey(criterion.criterion)))
        faults.add(
          'duplicate-name',
          document.place([...path, 'criteria', index, 'criterion']),
          `${raw.requirement} has two criteria named "${criterion.criterion}".`,
          'Rename one of the two.',
        );
      names.add(nameKey(criterion.criterion));
    });
  }
}
