import { readText } from '../document';
import type { Faults } from '../fault';
import { nameKey, parseUnits, type TextUnit, type TypeText } from '../language';
import { Formula } from './formula';
import { standardBlocks } from './standardBlocks';

/** A function block that routines may make instances of, with the text its places lie in. */
export interface BlockType {
  readonly unit: TextUnit & { readonly kind: 'block' };
  readonly formula: Formula;
}

/** Function blocks and types that the routines of a project may name; the standard ones are always there. */
export class TypeLibrary {
  private readonly blocks = new Map<string, BlockType>();
  private readonly types = new Map<string, TypeText>();

  constructor(faults: Faults) {
    this.add(parseUnits(standardBlocks).units, new Formula(readText('standard function blocks', standardBlocks), [], standardBlocks, faults));
  }

  /** Takes over what a file declares; what is already known is told. */
  add(units: readonly TextUnit[], formula: Formula): void {
    for (const unit of units) {
      const key = nameKey(unit.name);
      if (this.blocks.has(key) || this.types.has(key))
        formula.fault('duplicate-name', unit.span, `"${unit.name}" is already defined.`, 'Choose another name.');
      else if (unit.kind === 'block') this.blocks.set(key, { unit, formula });
      else this.types.set(key, unit.type);
    }
  }

  block(name: string): BlockType | undefined {
    return this.blocks.get(nameKey(name));
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
