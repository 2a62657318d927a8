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
  | { readonly kind: 'call'; readonly span: Span; readonly name: string; readonly operands: readonly Expression[] }
  /** `y in [a, b]`, in sentences only. */
  | { readonly kind: 'between'; readonly span: Span; readonly operand: Expression; readonly low: Expression; readonly high: Expression }
  /** `y = r ± tolerance`, in sentences only. */
  | { readonly kind: 'near'; readonly span: Span; readonly operand: Expression; readonly target: Expression; readonly tolerance: Expression };

/** A statement of Structured Text. */
export type Statement =
  | { readonly kind: 'assign'; readonly span: Span; readonly target: string; readonly targetSpan: Span; readonly value: Expression }
  | {
      readonly kind: 'if';
      readonly span: Span;
      readonly branches: readonly { readonly condition: Expression; readonly body: readonly Statement[] }[];
      readonly otherwise: readonly Statement[];
    };

/** A mistake found in a text; the caller knows the file and turns offsets into lines. */
export interface TextFault {
  readonly span: Span;
  readonly code: 'syntax' | 'too-deep' | 'unknown-unit' | 'time';
  readonly message: string;
  readonly mend: string;
}
