/** A stretch of source text: offsets from the start of the text that was parsed. */
export interface Span {
  readonly from: number;
  readonly until: number;
}

export type UnaryOperator = '-' | 'NOT';
export type ArithmeticOperator = '+' | '-' | '*' | '/' | 'MOD' | '**';
export type Comparison = '<' | '<=' | '>' | '>=' | '=' | '<>';
export type LogicOperator = 'AND' | 'OR' | 'XOR';
export type BinaryOperator = ArithmeticOperator | Comparison | LogicOperator;

/** An expression of Structured Text (IEC 61131-3). */
export type Expression =
  | { readonly kind: 'number'; readonly span: Span; readonly value: number; readonly whole: boolean; readonly type?: string; readonly unit?: string }
  | { readonly kind: 'boolean'; readonly span: Span; readonly value: boolean }
  | { readonly kind: 'time'; readonly span: Span; readonly nanoseconds: number }
  | { readonly kind: 'name'; readonly span: Span; readonly path: readonly string[] }
  | { readonly kind: 'unary'; readonly span: Span; readonly operator: UnaryOperator; readonly operand: Expression }
  | { readonly kind: 'binary'; readonly span: Span; readonly operator: BinaryOperator; readonly left: Expression; readonly right: Expression }
  /** `names` tell which input each operand is for, where all are given as `name := value`. */
  | {
      readonly kind: 'call';
      readonly span: Span;
      readonly name: string;
      readonly operands: readonly Expression[];
      readonly names?: readonly string[];
    }
  /** `table[i]`, `table[i, j]`, `pumps[i].level` */
  | { readonly kind: 'element'; readonly span: Span; readonly path: readonly string[]; readonly indices: readonly Index[] }
  /** `rate of y`, in sentences only. */
  | { readonly kind: 'rate'; readonly span: Span; readonly operand: Expression }
  /** `y in [a, b]`, in sentences only. */
  | { readonly kind: 'between'; readonly span: Span; readonly operand: Expression; readonly low: Expression; readonly high: Expression }
  /** `y = r ± tolerance`, in sentences only. */
  | { readonly kind: 'near'; readonly span: Span; readonly operand: Expression; readonly target: Expression; readonly tolerance: Expression };

/** An index of an array, and how many parts of the name stand before it. */
export interface Index {
  readonly value: Expression;
  readonly after: number;
}

/** What an assignment writes to: a variable, a field of a structure, an element of an array. */
export interface Target {
  readonly span: Span;
  readonly path: readonly string[];
  readonly indices: readonly Index[];
}

/** A label of CASE: one value, or a range of whole numbers. */
export interface CaseLabel {
  readonly from: Expression;
  readonly until?: Expression;
}

/** A statement of Structured Text. */
export type Statement =
  | { readonly kind: 'assign'; readonly span: Span; readonly target: Target; readonly value: Expression }
  | {
      readonly kind: 'if';
      readonly span: Span;
      readonly branches: readonly { readonly condition: Expression; readonly body: readonly Statement[] }[];
      readonly otherwise: readonly Statement[];
    }
  | {
      readonly kind: 'case';
      readonly span: Span;
      readonly selector: Expression;
      readonly arms: readonly { readonly labels: readonly CaseLabel[]; readonly body: readonly Statement[] }[];
      readonly otherwise: readonly Statement[];
    }
  | {
      readonly kind: 'for';
      readonly span: Span;
      readonly variable: Target;
      readonly from: Expression;
      readonly until: Expression;
      readonly by?: Expression;
      readonly body: readonly Statement[];
    }
  | { readonly kind: 'while'; readonly span: Span; readonly condition: Expression; readonly body: readonly Statement[] }
  | { readonly kind: 'repeat'; readonly span: Span; readonly body: readonly Statement[]; readonly until: Expression }
  | { readonly kind: 'exit' | 'continue' | 'return'; readonly span: Span }
  /** A call of a function block's instance, or a command such as RAISE(event). */
  | {
      readonly kind: 'invoke';
      readonly span: Span;
      readonly path: readonly string[];
      /** Operands without a name: commands have them, function blocks do not. */
      readonly operands: readonly Expression[];
      readonly inputs: readonly { readonly name: string; readonly span: Span; readonly value: Expression }[];
      readonly outputs: readonly { readonly name: string; readonly span: Span; readonly target: Target }[];
    };

/** Type of a declared variable as written. */
export type TypeText =
  | { readonly kind: 'named'; readonly name: string; readonly span: Span }
  | { readonly kind: 'array'; readonly first: number; readonly last: number; readonly of: TypeText; readonly span: Span }
  | { readonly kind: 'values'; readonly names: readonly string[]; readonly span: Span }
  | { readonly kind: 'struct'; readonly fields: readonly Declaration[]; readonly span: Span };

/** One declared variable. `note` is the text of a pragma behind it, such as `{unit: m, min: 0}`. */
export interface Declaration {
  readonly name: string;
  readonly span: Span;
  readonly type: TypeText;
  readonly start?: Expression;
  readonly starts?: readonly Expression[];
  readonly note?: { readonly text: string; readonly span: Span };
}

export type Section = 'input' | 'output' | 'local' | 'constant';

/** Variables and statements of a routine, as between FUNCTION_BLOCK and END_FUNCTION_BLOCK. */
export interface RoutineText {
  readonly sections: readonly { readonly section: Section; readonly variables: readonly Declaration[] }[];
  readonly statements: readonly Statement[];
}

/** A function block, a function or a type declared in a file of Structured Text. */
export type TextUnit =
  | (RoutineText & {
      readonly kind: 'block';
      readonly name: string;
      readonly span: Span;
      readonly note?: { readonly text: string; readonly span: Span };
    })
  | (RoutineText & { readonly kind: 'function'; readonly name: string; readonly span: Span; readonly result: TypeText })
  | { readonly kind: 'type'; readonly name: string; readonly span: Span; readonly type: TypeText };

/** A mistake found in a text; the caller knows the file and turns offsets into lines. */
export interface TextFault {
  readonly span: Span;
  readonly code: 'syntax' | 'too-deep' | 'unknown-unit' | 'time';
  readonly message: string;
  readonly fix: string;
}
