import { ownText } from './ownText';
import { Recent } from './recent';

/** So many characters of texts are kept by each reader; a project of hundreds of components has some thousands of formulas. Longer ones than a short routine are read each time. */
const most = 100_000;
const longest = 2000;

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
