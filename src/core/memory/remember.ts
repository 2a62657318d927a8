import { ownText } from './ownText';
import { Recent } from './recent';

/** So many characters of texts are kept by each reader; a project of hundreds of components has some thousands of formulas. Longer ones than a formula are read each time: kept, short routines made the heap of a long run of the fuzz a third larger. */
const most = 100_000;
const longest = 300;

/**
 * A reader that gives the same result for a text it has seen: while a project is edited, all but one of its formulas stay as they were, and each is read once
 * for every loop its component stands in. What is given must not be changed.
 */
export function remember<T extends NonNullable<unknown>>(read: (text: string) => T): (text: string) => T {
  const known = new Recent<T>(most);
  return (text) => {
    if (text.length > longest) return read(text);
    const found = known.get(text);
    if (found !== undefined) return found;
    const own = ownText(text);
    const result = read(own);
    known.set(own, result);
    return result;
  };
}
