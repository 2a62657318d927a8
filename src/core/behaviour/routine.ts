import type { Faults } from '@/core/fault';
import { Formula, lowerStatements, type PlanBuilder, type StatementScope, type TypeLibrary, Variables } from '@/core/formula';
import { parseRoutine, type RoutineText } from '@/core/language';
import type { Work } from '@/core/plan';
import type { RawRoutine } from '@/core/shapes';
import { faceNames } from './equations';
import { type Instance, portFound } from './instance';
import { RoutineMessages } from './routineMessages';
import { taskTiming } from './timing';

/** Adds a routine of Structured Text to the plan as one task. */
export function addRoutine(instance: Instance, behaviour: RawRoutine, library: TypeLibrary, builder: PlanBuilder, faults: Faults): void {
  const { document } = instance.component;
  const timing = taskTiming(instance, behaviour, faults);
  const formula = new Formula(document, behaviour.text ? [] : ['behaviour', 'body'], behaviour.body, faults);
  const text = behaviour.text ?? readBody(formula);
  const variables = new Variables(instance.name, library, builder, timing?.periodNs ?? 1, timing?.offsetNs ?? 0);
  for (const [key, found] of faceNames(instance)) variables.names.set(key, found);
  for (const [key, port] of instance.outputs) variables.place(key, port, portFound(port));
  for (const { section, variables: declared } of text.sections) {
    if (section === 'local' || section === 'constant') variables.declare(declared, section === 'constant', formula);
    else if (!behaviour.text)
      declared.forEach((one) => {
        formula.fault(
          'syntax',
          one.span,
          'Inputs and outputs of a routine are declared in its face.',
          'Declare it under inputs or outputs of the component.',
        );
      });
  }
  const messages = new RoutineMessages(instance, builder, builder.site(document.place(behaviour.text ? [] : ['behaviour', 'body']), instance.name));
  for (const [key, found] of messages.names) if (!variables.names.has(key)) variables.names.set(key, found);
  const scope: StatementScope = { ...variables.scope(), command: (statement, within) => messages.command(statement, within, scope) };
  const work = [...messages.take(), ...lowerStatements(text.statements, formula, scope, builder)];
  const later =
    behaviour.later === undefined ? [] : lowerLater(new Formula(document, ['behaviour', 'later'], behaviour.later, faults), scope, builder);
  if (!timing) return;
  const task = { component: instance.name, ...timing };
  builder.parts.tasks.push({ ...task, work, logged: [...[...instance.outputs.values()].map((port) => port.slot), ...variables.logged] });
  if (later.length > 0) builder.parts.tasks.push({ ...task, work: later, logged: [] });
}

function lowerLater(formula: Formula, scope: StatementScope, builder: PlanBuilder): Work[] {
  return lowerStatements(formula.statements(), formula, scope, builder);
}

function readBody(formula: Formula): RoutineText {
  const { routine, faults } = parseRoutine(formula.text);
  formula.report(faults);
  return routine;
}
