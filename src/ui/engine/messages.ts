import type { Composed, Response } from '@/core/campaign';
import type { Answered, CompareSettings, SignalComparison, TraceComparison } from '@/core/compare';
import type { CoverageReport } from '@/core/coverage';
import type { Family, LeftGoal, ReachedBorder } from '@/core/design';
import type { SourceFile } from '@/core/documents';
import type { Preview, PreviewOn, WhyNot } from '@/core/explain';
import type { Fault, Place } from '@/core/fault';
import type { FitResult } from '@/core/fit';
import type { LinearAnswer, LinearQuestion } from '@/core/linear';
import type { Lens, ModelView } from '@/core/picture';
import type { Attempted, DrawnCase, EditedCase, JudgedGaps, RunOrder, RunResult, TriggeredBy } from '@/core/project';
import type { Reading } from '@/core/reading';
import type { Gathered, Renamed } from '@/core/refactor';
import type { Brought, BroughtIn, Difference, RequirementChange, RequirementsInspection, SentenceMeaning } from '@/core/requirements';
import type { IntegrityLevel } from '@/core/shapes';
import type { Trace } from '@/core/trace';
import type { SolverSetting, TrialPoint } from '@/core/trial';

/** What a run is compared with: that of another case, of the first one with another plant, a recording as CSV, or a run of a campaign (which is compared with its case as it is). */
export type ComparedWith =
  | { readonly k: 'case'; readonly case: string }
  | { readonly k: 'variant'; readonly variant: string }
  | { readonly k: 'recording'; readonly text: string }
  | { readonly k: 'campaign run'; readonly campaign: number; readonly document: string; readonly run: number };

/** A trace that another one is compared with; no comparison when they have no time in common. */
export interface ComparedTrace {
  /** What it is called; a recording has its name from who chose it. */
  readonly name: string;
  readonly trace: Trace;
  readonly comparison: TraceComparison | undefined;
}

/** A run with what it is compared with. */
export interface Compared {
  readonly cases: readonly string[];
  /** Of the loop of the first case. */
  readonly variants: readonly string[];
  readonly first: string;
  readonly trace: Trace;
  readonly others: readonly ComparedTrace[];
}

/** What can be tried, and what is: one case, or all of a loop. */
export interface TrialChoices {
  readonly cases: readonly string[];
  readonly loops: readonly { readonly loop: string; readonly cases: number }[];
  readonly of?: { readonly case: string } | { readonly loop: string };
}

/** What the page may ask of the engine: question and answer of each kind. */
export interface EngineTalk {
  readonly run: { readonly ask: { readonly order: RunOrder }; readonly answer: { readonly result: RunResult; readonly trace: Trace } };
  readonly why: { readonly ask: { readonly order: RunOrder; readonly transition: number }; readonly answer: WhyNot };
  readonly inspect: { readonly ask: { readonly files: readonly SourceFile[]; readonly at: string }; readonly answer: ModelView };
  readonly rename: {
    readonly ask: { readonly files: readonly SourceFile[]; readonly file: string; readonly offset: number; readonly to: string };
    readonly answer: Renamed;
  };
  /** Where that is defined what the name at an offset stands for. */
  readonly define: {
    readonly ask: { readonly files: readonly SourceFile[]; readonly file: string; readonly offset: number };
    readonly answer: Place | undefined;
  };
  readonly gather: {
    readonly ask: { readonly files: readonly SourceFile[]; readonly component: string; readonly parts: readonly string[]; readonly name: string };
    readonly answer: Gathered;
  };
  readonly wire: {
    readonly ask: { readonly files: readonly SourceFile[]; readonly loop: string };
    readonly answer: { readonly path: string; readonly text: string; readonly count: number } | undefined;
  };
  /** The goals of a requirement, with the cases that reach them. @param drawn names of cases that are to be drawn */
  readonly family: {
    readonly ask: { readonly files: readonly SourceFile[]; readonly requirement: string; readonly drawn: readonly string[] };
    readonly answer: { readonly family: Family; readonly drawn: readonly DrawnCase[] };
  };
  /** Looks for cases that trigger a requirement, reach all of its goals, break one, or reach what the cases of a loop do not, all of it or one part: begins, or goes on with the search that was begun last, or hands over what that has found. */
  readonly 'find case': {
    readonly ask: {
      readonly begin?: { readonly files: readonly SourceFile[]; readonly seed: number; readonly withWires: boolean } & (
        | { readonly requirement: string }
        | { readonly family: string }
        | { readonly broken: string; readonly withPlant: boolean }
        | { readonly loop: string; readonly part?: string }
      );
      readonly isEnough?: boolean;
    };
    readonly answer: {
      readonly runs: number;
      readonly left: readonly LeftGoal[];
      readonly goals: number;
      /** How hard a criterion was tried to be broken. */
      readonly tried?: string;
      /** What was tried to be broken in vain so far. */
      readonly attempts: readonly Attempted[];
      readonly documents: readonly SourceFile[];
    };
  };
  /** Runs all cases with counters on. */
  readonly coverage: {
    readonly ask: { readonly files: readonly SourceFile[] };
    readonly answer: {
      readonly cases: number;
      /** How many cases are not counted, since their co-simulation units do not run in a browser. */
      readonly uncounted: number;
      readonly loops: readonly string[];
      readonly report: CoverageReport;
      /** Parts that one case touches and no other, with the case. */
      readonly alone: ReadonlyMap<string, string>;
      /** Where the project asks for what a level does. */
      readonly level?: IntegrityLevel;
      /** Gaps that no run can fill, with the reason. */
      readonly unreachable: ReadonlyMap<string, string>;
      /** What stands for the logic of each gap today. */
      readonly marks: ReadonlyMap<string, string>;
    } & Pick<JudgedGaps, 'justified' | 'lapsed' | 'unasked'>;
  };
  /** Coverage laid over the drawing and the text of an item of the model. */
  readonly lens: {
    readonly ask: { readonly files: readonly SourceFile[]; readonly at: string };
    readonly answer: { readonly at: string; readonly cases: number; readonly lens: Lens; readonly marks: ReadonlyMap<string, string> };
  };
  readonly replace: {
    readonly ask: { readonly text: string; readonly path: readonly string[]; readonly value: number | boolean | string };
    readonly answer: string | undefined;
  };
  /** Reads the requirements of a project; the questions below are about the project that was read last. */
  readonly requirements: { readonly ask: { readonly files: readonly SourceFile[] }; readonly answer: RequirementsInspection };
  readonly readings: { readonly ask: { readonly texts: readonly string[] }; readonly answer: readonly Reading[] };
  readonly meaning: { readonly ask: { readonly sentence: string }; readonly answer: SentenceMeaning };
  readonly preview: { readonly ask: { readonly sentence: string; readonly on: PreviewOn }; readonly answer: Preview };
  /** Makes a case, or all cases of a loop, ready to be solved in many ways; the two questions below are about it. */
  readonly trial: {
    readonly ask: { readonly files: readonly SourceFile[]; readonly case?: string; readonly loop?: string };
    readonly answer: TrialChoices & { readonly settings: readonly SolverSetting[] };
  };
  readonly 'trial point': { readonly ask: { readonly setting: SolverSetting }; readonly answer: TrialPoint };
  readonly 'adopt setting': { readonly ask: { readonly setting: SolverSetting }; readonly answer: SourceFile };
  readonly compare: {
    readonly ask: {
      readonly files: readonly SourceFile[];
      readonly first?: string;
      /** None for the next case. */
      readonly others: readonly ComparedWith[];
      readonly settings: CompareSettings;
    };
    readonly answer: Compared;
  };
  /** The document of a case's loop with the span of one signal in which its plant is to be trusted. */
  readonly trust: {
    readonly ask: { readonly files: readonly SourceFile[]; readonly case: string; readonly signal: SignalComparison; readonly because: string };
    readonly answer: SourceFile;
  };
  readonly linear: {
    readonly ask: { readonly files: readonly SourceFile[]; readonly case?: string; readonly question: LinearQuestion };
    readonly answer: { readonly cases: readonly string[]; readonly of: string; readonly stop: number; readonly answer: LinearAnswer };
  };
  /** One input of a case pushed, and which way everything goes. */
  readonly probe: {
    readonly ask: {
      readonly files: readonly SourceFile[];
      readonly case?: string;
      readonly input?: string;
      readonly at: number;
      readonly by: number;
    };
    readonly answer: {
      readonly cases: readonly string[];
      readonly of: string;
      readonly stop: number;
      readonly inputs: readonly { readonly name: string; readonly unit: string; readonly isTruth: boolean }[];
      readonly input: string;
      readonly words: string;
      readonly found: readonly Answered[];
    };
  };
  readonly 'fit choices': {
    readonly ask: { readonly files: readonly SourceFile[]; readonly case?: string; readonly recording?: string };
    readonly answer: {
      readonly cases: readonly string[];
      readonly of: string;
      readonly recordings: readonly string[];
      readonly parameters: readonly { readonly name: string; readonly about: string; readonly unit: string }[];
      readonly signals: readonly string[];
    };
  };
  /** Texts of recordings as CSV. */
  readonly fit: {
    readonly ask: {
      readonly files: readonly SourceFile[];
      readonly case: string;
      readonly recording: string;
      readonly holdOut?: string;
      readonly signals: readonly string[];
      readonly parameters: readonly string[];
    };
    readonly answer: FitResult;
  };
  /** A case while it is being edited, and its run. */
  readonly 'edit case': {
    readonly ask: { readonly files: readonly SourceFile[]; readonly file: string };
    readonly answer: {
      readonly faults: readonly Fault[];
      /** Those of the model, with which nothing is run. */
      readonly ofModel: readonly Fault[];
      readonly view?: EditedCase;
      readonly run?: {
        readonly trace: Trace;
        readonly triggered: readonly TriggeredBy[];
        readonly borders: readonly ReachedBorder[];
        readonly touched: CoverageReport;
        readonly result: RunResult;
        readonly ms: number;
      };
    };
  };
  /** A campaign document while it is being composed. */
  readonly compose: { readonly ask: { readonly files: readonly SourceFile[]; readonly file: string }; readonly answer: Composed };
  /** Makes a campaign ready, so that some of its runs can be made again; the two questions below are about it. */
  readonly campaign: {
    readonly ask: { readonly files: readonly SourceFile[]; readonly campaign: string };
    readonly answer: { readonly total: number };
  };
  /** One signal over some of its runs, at instants of equal distance; and over the case as its document has it, which has the number 0. */
  readonly responses: {
    readonly ask: { readonly numbers: readonly number[]; readonly signal: string; readonly instants: number };
    readonly answer: { readonly every: number; readonly responses: readonly Response[] };
  };
  /** A document of a case that is what one of its runs was. */
  readonly 'case of run': { readonly ask: { readonly number: number; readonly name: string }; readonly answer: SourceFile };
  readonly 'bring in': { readonly ask: { readonly files: readonly SourceFile[]; readonly brought: Brought }; readonly answer: BroughtIn };
  readonly 'take in': {
    readonly ask: { readonly files: readonly SourceFile[]; readonly differences: readonly Difference[] };
    readonly answer: readonly SourceFile[];
  };
  readonly 'edit requirement': {
    readonly ask: { readonly text: string; readonly path: readonly (string | number)[]; readonly changes: readonly RequirementChange[] };
    readonly answer: string | undefined;
  };
}

export type EngineKind = keyof EngineTalk;

export interface EngineRequest<K extends EngineKind = EngineKind> {
  readonly id: number;
  readonly k: K;
  readonly ask: EngineTalk[K]['ask'];
}

export type EngineAnswer =
  | { readonly id: number; readonly value: EngineTalk[EngineKind]['answer'] }
  | { readonly id: number; readonly problem: string };
