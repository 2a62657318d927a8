import type { Faults } from '@/core/fault';
import { type Definitions, definitionsOf, TypeLibrary } from '@/core/formula';
import { nameKey } from '@/core/language';
import {
  benchShape,
  campaignShape,
  caseShape,
  checkShape,
  componentShape,
  coverageShape,
  definitionsShape,
  deskShape,
  loopShape,
  pairingShape,
  parameterSetShape,
  projectShape,
  type RawController,
  type RawDefinitions,
  type RawJustification,
  type RawProject,
  type RawWords,
  requirementsShape,
  type Shape,
  type Stage,
  sceneShape,
  wordsShape,
} from '@/core/shapes';
import { runSteps, type Steps } from '@/core/steps';
import { type Picture, readPicture } from '@/core/xml';
import { type ReadDocument, readYaml } from '@/core/yaml';
import { type DocumentFolder, documentFolders, isDocumentFolder, isTopDocument, type TopDocument } from './documentPath';
import { withEnumerations } from './enumerated';
import { type CaseDocument, resolvedCases, type WrittenCaseDocument } from './likeCases';
import { pairedLoop } from './pairing';
import { readScxml } from './scxml';
import { blockComponents, readStructuredText, type TextFile } from './structuredText';
import type {
  BenchDocument,
  CampaignDocument,
  ComponentDocument,
  DeskDocument,
  LoopDocument,
  PairingDocument,
  ParameterSetDocument,
  RequirementDocument,
  SceneDocument,
  SourceFile,
} from './types';
import { variantsOf } from './variants';

/** All documents of a project, in the order of their paths; names are unique without regard to case. */
export interface Project {
  readonly name: string;
  readonly about: string;
  /** What cases have to touch of the logic; everything where it is left out. */
  readonly coverage?: NonNullable<RawProject['coverage']>;
  /** Where requirements have to be shown. */
  readonly stages: readonly Stage[];
  /** Which components are the controller; there is one wherever there is a project.yaml. */
  readonly controller?: { readonly document: ReadDocument; readonly raw: RawController };
  readonly components: ReadonlyMap<string, ComponentDocument>;
  readonly loops: ReadonlyMap<string, LoopDocument>;
  readonly cases: ReadonlyMap<string, CaseDocument>;
  readonly campaigns: ReadonlyMap<string, CampaignDocument>;
  readonly requirements: readonly RequirementDocument[];
  readonly parameterSets: ReadonlyMap<string, ParameterSetDocument>;
  /** Pairings of a controller with another loop; what comes of each is among the loops. */
  readonly pairings: ReadonlyMap<string, PairingDocument>;
  /** Wiring sheets of benches. */
  readonly benches: ReadonlyMap<string, BenchDocument>;
  readonly desks: ReadonlyMap<string, DeskDocument>;
  readonly scenes: ReadonlyMap<string, SceneDocument>;
  /** The pictures of scenes and components by their path, with nothing in them but shapes and words. */
  readonly pictures: ReadonlyMap<string, Picture>;
  /** Texts of recordings by their path. */
  readonly recordings: ReadonlyMap<string, string>;
  /** Archives of co-simulation units by their path, in base64. */
  readonly units: ReadonlyMap<string, string>;
  /** Constants and enumerations for every formula. */
  readonly definitions: Definitions;
  /** Words of the house for reading requirements. */
  readonly words: { readonly synonyms: Readonly<Record<string, string>>; readonly vague: Readonly<Record<string, string>> };
  /** Parts of the logic that no case has to touch, and why. */
  readonly justified: readonly RawJustification[];
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
  const gathering = new Gathering(faults);
  const inOrder = [...files].sort((a, b) => (a.path < b.path ? -1 : 1));
  gathering.declare(inOrder);
  for (const { path, text } of inOrder) {
    yield;
    const place = isTopDocument(path) ? path : path.slice(0, Math.max(0, path.indexOf('/')));
    if (isTopDocument(place)) readers[place](gathering, path, text);
    else if (isDocumentFolder(place) && documentFolders[place].test(path)) readers[place](gathering, path, text);
  }
  return gathering.project();
}

/** What is done with a file at each place of a project. */
const readers: Readonly<Record<TopDocument | DocumentFolder, (into: Gathering, path: string, text: string) => void>> = {
  'project.yaml': (into, path, text) => {
    into.sawHeading = true;
    into.heading = into.read(path, text, projectShape);
  },
  'words.yaml': (into, path, text) => {
    into.words = into.read(path, text, wordsShape)?.raw;
  },
  'coverage.yaml': (into, path, text) => {
    into.justified = into.read(path, text, coverageShape)?.raw.justified ?? [];
  },
  'definitions.yaml': () => {
    // What others name is declared before.
  },
  components: (into, path, text) => {
    for (const found of componentsIn(into, path, text)) into.keep(into.components, found.raw.component, found, 'component');
  },
  recordings: (into, path, text) => {
    into.recordings.set(path, text);
  },
  units: (into, path, text) => {
    into.units.set(path, text);
  },
  loops: (into, path, text) => {
    const found = into.read(path, text, loopShape);
    for (const loop of found ? [found, ...variantsOf(found)] : []) into.keep(into.loops, loop.raw.loop, loop, 'loop');
  },
  pairings: (into, path, text) => {
    const found = into.read(path, text, pairingShape);
    if (found) into.keep(into.pairings, found.raw.pairing, found, 'pairing');
  },
  parameters: (into, path, text) => {
    const found = into.read(path, text, parameterSetShape);
    if (found) into.keep(into.parameterSets, found.raw.parameter_set, found, 'parameter_set');
  },
  cases: (into, path, text) => {
    const found = into.read(path, text, caseShape);
    if (found) into.keep(into.cases, found.raw.case, found, 'case');
  },
  campaigns: (into, path, text) => {
    const found = into.read(path, text, campaignShape);
    if (found) into.keep(into.campaigns, found.raw.campaign, found, 'campaign');
  },
  benches: (into, path, text) => {
    const found = into.read(path, text, benchShape);
    if (found) into.keep(into.benches, found.raw.bench, found, 'bench');
  },
  desks: (into, path, text) => {
    const found = into.read(path, text, deskShape);
    if (found) into.keep(into.desks, found.raw.desk, found, 'desk');
  },
  scenes: (into, path, text) => {
    if (isPicture(path)) return into.readPicture(path, text);
    const found = into.read(path, text, sceneShape);
    if (found) into.keep(into.scenes, found.raw.scene, found, 'scene');
  },
  pictures: (into, path, text) => into.readPicture(path, text),
  requirements: (into, path, text) => {
    // ReqIF is brought in by hand, with a look at what it changes.
    const found = isYaml(path) ? into.read(path, text, requirementsShape) : undefined;
    found?.raw.requirements.forEach((raw, index) => {
      into.requirements.push({ document: found.document, path: ['requirements', index], section: found.raw.section, raw });
    });
  },
};

function componentsIn(into: Gathering, path: string, text: string): readonly ComponentDocument[] {
  const declared = into.texts.get(path);
  if (declared) return blockComponents(declared, into.library);
  const found = isYaml(path) ? into.read(path, text, componentShape) : readScxml(path, text, into.faults);
  const component = found && withEnumerations(found, into.library, into.faults);
  if (found && !component) into.giveUp(found.document);
  return component ? [component] : [];
}

function isStructuredText(path: string): boolean {
  return /^components\/.*\.st$/i.test(path);
}

function isYaml(path: string): boolean {
  return /\.ya?ml$/i.test(path);
}

function isPicture(path: string): boolean {
  return /\.svg$/i.test(path);
}

/** A project while its documents are read. */
class Gathering {
  readonly components = new Map<string, ComponentDocument>();
  readonly loops = new Map<string, LoopDocument>();
  readonly pairings = new Map<string, PairingDocument>();
  readonly cases = new Map<string, WrittenCaseDocument>();
  readonly campaigns = new Map<string, CampaignDocument>();
  readonly requirements: RequirementDocument[] = [];
  readonly parameterSets = new Map<string, ParameterSetDocument>();
  readonly benches = new Map<string, BenchDocument>();
  readonly desks = new Map<string, DeskDocument>();
  readonly scenes = new Map<string, SceneDocument>();
  readonly recordings = new Map<string, string>();
  readonly units = new Map<string, string>();
  readonly library: TypeLibrary;
  /** Files of Structured Text, by their path. */
  readonly texts = new Map<string, TextFile>();
  heading: { readonly document: ReadDocument; readonly raw: RawProject } | undefined;
  sawHeading = false;
  definitions: { readonly document: ReadDocument; readonly raw: RawDefinitions } | undefined;
  words: RawWords | undefined;
  justified: readonly RawJustification[] = [];
  private readonly pictures = new Map<string, Picture>();
  private readonly unusable = new Map<string, ReadonlySet<string>>();
  private readonly unusableCases = new Set<string>();

  constructor(readonly faults: Faults) {
    this.library = new TypeLibrary(faults);
  }

  read<T>(path: string, text: string, shape: Shape<T>): { readonly document: ReadDocument; readonly raw: T } | undefined {
    const document = readYaml(path, text, this.faults);
    if (!document) return undefined;
    const raw = checkShape(document, shape, this.faults);
    if (raw !== undefined) return { document, raw };
    this.giveUp(document);
    return undefined;
  }

  /** Notes the name of what a faulty document holds. */
  giveUp({ value }: ReadDocument): void {
    const name = part(value, 'component') ?? part(value, 'loop') ?? part(value, 'pairing');
    if (typeof name === 'string') this.unusable.set(nameKey(name), namesIn(value));
    const test = part(value, 'case');
    if (typeof test === 'string') this.unusableCases.add(nameKey(test));
  }

  /** Types, functions and function blocks are known before any component is read that names them. */
  declare(files: readonly SourceFile[]): void {
    for (const { path, text } of files) if (isStructuredText(path)) this.texts.set(path, readStructuredText(path, text, this.library, this.faults));
    const definitions = files.find(({ path }) => path === 'definitions.yaml');
    if (!definitions) return;
    this.definitions = this.read(definitions.path, definitions.text, definitionsShape);
    for (const [name, values] of Object.entries(this.definitions?.raw.enumerations ?? {})) this.enumerate(name, values);
  }

  private enumerate(name: string, values: readonly string[]): void {
    const { definitions, faults, library } = this;
    const twice = values.findIndex((value, index) => values.findIndex((one) => nameKey(one) === nameKey(value)) < index);
    if (twice >= 0)
      faults.add(
        'duplicate-name',
        definitions?.document.place(['enumerations', name, twice]) ?? { file: 'definitions.yaml', line: 1, column: 1 },
        `"${values[twice]}" is a value of ${name} twice.`,
        'Remove one of the two.',
      );
    if (library.addEnumeration({ name, values })) return;
    faults.add(
      'duplicate-name',
      definitions?.document.keyPlace(['enumerations', name]) ?? { file: 'definitions.yaml', line: 1, column: 1 },
      `There is already a type, a function or a function block "${name}".`,
      'Choose another name.',
    );
  }

  readPicture(path: string, text: string): void {
    this.pictures.set(path, readPicture(path, text, this.faults));
  }

  keep<T extends { readonly document: ReadDocument }>(into: Map<string, T>, name: string, found: T, kind: string, place = kind): void {
    const key = nameKey(name);
    const first = into.get(key);
    if (first)
      this.faults.add(
        'duplicate-name',
        found.document.place([place]),
        `The ${kind} "${name}" is already defined in ${first.document.file}.`,
        'Rename or remove one of the two.',
      );
    else into.set(key, found);
  }

  /** Pairings become loops once all loops are read. */
  private pair(): void {
    const { components, unusable, faults } = this;
    const sources = { loops: new Map(this.loops), components, controller: this.heading?.raw.controller, unusable };
    for (const pairing of this.pairings.values()) {
      const loop = pairedLoop(pairing, sources, faults);
      if (loop) this.keep(this.loops, loop.raw.loop, loop, 'loop', 'pairing');
      else this.unusable.set(nameKey(pairing.raw.pairing), new Set());
    }
  }

  project(): Project {
    if (!this.sawHeading) {
      this.faults.add(
        'missing-document',
        { file: 'project.yaml', line: 1, column: 1 },
        'The folder has no project.yaml.',
        'Add one with at least: project: Name',
      );
    }
    tellDuplicateRequirements(this.requirements, this.faults);
    this.pair();
    const {
      components,
      loops,
      pairings,
      cases,
      campaigns,
      requirements,
      library,
      recordings,
      units,
      benches,
      desks,
      scenes,
      pictures,
      parameterSets,
      unusable,
      heading,
    } = this;
    return {
      name: heading?.raw.project ?? 'Project',
      about: heading?.raw.about ?? '',
      ...(heading?.raw.coverage === undefined ? {} : { coverage: heading.raw.coverage }),
      stages: heading?.raw.stages ?? ['model'],
      ...(heading ? { controller: { document: heading.document, raw: heading.raw.controller ?? {} } } : {}),
      components,
      loops,
      pairings,
      campaigns,
      cases: resolvedCases(cases, this.unusableCases, this.faults),
      requirements,
      library,
      recordings,
      units,
      benches,
      desks,
      scenes,
      pictures,
      parameterSets,
      words: { synonyms: this.words?.synonyms ?? {}, vague: this.words?.vague ?? {} },
      justified: this.justified,
      definitions: definitionsOf(this.definitions, library, this.faults),
      unusable,
    };
  }
}

function part(of: unknown, key: string): unknown {
  return typeof of === 'object' && of !== null ? Object.getOwnPropertyDescriptor(of, key)?.value : undefined;
}

/** Names that a faulty component's document still shows: its ports, parameters, states, variables and regions. */
function namesIn(value: unknown): ReadonlySet<string> {
  const groups = [
    ...['inputs', 'outputs', 'parameters'].map((key) => part(value, key)),
    ...['states', 'variables', 'regions'].map((key) => part(part(value, 'behaviour'), key)),
  ];
  return new Set(groups.flatMap((group) => (typeof group === 'object' && group !== null ? Object.keys(group) : [])).map(nameKey));
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
