import type { SourceFile } from '@/core/documents';
import type { Fault } from '@/core/fault';
import { checkProject } from '@/core/project';

/** What is asked of a project before it is taken in. */
export interface Checked {
  readonly name: string;
  readonly about: string;
  readonly faults: readonly Fault[];
}

/** Checks a project in a thread: only what is said about it comes back. */
export default function check(files: readonly SourceFile[]): Checked {
  const { project, faults } = checkProject(files);
  return { name: project.name, about: project.about, faults };
}
