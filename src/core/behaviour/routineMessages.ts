import { type Formula, type Found, type Invocation, type PlanBuilder, type StatementScope, typeExpression } from '@/core/formula';
import { nameKey, nearestName } from '@/core/language';
import { assign, constant, holds, type Node, type SiteNumber, type SlotNumber, slotValue, type Work, when } from '@/core/plan';
import { messageName } from './chart/events';
import type { Instance } from './instance';
import { anyWaits, sendTo, takeFirst } from './queue';

/**
 * The messages of a routine's face. At each hit it takes one of those that wait, in their order, so that none is lost; for that hit its name is TRUE and `payload` its value.
 * `SEND(message, VALUE := x);` puts one into the queue of every component that is wired to it.
 */
export class RoutineMessages {
  readonly names = new Map<string, Found>();
  private readonly taken: { readonly code: SlotNumber; readonly payload: SlotNumber } | undefined;

  constructor(
    private readonly instance: Instance,
    private readonly builder: PlanBuilder,
    private readonly site: SiteNumber,
  ) {
    const { mailbox, name } = instance;
    if (!mailbox) return;
    this.taken = { code: builder.hidden(`${name} message`), payload: builder.hidden(`${name} payload`) };
    for (const message of mailbox.names()) this.names.set(nameKey(message), { node: equals(this.taken.code, mailbox.code(message)) });
    if (!this.names.has('payload')) this.names.set('payload', { node: slotValue('LREAL', this.taken.payload) });
  }

  /** Before the statements of a hit. */
  take(): Work[] {
    const { taken } = this;
    const { mailbox } = this.instance;
    if (!taken || !mailbox) return [];
    const none: Work = assign(taken.code, constant('UINT', 0));
    return [none, when(anyWaits(mailbox.queue), takeFirst(mailbox.queue, taken.code, taken.payload, this.site))];
  }

  command(statement: Invocation, formula: Formula, scope: StatementScope): Work[] | undefined {
    if (statement.path.join('.').toUpperCase() !== 'SEND') return undefined;
    const { receivers } = this.instance;
    const name = messageName(statement.operands[0]);
    const target = name === undefined ? undefined : receivers.get(nameKey(name));
    if (!target || statement.operands.length !== 1) {
      const near = nearestName(name ?? '', receivers.keys());
      const fix = near ? `Did you mean "${near}"?` : 'Declare it under messages: out: of the face.';
      formula.fault('unknown-name', statement.span, `There is no message "${name ?? ''}" that this routine sends.`, fix);
      return [];
    }
    const other = statement.inputs.find((one) => nameKey(one.name) !== 'value');
    if (other) formula.fault('unknown-name', other.span, `SEND in a routine has no "${other.name}".`, 'It takes VALUE; the message goes at once.');
    const given = statement.inputs.find((one) => nameKey(one.name) === 'value');
    const value: Node | undefined = given ? typeExpression(given.value, 'LREAL', formula, scope) : constant('LREAL', 0);
    return value ? sendTo(target, value, this.builder.siteOf(formula, statement.span)) : [];
  }
}

function equals(slot: SlotNumber, value: number): Node {
  return holds(slot, value, 'UINT');
}
