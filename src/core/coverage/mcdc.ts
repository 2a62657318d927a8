import type { ConditionTree } from '@/core/plan';

/** Truths of the conditions of a decision, the first one in the lowest bit. */
export type Combination = number;

/**
 * How a condition has been shown to make the outcome of its decision by itself: by two combinations in which it and the outcome differ and no other condition does (unique cause); or in which others may
 * differ as well, so long as in each of the two the condition alone decides (masking).
 * K. J. Hayhurst, D. S. Veerhusen, J. J. Chilenski, L. K. Rierson 2001, NASA/TM-2001-210876; J. J. Chilenski 2001, DOT/FAA/AR-01/18.
 */
export interface Shown {
  readonly how: 'unique cause' | 'masking';
  /** The outcome is TRUE with the first and FALSE with the second. */
  readonly by: readonly [Combination, Combination];
}

/** A decision for which it is asked what its conditions have been shown to do. */
export class Decision {
  /** How many conditions it has. */
  readonly count: number;

  constructor(private readonly tree: ConditionTree) {
    this.count = countIn(tree);
  }

  outcome(combination: Combination): boolean {
    return evaluate(this.tree, combination, 0).value;
  }

  /** Whether a condition alone decides: the outcome would be the other one if it were. */
  decides(condition: number, combination: Combination): boolean {
    return this.outcome(combination) !== this.outcome(combination ^ (1 << condition));
  }

  /** What combinations that have occurred show of a condition: by unique cause where they do, else by masking; nothing where they show nothing. */
  shown(condition: number, occurred: readonly Combination[]): Shown | undefined {
    const deciding = occurred.filter((one) => this.decides(condition, one));
    const [yes, no] = [deciding.filter((one) => this.outcome(one)), deciding.filter((one) => !this.outcome(one))];
    const bit = 1 << condition;
    const pairs = yes.flatMap((a) => no.filter((b) => ((a ^ b) & bit) !== 0).map((b) => [a, b] as const));
    const unique = pairs.find(([a, b]) => (a ^ b) === bit);
    if (unique) return { how: 'unique cause', by: unique };
    return pairs[0] && { how: 'masking', by: pairs[0] };
  }

  /** Whether any combinations could show a condition to decide: not where it is always covered up by others, as A in `A AND B OR NOT A AND B`. */
  canDecide(condition: number): boolean {
    for (let combination = 0; combination < 2 ** this.count; combination += 1) if (this.decides(condition, combination)) return true;
    return false;
  }
}

function countIn(tree: ConditionTree): number {
  switch (tree.k) {
    case 'condition':
      return 1;
    case 'not':
      return countIn(tree.of);
    case 'and':
    case 'or':
    case 'xor':
      return countIn(tree.a) + countIn(tree.b);
  }
}

/** @param from number of the first condition in the tree @returns its value, and the number of the condition behind it */
function evaluate(tree: ConditionTree, combination: Combination, from: number): { readonly value: boolean; readonly next: number } {
  switch (tree.k) {
    case 'condition':
      return { value: (combination & (1 << from)) !== 0, next: from + 1 };
    case 'not': {
      const { value, next } = evaluate(tree.of, combination, from);
      return { value: !value, next };
    }
    case 'and':
    case 'or':
    case 'xor': {
      const a = evaluate(tree.a, combination, from);
      const b = evaluate(tree.b, combination, a.next);
      const value = tree.k === 'and' ? a.value && b.value : tree.k === 'or' ? a.value || b.value : a.value !== b.value;
      return { value, next: b.next };
    }
  }
}
