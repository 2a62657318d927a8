import { remember } from '@/core/memory';
import type { CaseLabel, Expression, Span, Statement, Target, TextFault } from './ast';
import { describe, join, Parser, reserved } from './parser';

/** Reads statements of Structured Text over a parser's tokens; goes on after the next semicolon when one is faulty. */
export class StatementReader {
  constructor(private readonly parser: Parser) {}

  /** Statements up to the end of the text or one of the given words. */
  statements(ends: readonly string[] = []): Statement[] {
    const { parser } = this;
    const statements: Statement[] = [];
    while (!parser.ended && !ends.some((end) => parser.sees(end))) {
      if (parser.takeIf(';')) continue;
      const statement = parser.attempt(() => this.statement());
      if (statement) statements.push(statement);
      else this.skipStatement(ends);
    }
    return statements;
  }

  private skipStatement(ends: readonly string[]): void {
    const { parser } = this;
    while (!parser.ended && !parser.sees(';') && !ends.some((end) => parser.sees(end))) parser.take();
    parser.takeIf(';');
  }

  private statement(): Statement {
    const { parser } = this;
    const start = parser.next;
    switch (start.kind === 'name' ? start.text.toLowerCase() : '') {
      case 'if':
        return parser.deeper(() => this.conditional());
      case 'case':
        return parser.deeper(() => this.selection());
      case 'for':
        return parser.deeper(() => this.counted());
      case 'while':
        return parser.deeper(() => this.repeatedWhile());
      case 'repeat':
        return parser.deeper(() => this.repeatedUntil());
      case 'exit':
      case 'continue':
      case 'return': {
        parser.take();
        this.semicolon(start.span);
        return { kind: start.text.toLowerCase() as 'exit' | 'continue' | 'return', span: start.span };
      }
      default:
        return this.assignmentOrCall();
    }
  }

  private assignmentOrCall(): Statement {
    const { parser } = this;
    const target = this.target('A statement cannot begin with', 'Write name := value; or IF condition THEN … END_IF;');
    if (parser.sees('(') && target.indices.length === 0) return this.invocation(target);
    parser.expect(':=', 'An assignment is written name := value;');
    const value = parser.expression();
    return { kind: 'assign', target, value, span: join(target.span, this.semicolon(value.span)) };
  }

  /** The semicolon at the end of a statement; the last one of a text may go without. */
  private semicolon(last: Span): Span {
    const { parser } = this;
    return parser.ended ? last : parser.expect(';', 'End each statement with a semicolon.').span;
  }

  private target(message: string, fix: string): Target {
    const { parser } = this;
    const first = parser.next;
    if (first.kind !== 'name' || reserved.has(first.text.toLowerCase())) parser.fail(`${message} ${describe(first)}.`, fix);
    return parser.nameBehind(parser.take(), 'Name the field or output.');
  }

  private invocation(block: Target): Statement {
    const { parser } = this;
    parser.take();
    const inputs: { name: string; span: Span; value: Expression }[] = [];
    const outputs: { name: string; span: Span; target: Target }[] = [];
    const operands: Expression[] = [];
    const fix = 'Give inputs as name := value and outputs as name => variable.';
    while (!parser.sees(')') && !parser.ended) {
      const name = parser.next;
      const named = name.kind === 'name' && [':=', '=>'].includes(parser.second.text);
      if (!named) {
        operands.push(parser.deeper(() => parser.expression()));
        if (!parser.takeIf(',')) break;
        continue;
      }
      parser.take();
      if (parser.takeIf('=>')) outputs.push({ name: name.text, span: name.span, target: this.target('An output cannot go to', fix) });
      else {
        parser.expect(':=', fix);
        inputs.push({ name: name.text, span: name.span, value: parser.deeper(() => parser.expression()) });
      }
      if (!parser.takeIf(',')) break;
    }
    const end = parser.expect(')', 'Close the list of inputs and outputs.');
    return { kind: 'invoke', path: block.path, operands, inputs, outputs, span: join(block.span, this.semicolon(end.span)) };
  }

  private conditional(): Statement {
    const { parser } = this;
    const start = parser.take();
    const branches: { condition: Expression; body: Statement[] }[] = [];
    const fix = 'Write IF condition THEN … ELSIF condition THEN … ELSE … END_IF;';
    let otherwise: Statement[] = [];
    for (;;) {
      const condition = parser.expression();
      parser.expect('then', fix);
      branches.push({ condition, body: this.statements(['elsif', 'else', 'end_if']) });
      if (parser.takeIf('elsif')) continue;
      if (parser.takeIf('else')) otherwise = this.statements(['end_if']);
      const end = parser.expect('end_if', fix);
      parser.takeIf(';');
      return { kind: 'if', branches, otherwise, span: join(start.span, end.span) };
    }
  }

  private selection(): Statement {
    const { parser } = this;
    const start = parser.take();
    const fix = 'Write CASE value OF 1: … 2, 4..6: … ELSE … END_CASE;';
    const selector = parser.expression();
    parser.expect('of', fix);
    const arms: { labels: CaseLabel[]; body: Statement[] }[] = [];
    while (!parser.sees('else') && !parser.sees('end_case') && !parser.ended) {
      const labels = [this.label()];
      while (parser.takeIf(',')) labels.push(this.label());
      parser.expect(':', fix);
      arms.push({ labels, body: this.arm() });
    }
    const otherwise = parser.takeIf('else') ? this.statements(['end_case']) : [];
    const end = parser.expect('end_case', fix);
    parser.takeIf(';');
    return { kind: 'case', selector, arms, otherwise, span: join(start.span, end.span) };
  }

  private label(): CaseLabel {
    const from = this.parser.expression();
    return this.parser.takeIf('..') ? { from, until: this.parser.expression() } : { from };
  }

  /** An arm ends where the next label begins: a value followed by a colon, a comma or dots. */
  private arm(): Statement[] {
    const { parser } = this;
    const body: Statement[] = [];
    while (!parser.ended && !parser.sees('else') && !parser.sees('end_case') && !parser.startsLabel()) {
      if (parser.takeIf(';')) continue;
      const statement = parser.attempt(() => this.statement());
      if (statement) body.push(statement);
      else this.skipStatement(['else', 'end_case']);
    }
    return body;
  }

  private counted(): Statement {
    const { parser } = this;
    const start = parser.take();
    const fix = 'Write FOR i := 1 TO 10 BY 1 DO … END_FOR;';
    const variable = this.target('FOR cannot count with', fix);
    parser.expect(':=', fix);
    const from = parser.expression();
    parser.expect('to', fix);
    const until = parser.expression();
    const by = parser.takeIf('by') ? parser.expression() : undefined;
    parser.expect('do', fix);
    const body = this.statements(['end_for']);
    const end = parser.expect('end_for', fix);
    parser.takeIf(';');
    return { kind: 'for', variable, from, until, ...(by ? { by } : {}), body, span: join(start.span, end.span) };
  }

  private repeatedWhile(): Statement {
    const { parser } = this;
    const start = parser.take();
    const fix = 'Write WHILE condition DO … END_WHILE;';
    const condition = parser.expression();
    parser.expect('do', fix);
    const body = this.statements(['end_while']);
    const end = parser.expect('end_while', fix);
    parser.takeIf(';');
    return { kind: 'while', condition, body, span: join(start.span, end.span) };
  }

  private repeatedUntil(): Statement {
    const { parser } = this;
    const start = parser.take();
    const fix = 'Write REPEAT … UNTIL condition END_REPEAT;';
    const body = this.statements(['until']);
    parser.expect('until', fix);
    const until = parser.expression();
    parser.takeIf(';');
    const end = parser.expect('end_repeat', fix);
    parser.takeIf(';');
    return { kind: 'repeat', body, until, span: join(start.span, end.span) };
  }
}

/** Parses a list of statements; what could be read is given even when some are faulty. */
export const parseStatements = remember((text): { readonly statements: readonly Statement[]; readonly faults: readonly TextFault[] } => {
  const parser = new Parser(text);
  const statements = new StatementReader(parser).statements();
  return { statements, faults: parser.faults };
});
