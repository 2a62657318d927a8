import { type Project, readProject, type SourceFile } from '@/core/documents';
import { Faults } from '@/core/fault';
import { nameKey } from '@/core/language';
import { sameUnit } from '@/core/units';
import { appendToList } from '@/core/yaml';

/** Wires that suggest themselves: an input without a source, and the one output elsewhere of the same name, type and unit. */
function wiresOfEqualNames(project: Project, loop: string): { readonly from: string; readonly to: string }[] {
  const raw = project.loops.get(nameKey(loop))?.raw;
  if (!raw) return [];
  const places = Object.entries(raw.components).flatMap(([name, { use }]) => {
    const component = project.components.get(nameKey(use));
    return component ? [{ name, face: component.raw }] : [];
  });
  const taken = new Set(
    [...(raw.wires ?? []).map((wire) => wire.to), ...Object.values(raw.inputs ?? {}).map((input) => input.to)]
      .flat()
      .map((to) => nameKey(String(to))),
  );
  return places.flatMap(({ name, face }) =>
    Object.entries(face.inputs ?? {}).flatMap(([input, port]) => {
      if (taken.has(nameKey(`${name}.${input}`))) return [];
      const sources = places.flatMap((other) =>
        other.name === name
          ? []
          : Object.entries(other.face.outputs ?? {})
              .filter(([output, from]) => nameKey(output) === nameKey(input) && from.type === port.type && sameUnit(from.unit ?? '', port.unit ?? ''))
              .map(([output]) => `${other.name}.${output}`),
      );
      return sources.length === 1 && sources[0] ? [{ from: sources[0], to: `${name}.${input}` }] : [];
    }),
  );
}

/** The text of a loop with such wires added; `undefined` when there are none. */
export function wireEqualNames(
  files: readonly SourceFile[],
  loop: string,
): { readonly path: string; readonly text: string; readonly count: number } | undefined {
  const project = readProject(files, new Faults());
  const wires = wiresOfEqualNames(project, loop);
  const path = project.loops.get(nameKey(loop))?.document.file;
  const file = files.find((one) => one.path === path);
  if (!file || wires.length === 0) return undefined;
  return {
    path: file.path,
    text: appendToList(
      file.text,
      'wires',
      wires.map(({ from, to }) => `{ from: ${from}, to: ${to} }`),
    ),
    count: wires.length,
  };
}
