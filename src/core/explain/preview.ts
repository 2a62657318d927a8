import { type Criterion, compileAlone, criterionSlots, judge, type SentenceCheck, signalsOf } from '@/core/criteria';
import { nameKey } from '@/core/language';
import type { Catalogue } from '@/core/loop';
import { type CheckedProject, whyNotRun } from '@/core/project';
import { type RunOutcome, simulate } from '@/core/simulate';
import type { Trace } from '@/core/trace';
import { type DrawnTrace, traceOfDrawn } from './drawn';
import { exampleTrace } from './example';
import type { Shown } from './shown';

/** On what a sentence is looked at: the run of a case, an invented trace, or one drawn by hand. */
export type PreviewOn =
  | { readonly k: 'case'; readonly case: string }
  | { readonly k: 'invented'; readonly wanted: 'met' | 'broken' }
  | { readonly k: 'drawn'; readonly drawn: DrawnTrace };

export type Preview =
  | { readonly k: 'shown'; readonly shown: Shown }
  | { readonly k: 'not'; readonly why: string; readonly faults: SentenceCheck['faults'] };

/** Shows sentences on runs of a project's cases; a run is made once and then serves every sentence that is tried on it. */
export class Previewer {
  private readonly runs = new Map<string, RunOutcome>();

  constructor(private readonly project: CheckedProject) {}

  preview(sentence: string, on: PreviewOn): Preview {
    if (on.k === 'case') return this.onCase(sentence, on.case);
    return on.k === 'drawn' ? this.onDrawn(sentence, on.drawn) : this.invented(sentence, on.wanted);
  }

  private onCase(sentence: string, name: string): Preview {
    const why = whyNotRun(this.project);
    if (why !== undefined) return { k: 'not', why, faults: [] };
    const test = this.project.cases.find((one) => nameKey(one.experiment.case) === nameKey(name));
    const loop = test && this.project.loops.get(test.loop);
    if (!test || !loop) return { k: 'not', why: `There is no case "${name}" that could be run.`, faults: [] };
    const { criterion, faults } = compileAlone(sentence, loop.catalogue);
    if (!criterion) return { k: 'not', why: 'It cannot be read in the loop of this case.', faults };
    const { trace, slots } = this.run(name, () => simulate(test.experiment));
    const judgement = judge(
      criterion,
      signalsOf(trace, (slot) => slots[slot] ?? Number.NaN),
    );
    return { k: 'shown', shown: { ...judgement, criterion, trace: onlyRead(trace, criterion) } };
  }

  private onDrawn(sentence: string, drawn: DrawnTrace): Preview {
    const found = this.read(sentence);
    if ('k' in found) return found;
    const { criterion, catalogue } = found;
    const trace = traceOfDrawn(drawn, criterion, catalogue);
    const judgement = judge(criterion, signalsOf(trace));
    return { k: 'shown', shown: { ...judgement, criterion, trace } };
  }

  private invented(sentence: string, wanted: 'met' | 'broken'): Preview {
    const found = this.read(sentence);
    if ('k' in found) return found;
    const shown = exampleTrace(found.criterion, found.catalogue, wanted);
    const word = wanted === 'met' ? 'meets' : 'breaks';
    return shown ? { k: 'shown', shown } : { k: 'not', why: `Among 3,000 invented traces none ${word} it.`, faults: [] };
  }

  /** In the first loop in which it can be read. */
  private read(sentence: string): { readonly criterion: Criterion; readonly catalogue: Catalogue } | (Preview & { readonly k: 'not' }) {
    const checks = [...this.project.loops.values()].map(({ catalogue }) => ({ catalogue, ...compileAlone(sentence, catalogue) }));
    for (const { criterion, catalogue } of checks) if (criterion) return { criterion, catalogue };
    return { k: 'not', why: 'It cannot be read yet.', faults: checks[0]?.faults ?? [] };
  }

  private run(name: string, make: () => RunOutcome): RunOutcome {
    const known = this.runs.get(name) ?? make();
    this.runs.set(name, known);
    return known;
  }
}

/** A trace without the columns a criterion does not speak of, so that little goes from the worker to the page. */
function onlyRead(trace: Trace, criterion: Criterion): Trace {
  const slots = new Set(criterionSlots(criterion));
  const columns = trace.columns.filter((column) => slots.has(column.slot)).map((column) => ({ ...column, data: column.data.slice() }));
  const bases = trace.bases.map((base, index) => (columns.some((column) => column.base === index) ? base.slice() : new Float64Array()));
  return { ...trace, bases, columns };
}
