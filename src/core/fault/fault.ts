/** Where something stands in a document. Lines and columns count from 1. */
export interface Place {
  readonly file: string;
  readonly line: number;
  readonly column: number;
}

/** A mistake of the user's, as a value: gathered and shown together, never thrown across a layer. */
export interface Fault {
  /** Stable word that scripts may test for, such as `unknown-name`. */
  readonly code: FaultCode;
  readonly place: Place;
  /** What is wrong, in one sentence. */
  readonly message: string;
  /** What would mend it. */
  readonly mend: string;
}

export type FaultCode =
  | 'file-too-large'
  | 'file-unreadable'
  | 'yaml'
  | 'yaml-alias'
  | 'yaml-duplicate-key'
  | 'shape'
  | 'name'
  | 'duplicate-name'
  | 'unknown-name'
  | 'ambiguous-name'
  | 'syntax'
  | 'too-deep'
  | 'type'
  | 'unit'
  | 'unknown-unit'
  | 'unconnected-input'
  | 'driven-twice'
  | 'algebraic-ring'
  | 'sampled-ring'
  | 'outside-limits'
  | 'unreachable-state'
  | 'period'
  | 'time'
  | 'missing-document';

/** Gathers faults while a pass goes on, so that all of a document's faults are told at once. */
export class Faults {
  private readonly list: Fault[] = [];

  add(code: FaultCode, place: Place, message: string, mend: string): void {
    // A component used twice is read twice; its faults are told once.
    const known = this.list.some(
      (one) =>
        one.code === code &&
        one.message === message &&
        one.place.file === place.file &&
        one.place.line === place.line &&
        one.place.column === place.column,
    );
    if (!known) this.list.push({ code, place, message, mend });
  }

  get count(): number {
    return this.list.length;
  }

  /** All faults in order of file, line and column. */
  all(): Fault[] {
    return [...this.list].sort(
      (a, b) => a.place.file.localeCompare(b.place.file, 'en') || a.place.line - b.place.line || a.place.column - b.place.column,
    );
  }
}

/** One line as a compiler prints it: `file:line:column  what. Mend: how`. */
export function printFault(fault: Fault): string {
  const { file, line, column } = fault.place;
  return `${file}:${line}:${column}  ${fault.message} [${fault.code}]\n    ${fault.mend}`;
}
