import type { Faults } from '@/core/fault';
import { nameKey, parseUnits, type TextUnit, type TypeText } from '@/core/language';
import { type Enumeration, valueTypes } from '@/core/plan';
import { readText } from '@/core/yaml';
import { Formula } from './formula';
import { standardBlocks } from './standardBlocks';
import { isStandardFunction } from './typing';

/** A function block that routines may make instances of, with the text its places lie in. */
export interface BlockType {
  readonly unit: TextUnit & { readonly kind: 'block' };
  readonly formula: Formula;
}

/** A function that every formula may call. */
export interface FunctionType {
  readonly unit: TextUnit & { readonly kind: 'function' };
  readonly formula: Formula;
}

/** Read once, and only if a project is read. */
let standardUnits: readonly TextUnit[] | undefined;

/** Function blocks, functions and types that the routines of a project may name; the standard ones are always there. */
export class TypeLibrary {
  private readonly blocks = new Map<string, BlockType>();
  private readonly functions = new Map<string, FunctionType>();
  private readonly types = new Map<string, { readonly name: string; readonly type: TypeText }>();

  constructor(faults: Faults) {
    standardUnits ??= parseUnits(standardBlocks).units;
    this.add(standardUnits, new Formula(readText('standard function blocks', standardBlocks), [], standardBlocks, faults));
  }

  /** Takes over what a file declares; what is already known is told. */
  add(units: readonly TextUnit[], formula: Formula): void {
    for (const unit of units) {
      const key = nameKey(unit.name);
      if (unit.kind === 'type' && unit.type.kind === 'values' && this.isAlready({ name: unit.name, values: unit.type.names })) continue;
      if (isStandardFunction(unit.name))
        formula.fault('duplicate-name', unit.span, `"${unit.name}" is a function of the standard.`, 'Choose another name.');
      else if (this.blocks.has(key) || this.types.has(key) || this.functions.has(key))
        formula.fault('duplicate-name', unit.span, `"${unit.name}" is already defined.`, 'Choose another name.');
      else if (unit.kind === 'block') this.blocks.set(key, { unit, formula });
      else if (unit.kind === 'function') this.functions.set(key, { unit, formula });
      else this.types.set(key, unit);
    }
  }

  block(name: string): BlockType | undefined {
    return this.blocks.get(nameKey(name));
  }

  function(name: string): FunctionType | undefined {
    return this.functions.get(nameKey(name));
  }

  functionNames(): string[] {
    return [...this.functions.values()].map(({ unit }) => unit.name);
  }

  /** Takes over an enumeration that is not declared in Structured Text. @returns whether its name was free */
  addEnumeration({ name, values }: Enumeration): boolean {
    const key = nameKey(name);
    if (this.isAlready({ name, values })) return true;
    if (isStandardFunction(name) || valueTypes.some((one) => nameKey(one) === key) || this.blocks.has(key) || this.types.has(key)) return false;
    this.types.set(key, { name, type: { kind: 'values', names: values, span: { from: 0, until: 0 } } });
    return true;
  }

  /** The very same enumeration may be declared in several places: code that was written out takes its types along. */
  private isAlready(one: Enumeration): boolean {
    const known = this.enumeration(one.name);
    return known !== undefined && known.values.join() === one.values.join();
  }

  type(name: string): TypeText | undefined {
    return this.types.get(nameKey(name))?.type;
  }

  enumeration(name: string): Enumeration | undefined {
    const found = this.types.get(nameKey(name));
    return found?.type.kind === 'values' ? { name: found.name, values: found.type.names } : undefined;
  }

  enumerations(): Enumeration[] {
    return [...this.types.keys()].flatMap((key) => this.enumeration(key) ?? []);
  }

  names(): string[] {
    return [...this.blocks.values()].map(({ unit }) => unit.name).concat([...this.types.values()].map(({ name }) => name));
  }
}
