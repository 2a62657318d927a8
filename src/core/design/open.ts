import type { Margin } from '@/core/criteria';
import type { SourceFile } from '@/core/documents';
import { nameKey } from '@/core/language';
import { type CheckedCase, type CheckedProject, checkProject, checkToRun } from '@/core/project';
import { marginWords, plural, timeWords } from '@/core/wording';
import type { Off } from './boundary/off';
import { derivedDocument } from './document';
import { type Goal, type GoalKind, isOf, isPart } from './goals/goals';
import { missedWords } from './goals/missed';
import { justifiedGoals } from './justified';
import { Search, type SearchSettings } from './search/search';
import { suiteOf } from './suite';

/** A case of a loop that does nothing: what is found is made of it. */
const empty = 'Derived';

/** A case of a loop that does nothing. */
export function emptyCase(files: readonly SourceFile[], loop: string): { readonly project: CheckedProject; readonly template: CheckedCase } {
  const project = checkToRun([...files, { path: 'cases/derived-empty.yaml', text: `case: ${empty}\nloop: ${loop}\n` }]);
  const template = project.cases.find((one) => one.experiment.case === empty);
  if (!template) throw new Error(`a case of the loop ${loop} cannot be made: ${project.faults[0]?.message ?? 'there is no such loop'}`);
  return { project, template };
}

/**
 * Opens a search over a loop of a project.
 * @param alone as if the project had no cases yet
 * @throws Error in words, where no case of the loop can be made
 */
export function openSearch(files: readonly SourceFile[], loop: string, settings: SearchSettings, alone = false): Search {
  const { project, template } = emptyCase(files, loop);
  const known = alone ? [] : project.cases.filter((one) => one !== template && one.loop === template.loop);
  const isJustified = justifiedGoals(project, template);
  const leavesOut = (goal: Goal): boolean => isJustified(goal) || (settings.leavesOut?.(goal) ?? false);
  return new Search(project, template, known, { ...settings, leavesOut });
}

/** The first loop in which an accepted criterion of a requirement means something. @throws Error in words, where there is none */
export function loopFor(files: readonly SourceFile[], requirement: string): string {
  const { criteria, loops } = checkProject(files);
  const own = criteria.filter((one) => nameKey(one.requirement) === nameKey(requirement) && one.acceptedBy !== undefined);
  const [key] = own.flatMap((one) => [...one.inLoop.keys()]);
  const loop = loops.get(key ?? '')?.plan.loop.split('/')[0];
  if (loop === undefined) throw new Error(`${requirement} has no accepted criterion that could be triggered: read and accept it first`);
  return loop;
}

/** All that leads a search on, whatever it is for. */
const everyPart: readonly GoalKind[] = ['triggered', 'state', 'transition', 'outcome', 'row', 'position', 'limit', 'message'];

/** Goals of criteria that their requirement's cases should reach. To break a criterion is a search of its own. */
export const familyKinds: ReadonlySet<GoalKind> = new Set(['triggered', 'boundary', 'decided', 'least']);

/** A goal that no run has reached yet, in words. */
export interface LeftGoal {
  readonly id: string;
  readonly words: string;
  /** What the nearest run was short of, where that can be said. */
  readonly nearest?: string;
}

/** A goal that a search has not reached, with how near any of its runs came. */
export function leftGoal(goal: Goal, search: Search): LeftGoal {
  const nearness = search.nearnessTo(goal);
  const margin = goal.kind === 'least' ? search.nearestTo(goal.id)?.distance.margin : undefined;
  if (margin) return { id: goal.id, words: goal.words, nearest: `least margin so far ${marginWords(margin)}` };
  const nearest = shiftWords(search.nearestTo(goal.id)?.distance.shift) ?? (nearness && missedWords(nearness));
  return { id: goal.id, words: goal.words, ...(nearest === undefined ? {} : { nearest }) };
}

/** What came at the wrong time in the nearest run, in words. */
function shiftWords(shift: Off['shift']): string | undefined {
  if (!shift) return undefined;
  return `nearest at ${timeWords(shift.at)}: ${timeWords(Math.abs(shift.seconds))} too ${shift.seconds > 0 ? 'early' : 'late'}`;
}

/** What a finder is for, and how it names what it finds. */
interface Errand {
  readonly isWanted: (goal: Goal) => boolean;
  readonly name: string;
  readonly meantFor?: readonly string[];
}

/** Looks for cases, a run at a time, until it is told to hand over what it has found. */
export class CaseFinder {
  private readonly wanted: readonly Goal[];
  private readonly before: ReadonlySet<string>;

  private constructor(
    private readonly files: readonly SourceFile[],
    private readonly search: Search,
    private readonly seed: number,
    private readonly errand: Errand,
  ) {
    this.before = new Set(search.known);
    this.wanted = search.goals.filter((goal) => errand.isWanted(goal) && !this.before.has(goal.id));
  }

  /**
   * For a case that triggers the accepted criteria of one requirement, whatever cases there are.
   * @throws Error in words, where it has none in any loop
   */
  static forRequirement(files: readonly SourceFile[], requirement: string, settings: Pick<SearchSettings, 'seed' | 'withWires'>): CaseFinder {
    const isWanted = (goal: Goal): boolean => goal.kind === 'triggered' && isOf(goal, requirement);
    const search = openSearch(files, loopFor(files, requirement), { ...settings, kinds: new Set(everyPart), isAimed: isWanted }, true);
    return new CaseFinder(files, search, settings.seed, { isWanted, name: `For ${requirement}`, meantFor: [requirement] });
  }

  /**
   * For cases that reach the goals of one requirement that no case does: triggered, on each border, decided.
   * @throws Error in words, where it has no accepted criterion in any loop
   */
  static forFamily(files: readonly SourceFile[], requirement: string, settings: Pick<SearchSettings, 'seed' | 'withWires'>): CaseFinder {
    const isWanted = (goal: Goal): boolean => familyKinds.has(goal.kind) && isOf(goal, requirement);
    const kinds = new Set<GoalKind>([...everyPart, ...familyKinds]);
    const leavesOut = (goal: Goal): boolean => goal.criterion !== undefined && !isOf(goal, requirement) && goal.kind !== 'triggered';
    const search = openSearch(files, loopFor(files, requirement), { ...settings, kinds, leavesOut, isAimed: isWanted });
    return new CaseFinder(files, search, settings.seed, { isWanted, name: `For ${requirement}`, meantFor: [requirement] });
  }

  /**
   * For a case that breaks an accepted criterion of one requirement.
   * @param withPlant parameters of the plant may have other values between their limits
   * @throws Error in words, where it has none in any loop
   */
  static toBreak(
    files: readonly SourceFile[],
    requirement: string,
    { withPlant, ...settings }: Pick<SearchSettings, 'seed' | 'withWires'> & { readonly withPlant: boolean },
  ): CaseFinder {
    const isWanted = (goal: Goal): boolean => goal.kind === 'broken' && isOf(goal, requirement);
    const kinds = new Set<GoalKind>([...everyPart, 'broken']);
    const varied = withPlant ? { vary: 'plant' as const } : {};
    const search = openSearch(files, loopFor(files, requirement), { ...settings, ...varied, kinds, isAimed: isWanted }, true);
    return new CaseFinder(files, search, settings.seed, { isWanted, name: `${requirement} broken`, meantFor: [requirement] });
  }

  /** For cases of a loop that reach what its cases do not. */
  static forLoop(files: readonly SourceFile[], loop: string, settings: Pick<SearchSettings, 'seed' | 'withWires'>): CaseFinder {
    const search = openSearch(files, loop, { ...settings, kinds: new Set([...everyPart, 'decides']) });
    return new CaseFinder(files, search, settings.seed, { isWanted: () => true, name: `Found for ${loop}` });
  }

  /** For a case that touches one part of a loop's logic that its cases do not. @param part id of the part in the coverage of the loop */
  static forPart(files: readonly SourceFile[], loop: string, part: string, settings: Pick<SearchSettings, 'seed' | 'withWires'>): CaseFinder {
    const isWanted = (goal: Goal): boolean => isPart(goal, part);
    const search = openSearch(files, loop, { ...settings, kinds: new Set([...everyPart, 'decides']), isAimed: isWanted });
    return new CaseFinder(files, search, settings.seed, { isWanted, name: `Found for ${loop}` });
  }

  get runs(): number {
    return this.search.runs;
  }

  /** How many goals it looks for. */
  get goals(): number {
    return this.wanted.length;
  }

  /** Goals that no run has reached yet, in words, with how near any came. */
  get left(): LeftGoal[] {
    return this.search.left.filter((goal) => this.wanted.includes(goal)).map((goal) => leftGoal(goal, this.search));
  }

  /** How hard criteria that are not broken were tried, in words; nothing where none is to be broken. */
  get tried(): string | undefined {
    const aims = this.wanted.filter(({ id, kind }) => kind === 'broken' && !this.search.reached.has(id));
    if (aims.length === 0) return undefined;
    const [hardest] = [...aims].sort((a, b) => this.search.triesOf(b.id) - this.search.triesOf(a.id));
    const tries = this.search.triesOf(hardest?.id ?? '');
    const margins = aims.flatMap(({ id }) => this.search.nearestTo(id)?.distance.margin ?? []).sort((a, b) => a.measure - b.measure);
    const least = margins[0] ? `, least margin ${marginWords(margins[0])}` : '';
    return tries === 0 ? 'no run has triggered it yet' : `not broken in ${plural(tries, 'run')} that triggered it${least}`;
  }

  /** The criteria that it has tried to break in vain. */
  get attempts(): { readonly criterion: NonNullable<Goal['criterion']>; readonly tries: number; readonly margin?: Margin }[] {
    return this.wanted.flatMap(({ id, kind, criterion }) => {
      const tries = this.search.triesOf(id);
      if (kind !== 'broken' || !criterion || tries === 0 || this.search.reached.has(id)) return [];
      const margin = this.search.nearestTo(id)?.distance.margin;
      return [{ criterion, tries, ...(margin ? { margin } : {}) }];
    });
  }

  /** Makes one more run. */
  step(): void {
    this.search.step();
  }

  /** Few small cases that reach what was reached. */
  documents(): SourceFile[] {
    const { isWanted, name, meantFor } = this.errand;
    const suite = suiteOf(this.search, this.before, isWanted);
    const taken = this.files.map((one) => one.path);
    return suite.map((one, index) => {
      const wanted = suite.length === 1 ? name : `${name} (${index + 1})`;
      const raw = {
        ...this.search.document(one.moves, one.stopNs),
        case: this.search.freeName(wanted),
        ...(meantFor ? { meant_for: meantFor } : {}),
      };
      const document = derivedDocument(raw, { for: one.goals.map(({ words }) => words), seed: this.seed }, taken);
      taken.push(document.path);
      return document;
    });
  }
}
