import type { SourceFile } from '@/core/documents';
import { nameKey } from '@/core/language';
import { derivedDocument } from '../document';
import type { Goal, GoalKind } from '../goals/goals';
import { type LeftGoal, leftGoal, openSearch } from '../open';
import type { Candidate } from '../search/candidate';
import type { Nearest, Search, SearchSettings } from '../search/search';
import { suiteOf } from '../suite';

/** A search of one loop, as plain data for a thread. */
export interface StrainTask {
  readonly files: readonly SourceFile[];
  readonly loop: string;
  readonly seed: number;
  readonly kinds: readonly GoalKind[];
  readonly withWires: boolean;
  readonly vary?: NonNullable<SearchSettings['vary']>;
  /** As if there were no cases yet. */
  readonly alone: boolean;
  /** Only goals that criteria of these set; all goals unless said. */
  readonly requirements?: readonly string[];
}

/** A case that one strain hands to the others. */
export type Handed = Pick<Candidate, 'moves' | 'stopNs'> & {
  readonly reached: readonly string[];
  /** Ids of criteria's goals that it meets with less margin than any before, with that. */
  readonly least: readonly (readonly [goal: string, measure: number])[];
};

/** What a strain tells after a round. */
export interface RoundTold {
  /** Runs it has made in all. */
  readonly runs: number;
  /** Goals that are asked for and that it has not reached. */
  readonly left: readonly string[];
  /** What it has found in the round. */
  readonly found: readonly Handed[];
}

/** A case that was derived: its document, and what it is there for. */
export interface DerivedDocument extends SourceFile {
  readonly moves: number;
  readonly goals: readonly string[];
}

/** What a search has come to. */
export interface Derived {
  readonly documents: readonly DerivedDocument[];
  readonly goals: number;
  readonly left: readonly (LeftGoal & Pick<Goal, 'kind'>)[];
  /** Goals that no run can reach, and why. */
  readonly unreachable: readonly { readonly words: string; readonly because: string }[];
  /** One of the cases breaks a criterion. */
  readonly isBroken: boolean;
  readonly runs: number;
}

/** One of several searches that look for the same, each from a seed of its own, and tell each other what they have found. */
export class Strain {
  private readonly search: Search;

  /** @param number which of the strains it is, from 0 */
  constructor(
    private readonly task: StrainTask,
    number: number,
  ) {
    const { files, loop, seed, kinds, withWires, vary, alone, requirements } = task;
    const aimed = requirements === undefined ? {} : { isAimed: this.isWanted, leavesOut: (goal: Goal) => isBorder(goal) && !this.isWanted(goal) };
    this.search = openSearch(files, loop, { seed, strain: number, kinds: new Set(kinds), withWires, ...(vary ? { vary } : {}), ...aimed }, alone);
  }

  private readonly isWanted = ({ criterion }: Goal): boolean => {
    const { requirements } = this.task;
    return requirements === undefined || (criterion !== undefined && requirements.some((one) => nameKey(one) === nameKey(criterion.requirement)));
  };

  /** Takes in what others have found, and makes some runs, or fewer where nothing is left. @param received by other strains */
  round(runs: number, received: readonly Handed[]): RoundTold {
    const { search } = this;
    for (const one of received) if (this.isNews(one)) search.receive(one.moves, one.stopNs);
    const [before, least] = [search.found.length, this.least()];
    for (let run = 0; run < runs && this.left.length > 0; run += 1) search.step();
    // The newest come first.
    const found = search.found.slice(0, search.found.length - before).reverse();
    return {
      runs: search.runs,
      left: this.left.map(({ id }) => id),
      found: [
        ...found.map((one) => handed(one, [])),
        ...this.least().flatMap(([id, { candidate, distance }]) =>
          least.some(([, near]) => near.candidate === candidate) ? [] : [handed(candidate, [[id, distance.measure]])],
        ),
      ],
    };
  }

  private isNews({ reached, least }: Handed): boolean {
    const { search } = this;
    if (reached.some((id) => !search.reached.has(id))) return true;
    return least.some(([id, measure]) => measure < (search.nearestTo(id)?.distance.measure ?? Number.POSITIVE_INFINITY));
  }

  /** The runs that met criteria with the least margin. */
  private least(): (readonly [string, Nearest])[] {
    return this.search.goals.flatMap((goal) => {
      const near = goal.kind === 'least' && this.isWanted(goal) ? this.search.nearestTo(goal.id) : undefined;
      return near ? [[goal.id, near] as const] : [];
    });
  }

  /** Makes small what it has found, its own and that of others. */
  ending(): Derived {
    const { search, task } = this;
    const suite = suiteOf(search, search.known, this.isWanted);
    const taken = task.files.map(({ path }) => path);
    const documents = suite.map(({ moves, stopNs, goals }, index): DerivedDocument => {
      const raw = { ...search.document(moves, stopNs), case: search.freeName(`Derived ${index + 1} of ${task.loop}`) };
      const words = goals.map((goal) => goal.words);
      const document = derivedDocument(raw, { for: words, seed: task.seed }, taken);
      taken.push(document.path);
      return { ...document, moves: moves.length, goals: words };
    });
    return {
      documents,
      goals: search.goals.filter(this.isWanted).length,
      left: this.left.map((goal) => ({ ...leftGoal(goal, search), kind: goal.kind })),
      unreachable: search.unreachable.filter(this.isWanted).map(({ words, unreachable = '' }) => ({ words, because: unreachable })),
      isBroken: suite.some(({ reached }) => search.breaks(reached)),
      runs: search.runs,
    };
  }

  private get left(): Goal[] {
    return this.search.left.filter(this.isWanted);
  }
}

function handed({ moves, stopNs, reached }: Candidate, least: Handed['least']): Handed {
  return { moves, stopNs, reached: [...reached], least };
}

function isBorder({ kind }: Goal): boolean {
  return kind === 'boundary' || kind === 'decided' || kind === 'least';
}
