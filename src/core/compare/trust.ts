import type { SourceFile } from '@/core/documents';
import { appendToList } from '@/core/yaml';
import type { SignalComparison } from './compare';

/** The document of a loop with the span in which one signal was found to agree: from then on a run that leaves it gives no pass. */
export function trustedLoop(loop: SourceFile, { name, between }: SignalComparison, because: string): SourceFile | undefined {
  if (!between) return undefined;
  const digits = (value: number): number => Number(value.toPrecision(6));
  const [from, until] = [digits(between.low), digits(between.high)];
  const entry = `{ signal: ${name}, from: ${from}, until: ${until}, because: ${JSON.stringify(because)} }`;
  return { path: loop.path, text: appendToList(loop.text, 'trusted', [entry]) };
}
