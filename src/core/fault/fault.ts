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
  /** How to fix it. */
  readonly fix: string;
}

export type FaultCode =
  | 'file-too-large'
  | 'too-large'
  | 'file-unreadable'
  | 'yaml'
  | 'yaml-alias'
  | 'yaml-duplicate-key'
  | 'xml'
  | 'unsupported'
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
  | 'no-way-out'
  | 'unused'
  | 'never-written'
  | 'constant-condition'
  | 'float-equality'
  | 'same-guard'
  | 'period'
  | 'time'
  | 'missing-document';

/** Gathers faults while a pass goes on, so that all of a document's faults are told at once; beside them warnings, which keep nothing from running. */
export class Faults {
  private readonly list = new Told();
  private readonly suspicious = new Told();

  add(code: FaultCode, place: Place, message: string, fix: string): void {
    this.list.add({ code, place: plain(place), message, fix });
  }

  /** Something suspicious that may be meant. */
  warn(code: FaultCode, place: Place, message: string, fix: string): void {
    this.suspicious.add({ code, place: plain(place), message, fix });
  }

  /** Number of faults, without warnings. */
  get count(): number {
    return this.list.faults.length;
  }

  /** All faults in order of file, line and column. */
  all(): Fault[] {
    return [...this.list.faults].sort(byPlace);
  }

  /** All warnings in order of file, line and column. */
  warnings(): Fault[] {
    return [...this.suspicious.faults].sort(byPlace);
  }
}

/** Faults travel between threads and to the browser; a document's place may be one that is looked up only now. */
function plain({ file, line, column }: Place): Place {
  return { file, line, column };
}

/** Faults in the order in which they were found. A component used twice is read twice; what is wrong with it is told once. */
class Told {
  readonly faults: Fault[] = [];
  private readonly known = new Set<string>();

  add(fault: Fault): void {
    const { code, place, message } = fault;
    const key = JSON.stringify([code, place.file, place.line, place.column, message]);
    if (this.known.has(key)) return;
    this.known.add(key);
    this.faults.push(fault);
  }
}

function byPlace(a: Fault, b: Fault): number {
  return a.place.file.localeCompare(b.place.file, 'en') || a.place.line - b.place.line || a.place.column - b.place.column;
}

/** One line as a compiler prints it: `file:line:column  what is wrong`, and below it how to fix it. */
export function printFault(fault: Fault): string {
  const { file, line, column } = fault.place;
  return `${file}:${line}:${column}  ${fault.message} [${fault.code}]\n    ${fault.fix}`;
}
