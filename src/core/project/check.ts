import { type CasePart, casePart, prepareExperiment, withParts } from '@/core/cases';
import type { Criterion } from '@/core/criteria';
import { checkDesk, checkScene } from '@/core/desk';
import { type CaseDocument, type Project, type RequirementDocument, readProjectInSteps, type SourceFile } from '@/core/documents';
import { type Fault, Faults, type Place } from '@/core/fault';
import { readTime } from '@/core/formula';
import { nameKey, nearestName } from '@/core/language';
import { type AssembledLoop, assembleLoop, checkComponents } from '@/core/loop';
import { ownSolverShape, type RawCase, type RawCriterion, type Scalar, shaped } from '@/core/shapes';
import { runSteps, type Steps } from '@/core/steps';
import { parameterSetName, solverPrefix } from '@/core/variation';
import { checkBenches } from './bench/sheets';
import { type CheckedCampaign, checkCampaign } from './campaigns';
import type { CheckedCase } from './checkedCase';
import { bindSentence } from './checking/bind';
import { checkController } from './code/controller';
import { checkPairings } from './pairing/check';

/** A criterion of a requirement, bound to each loop in which its names exist. */
export interface BoundCriterion {
  readonly requirement: string;
  readonly name: string;
  readonly sentence: string;
  readonly stl: string;
  readonly acceptedBy?: string;
  /** By `nameKey` of the loop. */
  readonly inLoop: ReadonlyMap<string, Criterion>;
}

/** Emitted code is bounded, but a long trace may still be a mistake. A case that needs more says so. */
const usualLimitSeconds = 600;

/** A project with everything bound and typed; runs may be made when `faults` is empty. */
export interface CheckedProject {
  readonly project: Project;
  readonly loops: ReadonlyMap<string, AssembledLoop>;
  readonly cases: readonly CheckedCase[];
  readonly campaigns: readonly CheckedCampaign[];
  readonly criteria: readonly BoundCriterion[];
  readonly faults: readonly Fault[];
  /** Suspicious, but no hindrance. */
  readonly warnings: readonly Fault[];
}

/** Reads and checks all documents of a project folder. All faults are told in one go. */
export function checkProject(files: readonly SourceFile[]): CheckedProject {
  return runSteps(checkProjectInSteps(files));
}

/** The same, with a rest after each document, loop, case and requirement, for a server that answers others meanwhile. */
export function* checkProjectInSteps(files: readonly SourceFile[]): Steps<CheckedProject> {
  const faults = new Faults();
  const project = yield* readProjectInSteps(files, faults);
  yield* checkComponents(project, faults);
  const loops = new Map<string, AssembledLoop>();
  for (const [key, loop] of project.loops) {
    yield;
    loops.set(key, assembleLoop(project, loop, faults));
  }
  const ids = new Map(project.requirements.map(({ raw }) => [nameKey(raw.requirement), raw.requirement]));
  const cases: CheckedCase[] = [];
  for (const document of project.cases.values()) {
    yield;
    cases.push(...checkCase(document, project, ids, loops, faults));
  }
  const campaigns: CheckedCampaign[] = [];
  for (const document of project.campaigns.values()) {
    yield;
    const found = checkCampaign(document, project, cases, loops, faults);
    if (found) campaigns.push(found);
  }
  const criteria: BoundCriterion[] = [];
  for (const requirement of project.requirements) {
    yield;
    criteria.push(...checkRequirement(requirement, ids, loops, faults));
  }
  checkController(project, loops, faults);
  checkPairings(project, loops, faults);
  checkBenches(project, loops, cases, faults);
  for (const desk of project.desks.values()) checkDesk(desk, project, loops, faults);
  for (const scene of project.scenes.values()) checkScene(scene, project, loops, faults);
  return { project, loops, cases, campaigns, criteria, faults: faults.all(), warnings: faults.warnings() };
}

function checkCase(document: CaseDocument, project: Project, ids: Ids, loops: ReadonlyMap<string, AssembledLoop>, faults: Faults): CheckedCase[] {
  for (const [index, id] of (document.raw.meant_for ?? []).entries()) checkId(id, document.document.place(['meant_for', index]), ids, faults);
  const wanted = document.raw.variant === undefined ? document.raw.loop : `${document.raw.loop}/${document.raw.variant}`;
  const key = nameKey(wanted);
  const loop = loops.get(key);
  if (!loop) {
    if (project.unusable.has(nameKey(document.raw.loop))) return [];
    faults.add(
      'unknown-name',
      document.document.place([document.raw.variant === undefined ? 'loop' : 'variant']),
      document.raw.variant === undefined
        ? `There is no loop "${wanted}".`
        : `The loop ${document.raw.loop} has no variant "${document.raw.variant}".`,
      document.raw.variant === undefined ? loopFix(wanted, project) : variantFix(document.raw.loop, project),
    );
    return [];
  }
  const limit = document.raw.time_limit;
  const limitNs = limit === undefined ? undefined : readTime(limit, document.document.place(['time_limit']), faults, 1);
  return [
    {
      document,
      loop: key,
      experiment: prepareExperiment(document, withOwnSolver(document, loop, faults), project, faults),
      limitSeconds: limitNs === undefined ? usualLimitSeconds : limitNs / 1e9,
    },
  ];
}

/** A case as if its document said something else: all that is looked at in a case is looked at here. */
export function caseSaying(
  { project, loops }: Pick<CheckedProject, 'project' | 'loops'>,
  test: Pick<CheckedCase, 'document'>,
  raw: RawCase,
): { readonly test: CheckedCase } | { readonly faults: readonly Fault[] } {
  const faults = new Faults();
  const [found] = checkCase({ ...test.document, raw: { ...raw, meant_for: [] } }, project, new Map(), loops, faults);
  return found && faults.count === 0 ? { test: found } : { faults: faults.all() };
}

/** The loop as the case has it solved; what does not go with it is told of the case. */
function withOwnSolver({ raw, document }: CaseDocument, loop: AssembledLoop, faults: Faults): AssembledLoop {
  if (!raw.solver) return loop;
  // A campaign may have put in what no document was checked for.
  const settings = shaped(raw.solver, ownSolverShape);
  if ('wrong' in settings) {
    faults.add('shape', document.place(['solver']), `The solver cannot be set so: ${settings.wrong}.`, 'See solver: of loops in docs/language.md.');
    return loop;
  }
  const own = new Faults();
  const solved = loop.withSolver(settings.value, own);
  for (const { message, fix, code } of own.all())
    if (code === 'period' || code === 'time') faults.add(code, document.place(['solver']), message, fix);
  return solved;
}

function loopFix(wanted: string, { loops }: Project): string {
  const near = nearestName(
    wanted,
    [...loops.values()].map((one) => one.raw.loop),
  );
  return near ? `Did you mean "${near}"?` : 'Add it under loops/.';
}

function variantFix(loop: string, { loops }: Project): string {
  const variants = Object.keys(loops.get(nameKey(loop))?.raw.variants ?? {});
  return variants.length > 0 ? `It has: ${variants.join(', ')}.` : 'It has none; add one under variants: of the loop.';
}

/** What is changed in a case before it is run: parameters and start values of states by their names, and the variant of its loop. */
export interface CaseChanges {
  readonly values: ReadonlyMap<string, Scalar>;
  readonly variant?: string;
}

/** A case as if its document held other values or asked for another variant: all that is looked at in a case is looked at here. */
export function changedCase(
  { project, loops }: CheckedProject,
  test: CheckedCase,
  { values, variant }: CaseChanges,
): { readonly test: CheckedCase } | { readonly faults: readonly Fault[] } {
  const { raw } = test.document;
  const { stimuli, script, parameters, initial, solver, parameter_sets } = rawChanges(loops, test, {
    values,
    ...(variant === undefined ? {} : { variant }),
  });
  const changed = {
    ...raw,
    parameters: { ...raw.parameters, ...parameters },
    initial: { ...raw.initial, ...initial },
    ...(stimuli ? { stimuli } : {}),
    ...(script ? { script } : {}),
    ...(solver ? { solver } : {}),
    ...(parameter_sets ? { parameter_sets } : {}),
    meant_for: [],
    ...(variant === undefined ? {} : { variant }),
  };
  return caseSaying({ project, loops }, test, changed);
}

/** What changes stand for in the document of a case: parameters, starts of states, parts of stimuli and scripts. A name that means none of them is left among the parameters, to be told. */
export function rawChanges(
  loops: CheckedProject['loops'],
  test: CheckedCase,
  { values, variant }: CaseChanges,
): Pick<RawCase, 'parameters' | 'initial' | 'stimuli' | 'script' | 'solver' | 'parameter_sets'> {
  const { raw } = test.document;
  const catalogue = loops.get(variant === undefined ? test.loop : nameKey(`${raw.loop}/${variant}`))?.catalogue;
  const parameters: Record<string, Scalar> = {};
  const initial: Record<string, Scalar> = {};
  const parts: (readonly [CasePart, Scalar])[] = [];
  const solver: Record<string, Scalar> = {};
  const sets: string[] = [];
  for (const [name, value] of values) {
    if (name === parameterSetName) {
      sets.push(String(value));
      continue;
    }
    if (name.startsWith(solverPrefix)) {
      solver[name.slice(solverPrefix.length)] = value;
      continue;
    }
    const isParameter = catalogue?.findEntry(name, ['parameter']) !== undefined;
    const isState = !isParameter && catalogue?.findEntry(name, ['state']) !== undefined;
    const part = isParameter || isState ? undefined : casePart(raw, name);
    if (part) parts.push([part, value]);
    else if (isState) initial[name] = value;
    else parameters[name] = value;
  }
  return {
    parameters,
    initial,
    ...(parts.length > 0 ? withParts(raw, parts) : {}),
    ...(Object.keys(solver).length > 0 ? { solver: { ...raw.solver, ...solver } } : {}),
    ...(sets.length > 0 ? { parameter_sets: [...(raw.parameter_sets ?? []), ...sets] } : {}),
  };
}

/**
 * A case with another variant of its loop, as if its document asked for it.
 * @throws Error with the first fault, where the case names something the variant has not
 */
export function caseOnVariant(checked: CheckedProject, test: CheckedCase, variant: string): CheckedCase {
  const found = changedCase(checked, test, { values: new Map(), variant });
  if ('test' in found) return found.test;
  throw new Error(`${test.experiment.case} cannot be run on ${variant}: ${found.faults[0]?.message ?? 'the variant is not there'}`);
}

function checkRequirement(requirement: RequirementDocument, ids: Ids, loops: ReadonlyMap<string, AssembledLoop>, faults: Faults): BoundCriterion[] {
  for (const [index, { to }] of (requirement.raw.relations ?? []).entries())
    checkId(to, requirement.document.place([...requirement.path, 'relations', index, 'to']), ids, faults);
  return (requirement.raw.criteria ?? []).map((raw, index) =>
    bindCriterion(requirement, raw, [...requirement.path, 'criteria', index, 'sentence'], loops, faults),
  );
}

/** Ids of requirements by their key. */
type Ids = ReadonlyMap<string, string>;

/** A requirement that is named has to be there. */
function checkId(id: string, place: Place, ids: Ids, faults: Faults): void {
  if (ids.has(nameKey(id))) return;
  const near = nearestName(id, ids.values());
  faults.add('unknown-name', place, `There is no requirement "${id}".`, near ? `Did you mean "${near}"?` : 'Check its id.');
}

function bindCriterion(
  requirement: RequirementDocument,
  raw: RawCriterion,
  path: (string | number)[],
  loops: ReadonlyMap<string, AssembledLoop>,
  faults: Faults,
): BoundCriterion {
  const inLoop = bindSentence(requirement, path, raw.sentence, loops, faults);
  return {
    requirement: requirement.raw.requirement,
    name: raw.criterion,
    sentence: raw.sentence,
    stl: [...inLoop.values()][0]?.stl ?? '',
    ...(raw.accepted ? { acceptedBy: raw.accepted.by } : {}),
    inLoop,
  };
}
