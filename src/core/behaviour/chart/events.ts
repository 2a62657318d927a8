import { type Formula, type Invocation, type PlanBuilder, type StatementScope, typeExpression } from '@/core/formula';
import { type Expression, nameKey, nearestName, type Span } from '@/core/language';
import {
  any,
  comparison,
  constant,
  hitNumber,
  holds,
  type Message,
  type Node,
  type Queue,
  type SiteNumber,
  type SlotNumber,
  type Work,
  when,
} from '@/core/plan';
import type { Instance } from '../instance';
import { anyWaits, append, Mailbox, makeQueue, sendTo, takeFirst } from '../queue';
import { type DelayedMessages, delayedMessages } from './delayed';
import { set } from './types';

/** The messages of one chart: those of its face, those it tells itself (RAISE), and those it sends later or to others (SEND). */
export class ChartEvents {
  /** Code of the message being handled, 0 for none, and the value it carries. */
  private readonly event: SlotNumber;
  readonly payload: SlotNumber;
  private inner: Queue | undefined;
  private mailbox: Mailbox | undefined;
  private delayed: DelayedMessages | undefined;

  constructor(
    private readonly instance: Instance,
    private readonly builder: PlanBuilder,
    private readonly taskTime: Node,
    /** All that transitions wait for. */
    private readonly awaited: readonly string[],
    private readonly site: SiteNumber,
  ) {
    this.mailbox = instance.mailbox;
    this.event = builder.hidden(`${instance.name} message`);
    this.payload = builder.hidden(`${instance.name} payload`);
  }

  /** Some transition waits for this name. */
  isAwaited(name: string): boolean {
    const key = nameKey(name);
    return this.awaited.some((descriptor) => {
      const wanted = nameKey(descriptor.replace(/\.?\*$/, ''));
      return wanted === '' || key === wanted || key.startsWith(`${wanted}.`);
    });
  }

  /** A transition without a message is taken only when none is being handled. */
  get noMessage(): Node | undefined {
    return this.mailbox || this.inner ? holds(this.event, 0) : undefined;
  }

  /** The message being handled is one of those named; a text says why a name cannot be one. */
  guard(descriptors: readonly string[]): Node | { readonly unknown: string; readonly near: string | undefined } {
    const codes = descriptors.map((descriptor) => ({ descriptor, codes: this.mailbox?.matching(descriptor) ?? [] }));
    const missing = codes.find((one) => one.codes.length === 0 && !one.descriptor.endsWith('*'));
    if (missing) return { unknown: missing.descriptor, near: nearestName(missing.descriptor, this.mailbox?.names() ?? []) };
    return any([...new Set(codes.flatMap((one) => one.codes))].map((code) => holds(this.event, code)));
  }

  /** Tells the chart itself, before anything from outside. */
  raise(name: string, value: Node, site: SiteNumber): Work[] {
    this.inner ??= makeQueue(this.builder, `${this.instance.name} own messages`);
    return append(this.inner, code(this.box().code(name)), value, site);
  }

  private box(): Mailbox {
    this.mailbox ??= new Mailbox(this.builder, this.instance.name);
    return this.mailbox;
  }

  /** RAISE(message), SEND(message, DELAY := …, VALUE := …, ID := name), CANCEL(name). */
  command(statement: Invocation, formula: Formula, scope: StatementScope): Work[] | undefined {
    const word = statement.path.join('.').toUpperCase();
    if (word !== 'RAISE' && word !== 'SEND' && word !== 'CANCEL') return undefined;
    const name = messageName(statement.operands[0]);
    if (name === undefined || statement.operands.length !== 1) {
      formula.fault('syntax', statement.span, `${word} takes one name.`, `Write ${word}(${word === 'CANCEL' ? 'id' : 'message'});`);
      return [];
    }
    const site = this.builder.siteOf(formula, statement.span);
    const typed = (key: string, type: 'LREAL' | 'TIME'): Node | undefined => {
      const input = statement.inputs.find((one) => nameKey(one.name) === key);
      return input ? typeExpression(input.value, type, formula, scope) : undefined;
    };
    const unknown = statement.inputs.find(
      (one) => !(word === 'SEND' ? ['delay', 'value', 'id'] : word === 'RAISE' ? ['value'] : []).includes(nameKey(one.name)),
    );
    if (unknown)
      formula.fault('unknown-name', unknown.span, `${word} has no "${unknown.name}".`, 'SEND takes DELAY, VALUE and ID, RAISE takes VALUE.');
    const value = typed('value', 'LREAL') ?? constant('LREAL', 0);
    if (word === 'RAISE') return this.raise(name, value, site);
    const id = statement.inputs.find((one) => nameKey(one.name) === 'id');
    if (word === 'CANCEL') return this.later().cancel(name);
    const outward = this.instance.receivers.get(nameKey(name));
    const delay = typed('delay', 'TIME');
    if (outward) return this.sendOut(outward, value, delay !== undefined, statement.span, formula, site);
    if (delay) return this.later().send(code(this.box().code(name)), value, delay, messageName(id?.value) ?? '', site);
    return append(this.box().queue, code(this.box().code(name)), value, site);
  }

  private sendOut(receivers: readonly Message[], value: Node, late: boolean, span: Span, formula: Formula, site: SiteNumber): Work[] {
    if (late)
      formula.fault(
        'type',
        span,
        'A message to another component is sent at once.',
        'Send a message to this chart with DELAY, and send this one when it comes.',
      );
    return sendTo(receivers, value, site);
  }

  private later(): DelayedMessages {
    this.delayed ??= delayedMessages(`${this.instance.name} delayed`, this.builder, this.taskTime, this.site);
    return this.delayed;
  }

  /** At the start of a hit: delayed messages that are due join the others. */
  deliverDelayed(): Work[] {
    return this.delayed?.deliver((name, value, site) => append(this.box().queue, name, value, site)) ?? [];
  }

  /** After a microstep: when nothing was enabled, the chart's own messages come first, then those from outside. */
  takeNext(again: SlotNumber): Work[] {
    const { event, payload, inner, mailbox } = this;
    if (!mailbox && !inner) return [];
    const from = (queue: Queue | undefined, otherwise: Work[]): Work[] =>
      queue ? [when(anyWaits(queue), [...takeFirst(queue, event, payload, this.site), set(again, 1)], otherwise)] : otherwise;
    // What is sent while the initial states are entered waits, as everything from outside, for the next hit.
    const started: Node = comparison('>', hitNumber, constant('LREAL', 0));
    const outside: Work[] = mailbox ? [when(started, from(mailbox.queue, []))] : [];
    return [set(event, 0), when(holds(again, 0), from(inner, outside))];
  }
}

function code(value: number): Node {
  return constant('UINT', value);
}

/** `door.opened` as an operand is read as a name. */
export function messageName(expression: Expression | undefined): string | undefined {
  return expression?.kind === 'name' ? expression.path.join('.') : undefined;
}
