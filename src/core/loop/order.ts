/**
 * Orders work so that producers come before consumers, keeping text order where it is free (depth-first topological sort, Tarjan 1976).
 * @param items in text order
 * @param needs the items whose results one item reads
 * @returns the order, and every ring met as the list of its members
 */
export function orderByNeed<T>(items: readonly T[], needs: (item: T) => readonly T[]): { order: T[]; rings: T[][] } {
  const order: T[] = [];
  const rings: T[][] = [];
  const done = new Set<T>();
  const onPath = new Set<T>();
  for (const root of items) {
    // An explicit stack: chains of thousands of equations must not exhaust the call stack.
    const stack: { item: T; pending: T[] }[] = [];
    const enter = (item: T): void => {
      onPath.add(item);
      stack.push({ item, pending: [...needs(item)] });
    };
    if (!done.has(root)) enter(root);
    for (let frame = stack.at(-1); frame; frame = stack.at(-1)) {
      const next = frame.pending.shift();
      if (next === undefined) {
        stack.pop();
        onPath.delete(frame.item);
        done.add(frame.item);
        order.push(frame.item);
      } else if (onPath.has(next)) {
        const path = stack.map((one) => one.item);
        rings.push(path.slice(path.indexOf(next)));
      } else if (!done.has(next)) {
        enter(next);
      }
    }
  }
  return { order, rings };
}
