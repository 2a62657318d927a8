import { type Design, designNamed, evenLevels, type Level, type Quantity, usualDesign, variantName } from '@/core/variation';

const number = String.raw`[-+]?(?:\d+\.?\d*|\.\d+)(?:e[-+]?\d+)?`;
const range = new RegExp(`^(${number})\\.\\.(${number})(?:/(\\d+)(/log)?)?$`, 'i');
const normal = new RegExp(`^(${number})\\+-(${number})$`, 'i');
const mostLevels = 10_000;

/**
 * What `--vary` says: `name=200..300/11` eleven values, `/log` with equal ratios; `1,2,5` a list; `200..300` anything between; `5+-0.2` normal, mean and standard deviation.
 * @throws Error in words
 */
export function quantityOf(text: string): Quantity {
  const at = text.indexOf('=');
  const [name, values] = [text.slice(0, at).trim(), text.slice(at + 1).trim()];
  if (at < 1 || values === '') throw new Error(`--vary ${text}: write name=values, such as chamber.area=200..300/11`);
  const spread =
    name.toLowerCase() === variantName ? listOf(values, (one) => one) : (rangeOf(text, values) ?? normalOf(values) ?? listOf(values, levelOf));
  return { name: name.toLowerCase() === variantName ? variantName : name, spread };
}

function rangeOf(text: string, values: string): Quantity['spread'] | undefined {
  const found = range.exec(values);
  if (!found) return undefined;
  const [low, high, steps] = [Number(found[1]), Number(found[2]), found[3] === undefined ? undefined : Number(found[3])];
  if (steps === undefined) {
    if (!(low < high)) throw new Error(`--vary ${text}: the first number must be below the second`);
    return { k: 'scatter', distribution: { k: 'uniform', low, high } };
  }
  if (steps < 2 || steps > mostLevels) throw new Error(`--vary ${text}: from 2 to ${mostLevels} values are made of a range`);
  if (found[4] && !(low > 0 && high > 0)) throw new Error(`--vary ${text}: equal ratios need numbers above 0`);
  return { k: 'levels', levels: evenLevels(low, high, steps, found[4] !== undefined) };
}

function normalOf(values: string): Quantity['spread'] | undefined {
  const found = normal.exec(values);
  return found ? { k: 'scatter', distribution: { k: 'normal', mean: Number(found[1]), deviation: Number(found[2]) } } : undefined;
}

function listOf(values: string, level: (one: string) => Level): Quantity['spread'] {
  return { k: 'levels', levels: values.split(',').map((one) => level(one.trim())) };
}

/** TRUE, FALSE, a number, or a text such as a duration. */
function levelOf(text: string): Level {
  if (/^(?:true|false)$/i.test(text)) return text.toLowerCase() === 'true';
  return text !== '' && Number.isFinite(Number(text)) ? Number(text) : text;
}

/** The design by its name; where none is given, a grid of levels, or random where anything scatters. @throws Error in words */
export function designOf(name: string, runs: number, quantities: readonly Quantity[]): Design {
  const design = designNamed(name || usualDesign(quantities), runs);
  if (!design) throw new Error(`--design ${name}: choose grid, together, covering-2, random, latin-hypercube or sobol`);
  return design;
}
