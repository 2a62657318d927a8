import { caseParts } from '@/core/cases';
import type { CampaignDocument, Project } from '@/core/documents';
import type { Faults } from '@/core/fault';
import { nameKey, nearestName } from '@/core/language';
import type { AssembledLoop } from '@/core/loop';
import { ownSolverShape, type RawSpread, type Scalar, type Stage, shaped } from '@/core/shapes';
import {
  type Design,
  designNamed,
  designNames,
  evenLevels,
  misfit,
  parameterSetName,
  pointsOf,
  type Quantity,
  type Restrictions,
  solverPrefix,
  usualDesign,
  variantName,
} from '@/core/variation';
import { plural } from '@/core/wording';
import type { CheckedCase } from './checkedCase';
import { restrictionsOf } from './checking/restrictions';
import { bindMeasure, type Measured } from './measures';

/** When the runs of a campaign end: after all; after the first that fails; once it is decided whether a requirement fails in at most a share of them. */
export type StopRule =
  | { readonly k: 'all' | 'first fail' }
  | { readonly k: 'claim'; readonly requirement: string; readonly atMost: number; readonly confidence: number };

/** A campaign bound to its cases. */
export interface CheckedCampaign {
  readonly document: CampaignDocument;
  readonly cases: readonly CheckedCase[];
  readonly quantities: readonly Quantity[];
  readonly restrictions: Restrictions;
  readonly design: Design;
  readonly seed: number;
  readonly seeds: 'one each' | 'same';
  readonly stop: StopRule;
  readonly measures: readonly Measured[];
  readonly stage: Stage;
}

/** Runs that a campaign draws unless it says how many. */
const usualRuns = 100;

/** Binds a campaign; what is wrong with it is told, and nothing comes of it then. */
export function checkCampaign(
  campaign: CampaignDocument,
  project: Project,
  cases: readonly CheckedCase[],
  loops: ReadonlyMap<string, AssembledLoop>,
  faults: Faults,
): CheckedCampaign | undefined {
  const { document, raw } = campaign;
  const before = faults.count;
  const chosen = chosenCases(campaign, project, cases, faults);
  const quantities = Object.entries(raw.vary ?? {}).map(([name, spread]): Quantity => {
    const key = ['vary', name];
    if (nameKey(name) === variantName) {
      const own = spreadOf(spread, () => document.place(key), faults);
      for (const test of chosen) checkVariants(own, test, loops, () => document.place(key), faults);
      return { name: variantName, spread: own };
    }
    const own = nameKey(name);
    if (own === parameterSetName || own.startsWith(solverPrefix)) {
      const found = { name: own, spread: spreadOf(spread, () => document.place(key), faults) };
      checkSettings(found, project, () => document.place(key), faults);
      return found;
    }
    for (const test of chosen) checkName(name, test, loops.get(test.loop), () => document.keyPlace(key), faults);
    return { name, spread: spreadOf(spread, () => document.place(key), faults) };
  });
  const wanted = raw.design ?? usualDesign(quantities);
  const design = designNamed(wanted, raw.runs ?? usualRuns);
  if (!design) faults.add('unknown-name', document.place(['design']), `There is no design "${wanted}".`, `Choose one of: ${designNames}.`);
  const restrictions = restrictionsOf(campaign, quantities, faults);
  const problem = design && misfit(design, quantities, restrictions);
  if (problem) faults.add('shape', document.place(raw.design !== undefined ? ['design'] : raw.vary ? ['vary'] : []), problem.message, problem.fix);
  const stop = stopRule(campaign, project, design, chosen, faults);
  const measures = measuresOf(campaign, quantities, chosen, loops, faults);
  if (!design || faults.count > before) return undefined;
  if (restrictions.rules.length > 0 && pointsOf(design, quantities, raw.seed ?? 0, restrictions).length === 0) {
    faults.add(
      'shape',
      document.place(['constraints']),
      'No run keeps to these constraints.',
      'Loosen one of them, or let the quantities vary further.',
    );
    return undefined;
  }
  const stage = raw.stage ?? 'model';
  return {
    document: campaign,
    cases: chosen,
    quantities,
    restrictions,
    design,
    seed: raw.seed ?? 0,
    seeds: raw.seeds ?? 'one each',
    stop,
    measures,
    stage,
  };
}

/** Each in the loops of the cases, and in those of the variants. */
function measuresOf(
  { document, raw }: CampaignDocument,
  quantities: readonly Quantity[],
  cases: readonly CheckedCase[],
  loops: ReadonlyMap<string, AssembledLoop>,
  faults: Faults,
): Measured[] {
  const spread = quantities.find((one) => one.name === variantName)?.spread;
  const variants = spread?.k === 'levels' ? spread.levels.map(String) : [];
  const keys = cases.flatMap((test) => [test.loop, ...variants.map((one) => nameKey(`${test.document.raw.loop}/${one}`))]);
  const own = [...new Set(keys)].flatMap((key) => loops.get(key) ?? []);
  // Without a case there is something else to be told.
  if (own.length === 0) return [];
  return Object.entries(raw.measures ?? {}).flatMap(([name, text]) => {
    const found = bindMeasure(name, text, own);
    if (typeof found !== 'string') return [found];
    faults.add(
      'syntax',
      document.place(['measures', name]),
      `"${text}" cannot be measured: ${found}`,
      'Write a measure without its limit, such as: peak of chamber.level · time from enters Filling to leaves Filling · mean of y · count of E.',
    );
    return [];
  });
}

const usualConfidence = 0.95;

function stopRule(
  { document, raw: { stop } }: CampaignDocument,
  project: Project,
  design: Design | undefined,
  cases: readonly CheckedCase[],
  faults: Faults,
): StopRule {
  if (typeof stop !== 'object') return { k: stop ?? 'all' };
  const requirement = project.requirements.find(({ raw }) => nameKey(raw.requirement) === nameKey(stop.claim))?.raw.requirement;
  if (requirement === undefined) {
    const ids = project.requirements.map(({ raw }) => raw.requirement);
    const near = nearestName(stop.claim, ids);
    faults.add(
      'unknown-name',
      document.place(['stop', 'claim']),
      `There is no requirement "${stop.claim}".`,
      near ? `Did you mean "${near}"?` : 'Check its id.',
    );
  }
  if (design && (design.k !== 'random' || cases.length > 1))
    faults.add(
      'shape',
      document.place(['stop']),
      `A claim needs runs that are drawn independently of each other; ${design.k === 'random' ? 'those of several cases share their points' : `those of a ${design.k} design are not`}.`,
      design.k === 'random' ? 'Name one case.' : 'Choose design: random.',
    );
  const atMost = shareOf(stop.at_most, document.place(['stop', 'at_most']), faults);
  const confidence = shareOf(stop.confidence ?? usualConfidence, document.place(['stop', 'confidence']), faults);
  return { k: 'claim', requirement: requirement ?? stop.claim, atMost, confidence };
}

/** A share as a number, or in percent. */
function shareOf(written: Scalar, place: ReturnType<Place>, faults: Faults): number {
  const found = /^\s*([\d.]+)\s*(%?)\s*$/.exec(String(written));
  const share = found ? Number(found[1]) / (found[2] ? 100 : 1) : Number.NaN;
  if (!(share > 0 && share < 1))
    faults.add('outside-limits', place, `"${written}" is no share between 0 and 1.`, 'Write a share such as 0.01 or 1 %.');
  return share;
}

type Place = () => ReturnType<CampaignDocument['document']['place']>;

/** Cases in the order of the project. */
function chosenCases({ document, raw }: CampaignDocument, project: Project, cases: readonly CheckedCase[], faults: Faults): readonly CheckedCase[] {
  const { cases: wanted } = raw;
  if (wanted === undefined || wanted === 'all') return cases;
  const selection = typeof wanted === 'string' ? { named: [wanted] } : 'length' in wanted ? { named: wanted } : wanted;
  const chosen = new Set<CheckedCase>();
  for (const name of selection.named ?? []) {
    const found = cases.find((one) => nameKey(one.experiment.case) === nameKey(name));
    if (found) chosen.add(found);
    else if (!project.cases.has(nameKey(name))) {
      const near = nearestName(
        name,
        [...project.cases.values()].map((one) => one.raw.case),
      );
      faults.add('unknown-name', document.place(['cases']), `There is no case "${name}".`, near ? `Did you mean "${near}"?` : 'Add it under cases/.');
    }
  }
  const having = (key: 'meant_for' | 'tags', values: readonly string[] = []): void => {
    for (const value of values) {
      const found = cases.filter((one) => (one.document.raw[key] ?? []).some((other) => nameKey(other) === nameKey(value)));
      for (const one of found) chosen.add(one);
      if (found.length === 0)
        faults.add(
          'unknown-name',
          document.place(['cases', key]),
          key === 'tags' ? `No case has the tag "${value}".` : `No case is meant for ${value}.`,
          key === 'tags' ? 'Give it to a case, or choose cases by name.' : 'Name it under meant_for: of a case, or choose cases by name.',
        );
    }
  };
  having('meant_for', selection.meant_for);
  having('tags', selection.tags);
  return cases.filter((one) => chosen.has(one));
}

/** Parameter sets have to be there, and settings of a solver have to be some. */
function checkSettings({ name, spread }: Quantity, { parameterSets }: Project, place: Place, faults: Faults): void {
  if (spread.k === 'scatter') {
    faults.add('type', place(), `${name} takes one of some values; it cannot scatter.`, 'Give it a list, or a range with steps.');
    return;
  }
  for (const level of spread.levels) {
    if (name === parameterSetName) {
      if (!parameterSets.has(nameKey(String(level))))
        faults.add('unknown-name', place(), `There is no parameter set "${level}".`, 'Name sets of the folder parameters/.');
      continue;
    }
    const found = shaped({ [name.slice(solverPrefix.length)]: level }, ownSolverShape);
    if ('wrong' in found)
      faults.add(
        'shape',
        place(),
        `${name} cannot be ${level}: ${found.wrong}.`,
        'Settings are solver.method, solver.step, solver.relative_tolerance, solver.absolute_tolerance and solver.record_every.',
      );
  }
}

function checkVariants(
  spread: Quantity['spread'],
  { document: { raw } }: CheckedCase,
  loops: ReadonlyMap<string, AssembledLoop>,
  place: Place,
  faults: Faults,
): void {
  if (spread.k === 'scatter') faults.add('type', place(), 'Variants have names, not numbers.', 'Write variant: { list: [coarse, detailed] }.');
  for (const level of spread.k === 'levels' ? spread.levels : [])
    if (!loops.has(nameKey(`${raw.loop}/${level}`)))
      faults.add('unknown-name', place(), `The loop ${raw.loop} has no variant "${level}".`, 'Name variants that its document has under variants:.');
}

function checkName(name: string, { document: { raw } }: CheckedCase, loop: AssembledLoop | undefined, place: Place, faults: Faults): void {
  if (!loop || loop.catalogue.excuses(name.split('.'))) return;
  if (loop.catalogue.findEntry(name, ['parameter']) || loop.catalogue.findEntry(name, ['state'])) return;
  const parts = caseParts(raw).map((one) => one.name);
  if (parts.some((one) => nameKey(one) === nameKey(name))) return;
  const near = nearestName(name, [
    ...loop.catalogue.entries.filter((one) => one.role === 'parameter' || one.role === 'state').map((one) => one.name),
    ...parts,
  ]);
  faults.add(
    'unknown-name',
    place(),
    `There is no parameter or state "${name}" in the loop ${loop.plan.loop}.`,
    near ? `Did you mean "${near}"?` : 'Vary a parameter, the start of a state, a part of a stimulus or of the script, or the variant.',
  );
}

function spreadOf(raw: RawSpread, place: Place, faults: Faults): Quantity['spread'] {
  const inOrder = (low: number, high: number): void => {
    if (!(low < high)) faults.add('outside-limits', place(), `${low} is not below ${high}.`, 'Write the lower one first.');
  };
  if ('list' in raw) {
    const { list, weights } = raw;
    if (weights && weights.length !== list.length)
      faults.add('shape', place(), `The list has ${list.length} values and ${plural(weights.length, 'weight')}.`, 'Give each value a weight.');
    else if (weights && !weights.some((one) => one > 0))
      faults.add('shape', place(), 'All weights are 0.', 'Give a value that may occur a weight above 0.');
    return { k: 'levels', levels: list, ...(weights ? { weights } : {}) };
  }
  if ('from' in raw) {
    if (raw.logarithmic && !(raw.from > 0 && raw.until > 0))
      faults.add('outside-limits', place(), 'Equal ratios need numbers above 0.', 'Leave "logarithmic" out, or begin above 0.');
    return { k: 'levels', levels: evenLevels(raw.from, raw.until, raw.steps, raw.logarithmic ?? false) };
  }
  if ('uniform' in raw) {
    const [low, high] = raw.uniform;
    inOrder(low, high);
    return { k: 'scatter', distribution: { k: 'uniform', low, high } };
  }
  if ('normal' in raw) {
    if (raw.within) inOrder(raw.within[0], raw.within[1]);
    return { k: 'scatter', distribution: { k: 'normal', ...raw.normal, ...(raw.within ? { within: raw.within } : {}) } };
  }
  if ('lognormal' in raw) return { k: 'scatter', distribution: { k: 'lognormal', ...raw.lognormal } };
  const { low, mode, high } = raw.triangular;
  inOrder(low, high);
  if (mode < low || mode > high) faults.add('outside-limits', place(), `The mode ${mode} lies outside ${low} … ${high}.`, 'Choose one between them.');
  return { k: 'scatter', distribution: { k: 'triangular', low, mode, high } };
}
