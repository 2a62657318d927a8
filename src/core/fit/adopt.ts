import { parameterSetFile, type SourceFile } from '@/core/documents';
import type { FitResult } from './fit';

/** What was found, as a parameter set with its reason: a case or a loop takes it by its name. */
export function fittedSet(name: string, recording: string, { parameters, words }: FitResult): SourceFile {
  const digits = (value: number): number => Number(value.toPrecision(6));
  const values = Object.fromEntries(parameters.map((one) => [one.name, digits(one.value)]));
  const intervals = parameters.flatMap(({ name: of, interval }) => (interval ? [`${of} ${digits(interval[0])} … ${digits(interval[1])}`] : []));
  const about = `Fitted to ${recording}. ${words}${intervals.length > 0 ? ` 95 % intervals: ${intervals.join('; ')}.` : ''}`;
  return parameterSetFile(name, about, values);
}
