import { type Declaration, nameKey, type TypeText } from '@/core/language';
import { type Enumeration, type SlotNumber, slotValue, type ValueType, valueTypes } from '@/core/plan';
import { PlanBuilder } from './builder';
import type { Definitions } from './definitions';
import { enumerated } from './enumerations';
import type { Formula } from './formula';
import { lowerStatements } from './statements';
import type { FunctionType, TypeLibrary } from './typeLibrary';
import type { UserFunction, UserFunctions } from './typing';
import { Variables } from './variables';

/** The functions of a project, for the formulas of one plan: each is lowered when it is first called. */
export function userFunctions(library: TypeLibrary, builder: PlanBuilder): UserFunctions {
  const known = new Map<string, UserFunction | 'being read'>();
  const find = (name: string): UserFunction | string | undefined => {
    const key = nameKey(name);
    const found = known.get(key);
    if (found === 'being read') return `The function "${name}" would call itself.`;
    if (found) return found;
    const declared = library.function(name);
    if (!declared) return undefined;
    known.set(key, 'being read');
    const read = lowerFunction(declared, library, builder);
    known.set(key, read);
    return read;
  };
  return { find, names: () => library.functionNames() };
}

/** Tells the faults of all functions, called or not. */
export function checkFunctions(library: TypeLibrary, definitions: Definitions): void {
  const builder = new PlanBuilder(definitions);
  builder.functions = userFunctions(library, builder);
  for (const name of library.functionNames()) builder.functions.find(name);
}

function lowerFunction({ unit, formula }: FunctionType, library: TypeLibrary, builder: PlanBuilder): UserFunction {
  const variables = new Variables(unit.name, library, builder, 0, 0);
  const result = elementary(unit.result, formula, library);
  const [operands, locals]: [SlotNumber[], SlotNumber[]] = [[], []];
  for (const { section, variables: declarations } of unit.sections) {
    if (section === 'output') tell(formula, declarations, 'A function has one result and no outputs.', 'Use a FUNCTION_BLOCK for more.');
    const blocks = declarations.filter((one) => one.type.kind === 'named' && library.block(one.type.name) !== undefined);
    tell(formula, blocks, 'A function keeps nothing from call to call, so it has no function blocks inside.', 'Make it a FUNCTION_BLOCK.');
    const from = builder.slots.length;
    variables.declare(section === 'output' ? [] : declarations.filter((one) => !blocks.includes(one)), section === 'constant', formula);
    for (let slot = from; slot < builder.slots.length; slot += 1) (section === 'input' ? operands : locals).push(slot);
  }
  const slot = builder.slot({ name: unit.name, ...result, unit: '', start: 0 });
  variables.place(nameKey(unit.name), { slot, ...result }, { node: slotValue(result.type, slot), ...enumerated(result) });
  const work = lowerStatements(unit.statements, formula, variables.scope(), builder);
  const inputs = unit.sections.filter(({ section }) => section === 'input').flatMap((section) => section.variables);
  const index = builder.parts.functions.push({ name: unit.name, operands, locals: [...locals, slot], result: slot, work }) - 1;
  return { index, ...result, operands: inputs.map((input) => ({ name: input.name, ...elementary(input.type, formula, library) })) };
}

function elementary(type: TypeText, formula: Formula, library: TypeLibrary): { type: ValueType; enumeration?: Enumeration } {
  const name = type.kind === 'named' ? type.name : '';
  const enumeration = library.enumeration(name);
  if (enumeration) return { type: 'INT', enumeration };
  const found = valueTypes.find((one) => one === name.toUpperCase());
  if (!found)
    formula.fault('type', type.span, 'Operands and result of a function are of an elementary type.', `Use one of ${valueTypes.join(', ')}.`);
  return { type: found ?? 'LREAL' };
}

function tell(formula: Formula, declarations: readonly Declaration[], message: string, fix: string): void {
  for (const one of declarations) formula.fault('type', one.span, message, fix);
}
