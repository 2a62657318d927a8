/** So many texts are kept by each reader; a project of hundreds of components has some thousands of formulas. Longer ones than a formula are read each time. */
const most = 5_000;
const longest = 300;

/**
 * A reader that gives the same result for a text it has seen: while a project is edited, all but one of its formulas stay as they were, and each is read once
 * for every loop its component stands in. What is given must not be changed.
 */
export function remember<T>(read: (text: string) => T): (text: string) => T {
  const known = new Map<string, T>();
  return (text) => {
    if (text.length > longest) return read(text);
    const found = known.get(text);
    if (found !== undefined) return found;
    if (known.size >= most) known.clear();
    const result = read(text);
    known.set(text, result);
    return result;
  };
}
