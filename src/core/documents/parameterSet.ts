import { stringify } from 'yaml';
import type { Scalar } from '@/core/shapes';
import { fileNameOf } from './fileName';
import type { SourceFile } from './types';

/** A parameter set as a document of the project: a case or a loop takes it by its name. */
export function parameterSetFile(name: string, about: string, values: Readonly<Record<string, Scalar>>): SourceFile {
  return { path: `parameters/${fileNameOf(name)}.yaml`, text: stringify({ parameter_set: name, about, values }, { lineWidth: 0 }) };
}
