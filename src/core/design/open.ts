import type { SourceFile } from '@/core/documents';
import { nameKey } from '@/core/language';
import { checkProject } from '@/core/project';
import { derivedDocument } from './document';
import type { Goal } from './goals';
import { Search, type SearchSettings } from './search';
import { suiteOf } from './suite';

/** A case of a loop that does nothing: what is found is made of it. */
const empty = 'Derived';

/**
 * Opens a search over a loop of a project.
 * @param alone as if the project had no cases yet
 * @throws Error in words, where no case of the loop can be made
 */
export function openSearch(files: readonly SourceFile[], loop: string, settings: SearchSettings, alone = false): Search {
  const project = checkProject([...files, { path: 'cases/derived-empty.yaml', text: `case: ${empty}\nloop: ${loop}\n` }]);
  const template = project.cases.find((one) => one.experiment.case === empty);
  if (!template) throw new Error(`a case of the loop ${loop} cannot be made: ${project.faults[0]?.message ?? 'there is no such loop'}`);
  const known = alone ? [] : project.cases.filter((one) => one !== template && one.loop === template.loop);
  return new Search(project, template, known, settings);
}

/** Looks for a case that triggers the accepted criteria of one requirement. */
export class CaseFinder {
  private readonly search: Search;
  private readonly wanted: readonly Goal[];
  private readonly before: ReadonlySet<string>;

  /** @throws Error in words, where the requirement has no accepted criterion in any loop */
  constructor(
    private readonly files: readonly SourceFile[],
    private readonly requirement: string,
    private readonly settings: Pick<SearchSettings, 'seed' | 'withWires'>,
  ) {
    const { criteria, loops } = checkProject(files);
    const own = criteria.filter((one) => nameKey(one.requirement) === nameKey(requirement) && one.acceptedBy !== undefined);
    const [key] = own.flatMap((one) => [...one.inLoop.keys()]);
    const loop = loops.get(key ?? '')?.plan.loop.split('/')[0];
    if (loop === undefined) throw new Error(`${requirement} has no accepted criterion that could be triggered: read and accept it first`);
    this.search = openSearch(files, loop, { ...settings, kinds: new Set(['triggered', 'state', 'transition', 'outcome', 'row']) }, true);
    this.wanted = this.search.goals.filter((goal) => this.isOwn(goal));
    this.before = new Set();
  }

  private isOwn({ id, kind }: Goal): boolean {
    return kind === 'triggered' && nameKey(id).startsWith(nameKey(`triggered ${this.requirement} `));
  }

  get runs(): number {
    return this.search.runs;
  }

  /** Criteria that no run has triggered yet, in words. */
  get left(): string[] {
    return this.wanted.filter(({ id }) => !this.search.reached.has(id)).map(({ words }) => words);
  }

  /** Makes one more run. */
  step(): void {
    this.search.step();
  }

  /** The cases that trigger what was triggered, made small. */
  documents(): SourceFile[] {
    const suite = suiteOf(this.search, this.before, (goal) => this.isOwn(goal));
    const taken = this.files.map((one) => one.path);
    return suite.map((one, index) => {
      const name = suite.length === 1 ? `For ${this.requirement}` : `For ${this.requirement} (${index + 1})`;
      const raw = { ...this.search.document(one.moves, one.stopNs), case: this.search.freeName(name), meant_for: [this.requirement] };
      return derivedDocument(raw, { for: one.goals.map(({ words }) => words), seed: this.settings.seed }, taken);
    });
  }
}
