import type { Faults } from '@/core/fault';
import { nameKey, parseUnits, type TextUnit, type TypeText } from '@/core/language';
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
  private readonly types = new Map<string, TypeText>();

  constructor(faults: Faults) {
    standardUnits ??= parseUnits(standardBlocks).units;
    this.add(standardUnits, new Formula(readText('standard function blocks', standardBlocks), [], standardBlocks, faults));
  }

  /** Takes over what a file declares; what is already known is told. */
  add(units: readonly TextUnit[], formula: Formula): void {
    for (const unit of units) {
      const key = nameKey(unit.name);
      if (isStandardFunction(unit.name))
        formula.fault('duplicate-name', unit.span, `"${unit.name}" is a function of the standard.`, 'Choose another name.');
      else if (this.blocks.has(key) || this.types.has(key) || this.functions.has(key))
        formula.fault('duplicate-name', unit.span, `"${unit.name}" is already defined.`, 'Choose another name.');
      else if (unit.kind === 'block') this.blocks.set(key, { unit, formula });
      else if (unit.kind === 'function') this.functions.set(key, { unit, formula });
      else this.types.set(key, unit.type);
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

  type(name: string): TypeText | undefined {
    return this.types.get(nameKey(name));
  }

  /** Every enumeration with the name of its type. */
  enumerations(): { name: string; values: readonly string[] }[] {
    return [...this.types].flatMap(([name, type]) => (type.kind === 'values' ? [{ name, values: type.names }] : []));
  }

  names(): string[] {
    return [...this.blocks.values()].map(({ unit }) => unit.name).concat([...this.types.keys()]);
  }
}
