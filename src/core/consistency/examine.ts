import { type Criterion, normalSentence } from '@/core/criteria';
import type { CatalogueEntry } from '@/core/loop';
import type { SlotNumber } from '@/core/plan';
import type { BoundCriterion, CheckedProject } from '@/core/project';
import { CriterionQuestion } from './meaning';
import { lasting, outcomeIn, type Scenario } from './scenario';
import { decimal, instants, NotExpressible, Surroundings, signal, time, trigger } from './smt';

/** Answers a question in SMT-LIB 2.6: `unsat`, or `sat` with the values of the names that matter; `unknown` when its time is over. */
export type Solve = (script: string) => Promise<{ readonly answer: 'sat' | 'unsat' | 'unknown'; readonly values: ReadonlyMap<string, number> }>;

/** One criterion that a finding speaks of. */
export interface Involved {
  readonly requirement: string;
  readonly criterion: string;
  readonly sentence: string;
}

export type FindingKind = 'cannot hold together' | 'cannot hold together while it stays so' | 'says the same' | 'never triggers' | 'left unsaid';

export interface ConsistencyFinding {
  readonly kind: FindingKind;
  readonly involved: readonly Involved[];
  readonly words: string;
  readonly scenario?: Scenario;
}

export interface Consistency {
  readonly findings: readonly ConsistencyFinding[];
  /** Criteria that could not be put as questions, with the reason. */
  readonly leftOut: readonly (Involved & { readonly why: string })[];
  readonly criteria: number;
  /** Pairs that were looked at: those that speak of a common signal. */
  readonly pairs: number;
  /** Questions whose time was over. */
  readonly unanswered: number;
}

interface Asked extends Involved {
  readonly question: CriterionQuestion;
}

/**
 * Holds the accepted criteria of a project against each other: those that cannot be met together once both are triggered at one instant, those that say the same, those that
 * can never be triggered, and states or ranges of a table of modes of which nothing is said. A solver answers; signals are taken as held, within their declared ranges, and free otherwise.
 */
export async function examineConsistency(project: CheckedProject, solve: Solve): Promise<Consistency> {
  return new Examination(project, solve).run();
}

class Examination {
  private readonly findings: ConsistencyFinding[] = [];
  private readonly leftOut: (Involved & { why: string })[] = [];
  private unanswered = 0;
  private pairs = 0;

  constructor(
    private readonly project: CheckedProject,
    private readonly solve: Solve,
  ) {}

  async run(): Promise<Consistency> {
    this.sameWords();
    for (const [key, { catalogue, plan }] of this.project.loops) {
      // A variant has the names of its loop, and nothing new to say of them.
      if (key.includes('/')) continue;
      await this.loop(key, new Surroundings(catalogue, plan));
    }
    const criteria = this.accepted().length;
    return { findings: this.findings, leftOut: this.leftOut, criteria, pairs: this.pairs, unanswered: this.unanswered };
  }

  private accepted(): BoundCriterion[] {
    return this.project.criteria.filter((one) => one.acceptedBy !== undefined);
  }

  private sameWords(): void {
    const seen = new Map<string, BoundCriterion>();
    for (const one of this.accepted()) {
      const form = normalSentence(one.sentence);
      const first = seen.get(form);
      if (first)
        this.findings.push({
          kind: 'says the same',
          involved: [involvedIn(first), involvedIn(one)],
          words: 'Both say the same: one of them could go, or point to the other.',
        });
      else seen.set(form, one);
    }
  }

  private async loop(key: string, around: Surroundings): Promise<void> {
    const asked: Asked[] = [];
    for (const one of this.accepted()) {
      const criterion = one.inLoop.get(key);
      if (!criterion) continue;
      const question = new CriterionQuestion(criterion);
      try {
        around.text(question.slots());
        question.triggered();
        question.met();
      } catch (problem) {
        if (!(problem instanceof NotExpressible)) throw problem;
        this.leftOut.push({ ...involvedIn(one), why: problem.message });
        continue;
      }
      if (await this.canTrigger(one, question, around)) asked.push({ ...involvedIn(one), question });
    }
    for (const [index, first] of asked.entries()) for (const second of asked.slice(index + 1)) await this.pair(first, second, around);
    await this.tables(asked, around);
  }

  private async canTrigger(one: BoundCriterion, question: CriterionQuestion, around: Surroundings): Promise<boolean> {
    const { answer } = await this.ask(around.text(question.slots()), [question.triggered()]);
    if (answer !== 'unsat') return true;
    this.findings.push({
      kind: 'never triggers',
      involved: [involvedIn(one)],
      words: 'Within the declared ranges, and in one state of each region at a time, its trigger can never come about.',
    });
    return false;
  }

  private async pair(first: Asked, second: Asked, around: Surroundings): Promise<void> {
    const meet = (a: ReadonlySet<SlotNumber>, b: ReadonlySet<SlotNumber>): boolean => [...a].some((slot) => b.has(slot));
    const [a, b] = [first.question, second.question];
    if (!meet(a.answers(), b.answers())) return;
    this.pairs += 1;
    const slots = new Set([...a.slots(), ...b.slots()]);
    const text = around.text(slots);
    const together = [a.triggered(), b.triggered()];
    const { answer } = await this.ask(text, [...together, a.met(), b.met()]);
    if (answer === 'unsat') {
      // Two that are never triggered at one instant have nothing against each other.
      if (!(await this.isPossible(text, together))) return;
      await this.tell('cannot hold together', first, second, around, text, together);
      return;
    }
    const answers = new Set([...a.answers(), ...b.answers()]);
    const frozen = [...slots].filter((slot) => !answers.has(slot)).flatMap((slot) => stays(slot));
    if (frozen.length === 0) return;
    const still = [...together, ...frozen];
    if ((await this.ask(text, [...still, a.met(), b.met()])).answer !== 'unsat') return;
    // Each by itself can be met: it is the two together that cannot.
    if ((await this.isPossible(text, [...still, a.met()])) && (await this.isPossible(text, [...still, b.met()])))
      await this.tell('cannot hold together while it stays so', first, second, around, text, still);
  }

  private async tell(kind: FindingKind, first: Asked, second: Asked, around: Surroundings, text: string, facts: readonly string[]): Promise<void> {
    const shown = (await this.shown(first, second, around, text, facts)) ?? (await this.shown(second, first, around, text, facts));
    const stay = kind === 'cannot hold together' ? '' : ', and as long as what triggers them stays as it is';
    const seen = shown
      ? ` In the scenario ${shown.kept.requirement} is ${shown.outcome === 'met' ? 'met' : 'kept to its end'}, so ${shown.broken.requirement} is broken.`
      : '';
    this.findings.push({
      kind,
      involved: [involvedOf(first), involvedOf(second)],
      words: `When both are triggered at one instant${stay}, no trace of the signals satisfies both.${seen}`,
      ...(shown ? { scenario: shown.scenario } : {}),
    });
  }

  /** A scenario in which one of two is kept and the other broken. The judge of all runs has to see it so: one that he sees otherwise is not shown. */
  private async shown(kept: Asked, broken: Asked, around: Surroundings, text: string, facts: readonly string[]) {
    const criteria = [kept.question.criterion, broken.question.criterion] as const;
    const entries = around.shown(new Set([...kept.question.slots(), ...broken.question.slots()]));
    const scenario = await this.scenario(entries, text, [...facts, kept.question.met()], criteria);
    const outcome = scenario && outcomeIn(scenario, entries, criteria[0]);
    if (!scenario || !outcome || outcome === 'broken' || outcomeIn(scenario, entries, criteria[1]) !== 'broken') return undefined;
    return { scenario, kept, broken, outcome };
  }

  /** Tables of modes: several `while S, P` about one answer whose S speak of one and the same signal. */
  private async tables(asked: readonly Asked[], around: Surroundings): Promise<void> {
    const groups = new Map<string, Asked[]>();
    for (const one of asked) {
      const { pattern } = one.question.criterion;
      if (pattern.k !== 'while' || pattern.seconds !== undefined) continue;
      const answers = one.question.answers();
      const modes = [...one.question.slots()].filter((slot) => !answers.has(slot));
      if (modes.length === 1 && answers.size === 1)
        groups.set(`${modes[0]} ${[...answers][0]}`, [...(groups.get(`${modes[0]} ${[...answers][0]}`) ?? []), one]);
    }
    for (const group of groups.values()) {
      const [first] = group;
      if (!first || group.length < 2) continue;
      const slots = new Set(group.flatMap((one) => [...one.question.slots()]));
      const none = group.map((one) => `(not ${one.question.triggered()})`);
      const entries = around.shown(slots);
      const criteria = group.map((one) => one.question.criterion);
      const scenario = await this.scenario(entries, around.text(slots), none, criteria);
      if (scenario && criteria.every((one) => outcomeIn(scenario, entries, one) === undefined))
        this.findings.push({
          kind: 'left unsaid',
          involved: group.map(involvedOf),
          words: 'Each of these speaks of one mode; at the instant shown none of them says anything.',
          scenario,
        });
    }
  }

  private async isPossible(text: string, facts: readonly string[]): Promise<boolean> {
    return (await this.ask(text, facts)).answer === 'sat';
  }

  private async scenario(
    entries: readonly CatalogueEntry[],
    text: string,
    facts: readonly string[],
    criteria: readonly Criterion[],
  ): Promise<Scenario | undefined> {
    const each = Array.from({ length: instants }, (_, at) => at);
    const between = each.slice(1).map((at) => `(- ${time(at)} ${time(at - 1)})`);
    // Instants that lie near each other read better than years, and not too near better than a hair's breadth; multiples of 1/16 s are exact in a trace.
    const near = between.map((length) => `(<= ${length} ${decimal(60)})`);
    const exact = each.slice(1).map((at) => `(is_int (* 16.0 ${time(at)}))`);
    let found = await this.ask(text, [...facts, ...near, ...exact]);
    if (found.answer !== 'sat') found = await this.ask(text, [...facts, ...near]);
    if (found.answer !== 'sat') found = await this.ask(text, facts);
    const { answer, values } = found;
    if (answer !== 'sat') return undefined;
    const at0 = values.get(time(trigger)) ?? 0;
    const scenario = {
      times: each.map((at) => (values.get(time(at)) ?? 0) - at0),
      lanes: entries.map(({ slot, name, unit, type, enumeration }) => {
        const labels = enumeration?.values ?? this.labelsOf(slot);
        return { name, unit, type, ...(labels ? { labels } : {}), values: each.map((at) => values.get(signal(slot, at)) ?? 0) };
      }),
    };
    return lasting(scenario, criteria);
  }

  private labelsOf(slot: SlotNumber): readonly string[] | undefined {
    for (const { plan } of this.project.loops.values()) {
      const region = plan.regions.find((one) => one.slot === slot);
      if (region) return ['', ...region.states.map((state) => state.name)];
    }
    return undefined;
  }

  private async ask(text: string, facts: readonly string[]): ReturnType<Solve> {
    const found = await this.solve(`${text}\n${facts.map((fact) => `(assert ${fact})`).join('\n')}`);
    if (found.answer === 'unknown') this.unanswered += 1;
    return found;
  }
}

function stays(slot: SlotNumber): string[] {
  return Array.from({ length: instants - trigger - 1 }, (_, index) => `(= ${signal(slot, trigger + index + 1)} ${signal(slot, trigger)})`);
}

function involvedIn({ requirement, name, sentence }: BoundCriterion): Involved {
  return { requirement, criterion: name, sentence };
}

function involvedOf({ requirement, criterion, sentence }: Asked): Involved {
  return { requirement, criterion, sentence };
}
