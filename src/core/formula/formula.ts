import type { FaultCode, Faults, Place } from '@/core/fault';
import { type Expression, parseExpression, parseStatements, type Span, type Statement, type TextFault } from '@/core/language';
import type { Path, ReadDocument } from '@/core/yaml';

/** A formula or routine inside a document: its text, and the way from an offset in it to a place in the file. */
export class Formula {
  private placeOf: ((offset: number) => Place) | undefined;

  constructor(
    readonly document: ReadDocument,
    readonly path: Path,
    readonly text: string,
    private readonly faults: Faults,
  ) {}

  place(span: Span): Place {
    this.placeOf ??= this.document.placesWithin(this.path);
    return this.placeOf(span.from);
  }

  /** Notes a fault at a stretch of the text. */
  fault(code: FaultCode, span: Span, message: string, fix: string): void {
    this.faults.add(code, this.place(span), message, fix);
  }

  /** Notes something suspicious; text of the library is above suspicion. */
  warn(code: FaultCode, span: Span, message: string, fix: string): void {
    if (this.document.value !== undefined) this.faults.warn(code, this.place(span), message, fix);
  }

  expression(): Expression | undefined {
    const { expression, faults } = parseExpression(this.text);
    this.report(faults);
    return expression;
  }

  statements(): readonly Statement[] {
    const { statements, faults } = parseStatements(this.text);
    this.report(faults);
    return statements;
  }

  report(faults: readonly TextFault[]): void {
    for (const { span, code, message, fix } of faults) this.fault(code, span, message, fix);
  }
}
