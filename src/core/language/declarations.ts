import { remember } from '@/core/memory';
import type { Declaration, Expression, RoutineText, Section, Span, TextFault, TextUnit, TypeText } from './ast';
import type { Token } from './lexer';
import { describe, join, Parser, reserved } from './parser';
import { StatementReader } from './statements';

const sections: Readonly<Record<string, Section>> = { var_input: 'input', var_output: 'output', var: 'local' };
/** Most elements an array may have. */
export const largestArray = 10_000;
/** Words a unit of a file begins with. */
const starts = ['type', 'function', 'function_block'];

/** Reads the declarations of IEC 61131-3: VAR sections, TYPE, FUNCTION and FUNCTION_BLOCK. */
class DeclarationReader {
  private readonly statements: StatementReader;

  constructor(private readonly parser: Parser) {
    this.statements = new StatementReader(parser);
  }

  /** VAR sections followed by statements, up to a word or the end of the text. */
  routine(ends: readonly string[]): RoutineText {
    const { parser } = this;
    const found: { section: Section; variables: Declaration[] }[] = [];
    while (Object.hasOwn(sections, parser.next.text.toLowerCase())) {
      const section = sections[parser.take().text.toLowerCase()] as Section;
      const constant = parser.takeIf('constant') !== undefined;
      found.push({ section: constant ? 'constant' : section, variables: this.variables('end_var') });
    }
    return { sections: found, statements: this.statements.statements(ends) };
  }

  /** Declarations up to END_VAR or END_STRUCT; a faulty one is passed over. */
  private variables(end: string): Declaration[] {
    const { parser } = this;
    const found: Declaration[] = [];
    while (!parser.ended && !parser.sees(end)) {
      if (parser.takeIf(';')) continue;
      const declared = parser.attempt(() => this.declaration());
      if (declared) found.push(...declared);
      else while (!parser.ended && !parser.sees(';') && !parser.sees(end)) parser.take();
    }
    parser.attempt(() => parser.expect(end, `Close the declarations with ${end.toUpperCase()}.`));
    return found;
  }

  private declaration(): Declaration[] {
    const { parser } = this;
    const fix = 'Write name : TYPE := value;';
    const names = [this.name(fix)];
    while (parser.takeIf(',')) names.push(this.name(fix));
    parser.expect(':', fix);
    const type = this.type();
    const starts = parser.takeIf(':=') ? this.start() : [];
    const noteBefore = this.note();
    parser.expect(';', 'End each declaration with a semicolon.');
    const note = noteBefore ?? this.note();
    return names.map(({ text, span }) => ({
      name: text,
      span,
      type,
      ...(starts.length === 1 && type.kind !== 'array' ? { start: starts[0] as Expression } : {}),
      ...(type.kind === 'array' && starts.length > 0 ? { starts } : {}),
      ...(note ? { note } : {}),
    }));
  }

  private name(fix: string): Token {
    const { parser } = this;
    if (parser.next.kind !== 'name' || reserved.has(parser.next.text.toLowerCase()))
      parser.fail(`A name is missing before ${describe(parser.next)}.`, fix);
    return parser.take();
  }

  private start(): Expression[] {
    const { parser } = this;
    if (!parser.takeIf('[')) return [parser.expression()];
    const values = [parser.expression()];
    while (parser.takeIf(',')) values.push(parser.expression());
    parser.expect(']', 'Close the list of start values.');
    return values;
  }

  private type(): TypeText {
    const { parser } = this;
    const start = parser.next.span;
    if (parser.takeIf('array')) return this.array(start);
    if (parser.takeIf('(')) {
      const names = [this.name('Write (First, Second, Third).').text];
      while (parser.takeIf(',')) names.push(this.name('Write (First, Second, Third).').text);
      return { kind: 'values', names, span: join(start, parser.expect(')', 'Close the list of values.').span) };
    }
    if (parser.takeIf('struct')) return { kind: 'struct', fields: parser.deeper(() => this.variables('end_struct')), span: start };
    const name = this.name('Name a type, such as BOOL, DINT, LREAL, TIME, ARRAY[1..5] OF REAL or TON.');
    return { kind: 'named', name: name.text, span: name.span };
  }

  private array(start: Span): TypeText {
    const { parser } = this;
    const fix = 'Write ARRAY[1..5] OF REAL.';
    parser.expect('[', fix);
    const bounds = [this.bounds(fix)];
    while (parser.takeIf(',')) bounds.push(this.bounds(fix));
    const end = parser.expect(']', fix);
    parser.expect('of', fix);
    const of = parser.deeper(() => this.type());
    const span = join(start, end.span);
    if (bounds.some(({ first, last }) => last < first || last - first >= largestArray))
      parser.fail(`An array runs from its lower to its upper bound and has at most ${largestArray} elements.`, fix, 'syntax', span);
    return bounds.reduceRight<TypeText>((inner, { first, last }) => ({ kind: 'array', first, last, of: inner, span }), of);
  }

  private bounds(fix: string): { first: number; last: number } {
    const first = this.bound(fix);
    this.parser.expect('..', fix);
    return { first, last: this.bound(fix) };
  }

  private bound(fix: string): number {
    const { parser } = this;
    const sign = parser.takeIf('-') ? -1 : 1;
    if (parser.next.kind !== 'number' || !parser.next.whole) parser.fail(`A whole number is missing before ${describe(parser.next)}.`, fix);
    return sign * (parser.take().value ?? 0);
  }

  private note(): { text: string; span: Span } | undefined {
    const { parser } = this;
    if (parser.next.kind !== 'pragma') return undefined;
    const { text, span } = parser.take();
    return { text, span };
  }

  /** All function blocks, functions and types of a file. */
  units(): TextUnit[] {
    const { parser } = this;
    const found: TextUnit[] = [];
    while (!parser.ended) {
      const read = parser.attempt(() => this.unit());
      if (read) found.push(...read);
      else while (!parser.ended && !starts.some((word) => parser.sees(word))) parser.take();
    }
    return found;
  }

  private unit(): TextUnit[] {
    const { parser } = this;
    const before = this.note();
    const { span } = parser.next;
    if (parser.takeIf('type')) {
      const found: TextUnit[] = [];
      while (!parser.sees('end_type') && !parser.ended) {
        const name = this.name('Write TYPE Name : (First, Second); END_TYPE');
        parser.expect(':', 'Write TYPE Name : (First, Second); END_TYPE');
        found.push({ kind: 'type', name: name.text, span: name.span, type: this.type() });
        parser.takeIf(';');
      }
      parser.expect('end_type', 'Close the types with END_TYPE.');
      return found;
    }
    if (parser.takeIf('function')) {
      const name = this.name('Name the function.');
      parser.expect(':', 'Write FUNCTION Name : LREAL');
      const result = this.type();
      const routine = this.routine(['end_function']);
      parser.expect('end_function', 'Close it with END_FUNCTION.');
      return [{ kind: 'function', name: name.text, span: join(span, name.span), result, ...routine }];
    }
    if (!parser.takeIf('function_block'))
      parser.fail(
        `${describe(parser.next)} is not allowed here.`,
        'A file of Structured Text holds TYPE … END_TYPE, FUNCTION … END_FUNCTION and FUNCTION_BLOCK … END_FUNCTION_BLOCK.',
      );
    const name = this.name('Name the function block.');
    const note = before ?? this.note();
    const routine = this.routine(['end_function_block']);
    parser.expect('end_function_block', 'Close it with END_FUNCTION_BLOCK.');
    return [{ kind: 'block', name: name.text, span: join(span, name.span), ...(note ? { note } : {}), ...routine }];
  }
}

/** Parses VAR sections and statements, as a routine's body has them. */
export const parseRoutine = remember((text): { readonly routine: RoutineText; readonly faults: readonly TextFault[] } => {
  const parser = new Parser(text);
  const routine = new DeclarationReader(parser).routine([]);
  return { routine, faults: parser.faults };
});

/** Parses a file of Structured Text: types, functions and function blocks. */
export const parseUnits = remember((text): { readonly units: readonly TextUnit[]; readonly faults: readonly TextFault[] } => {
  const parser = new Parser(text);
  const units = new DeclarationReader(parser).units();
  return { units, faults: parser.faults };
});
