interface About {
  /** In a plan each call has this many; a formula may give MIN and MAX more. */
  readonly operands: 1 | 2;
  /** It has a value whatever its operands are. */
  readonly isTotal: boolean;
  /** It is computed by the numeric library (core/numeric), so that its bits are the same everywhere; the others by the language itself. */
  readonly isOfLibrary: boolean;
}

/** The numeric functions of a plan. Everything else that must know them follows from this list, or is asked for by the compiler. */
export const numericFunctions = {
  ABS: { operands: 1, isTotal: true, isOfLibrary: false },
  SQRT: { operands: 1, isTotal: false, isOfLibrary: false },
  LN: { operands: 1, isTotal: false, isOfLibrary: true },
  LOG: { operands: 1, isTotal: false, isOfLibrary: true },
  EXP: { operands: 1, isTotal: true, isOfLibrary: true },
  SIN: { operands: 1, isTotal: true, isOfLibrary: true },
  COS: { operands: 1, isTotal: true, isOfLibrary: true },
  TAN: { operands: 1, isTotal: true, isOfLibrary: true },
  ASIN: { operands: 1, isTotal: false, isOfLibrary: true },
  ACOS: { operands: 1, isTotal: false, isOfLibrary: true },
  ATAN: { operands: 1, isTotal: true, isOfLibrary: true },
  ATAN2: { operands: 2, isTotal: true, isOfLibrary: true },
  MIN: { operands: 2, isTotal: true, isOfLibrary: false },
  MAX: { operands: 2, isTotal: true, isOfLibrary: false },
} as const satisfies Readonly<Record<string, About>>;

export type NumericFunction = keyof typeof numericFunctions;

export const numericFunctionNames = Object.keys(numericFunctions).filter(isNumericFunction);

export function isNumericFunction(name: string): name is NumericFunction {
  return Object.hasOwn(numericFunctions, name);
}
