import { comparison, constant, type PositionInfo, slotValue } from '@/core/plan';
import type { Source } from './wiring';

/** The ends of the declared ranges of free inputs, which cases may give them: boundary values, after ISO/IEC/IEEE 29119-4. */
export function limitsOf(free: Iterable<Source>): PositionInfo[] {
  return [...free].flatMap(({ name, slot, type, unit, min, max }): PositionInfo[] => {
    const at = (words: string, operator: '<=' | '>=', limit: number | undefined): PositionInfo[] => {
      if (limit === undefined || !Number.isFinite(limit) || min === max) return [];
      const node = comparison(operator, slotValue(type, slot), constant(type, limit));
      return [{ component: name, text: `at its ${words}, ${`${limit} ${unit}`.trim()}`, node, isLimit: true }];
    };
    return [...at('least', '<=', min), ...at('greatest', '>=', max)];
  });
}
