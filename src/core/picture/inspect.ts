import { elements } from '@/core/behaviour';
import {
  type ComponentDocument,
  type ComponentPicture,
  type LoopDocument,
  type Project,
  pictureOfComponent,
  type SourceFile,
} from '@/core/documents';
import type { Fault } from '@/core/fault';
import { checkProject } from '@/core/project';
import type { RawPort } from '@/core/shapes';
import { chartPicture } from './chart';
import { loopPicture, networkPicture } from './net';
import type { Face, FacePort, ModelView, OutlineItem, Picture, RegionPicture } from './types';

/** Reads and checks documents, and draws one item of them; the first loop when the item is not there. */
export function inspectModel(files: readonly SourceFile[], wanted: string): ModelView {
  const { project, faults, warnings } = checkProject(files);
  const count = (file: string): number => faults.filter((fault) => fault.place.file === file).length;
  const outline: OutlineItem[] = [
    ...[...project.loops.values()].map(({ raw, document }) => ({
      id: `loop:${raw.loop}`,
      kind: 'loop' as const,
      name: raw.loop,
      line: `loop · ${counted(Object.keys(raw.components).length, 'component')}`,
      about: raw.about ?? '',
      file: document.file,
      faults: count(document.file),
    })),
    ...[...project.components.values()].map(({ raw, document }) => ({
      id: `component:${raw.component}`,
      kind: 'component' as const,
      name: raw.component,
      line: kindLine(raw),
      about: raw.about ?? '',
      file: document.file,
      faults: count(document.file),
    })),
  ];
  outline.push(...otherDocuments(files, faults, outline, wanted));
  const at = outline.find((item) => item.id === wanted || `document:${item.file}` === wanted)?.id ?? outline[0]?.id ?? '';
  const loop = [...project.loops.values()].find(({ raw }) => `loop:${raw.loop}` === at);
  const component = [...project.components.values()].find(({ raw }) => `component:${raw.component}` === at);
  const picture: Picture = loop ? loopPicture(project, loop) : component ? pictureOf(project, component) : { k: 'text' };
  return {
    outline,
    at,
    picture,
    headline: headlineOf(picture, component !== undefined),
    ...(component ? { face: faceOf(component, pictureOfComponent(project, component)) } : {}),
    faults,
    warnings,
    names: namesFor(project, loop, component),
  };
}

/** Documents that are no loop and no component yet: those with faults, and the one that is wanted. */
function otherDocuments(files: readonly SourceFile[], faults: readonly Fault[], shown: readonly OutlineItem[], wanted: string): OutlineItem[] {
  return files.flatMap(({ path }): OutlineItem[] => {
    const count = faults.filter((fault) => fault.place.file === path).length;
    const id = `document:${path}`;
    if (shown.some((item) => item.file === path) || (count === 0 && id !== wanted)) return [];
    return [{ id, kind: 'document', name: path.replace(/^.*\//, ''), line: path.replace(/\/.*$/, ''), about: '', file: path, faults: count }];
  });
}

function pairs(entries: object): string {
  return Object.entries(entries)
    .map(([name, value]) => `${name} ${String(value)}`)
    .join(', ');
}

function counted(count: number, noun: string): string {
  return `${count} ${noun}${count === 1 ? '' : 's'}`;
}

function pictureOf(project: Project, component: ComponentDocument): Picture {
  const { behaviour } = component.raw;
  switch (behaviour.kind) {
    case 'chart':
      return chartPicture(behaviour);
    case 'network':
      return networkPicture(project, component, behaviour);
    case 'routine':
      return { k: 'text' };
    case 'decision table':
      return {
        k: 'equations',
        lines: [
          ...behaviour.rules.map(({ when, then }) => ({ left: pairs(when) || 'always', right: pairs(then) })),
          ...(behaviour.otherwise ? [{ left: 'otherwise', right: pairs(behaviour.otherwise) }] : []),
        ],
      };
    case 'unit':
      return {
        k: 'equations',
        lines: Object.keys({ ...component.raw.inputs, ...component.raw.outputs, ...component.raw.parameters }).map((name) => ({
          left: Object.hasOwn(component.raw.outputs ?? {}, name) ? `${name} →` : `→ ${name}`,
          right: `${behaviour.variables?.[name] ?? name} of ${behaviour.file}`,
        })),
      };
    case 'recording':
      return {
        k: 'equations',
        lines: Object.keys(component.raw.outputs ?? {}).map((name) => ({
          left: `${name} →`,
          right: `${behaviour.outputs?.[name] ?? name} of ${behaviour.file}`,
        })),
      };
    case 'equations': {
      const lines = (entries: object | undefined, left: (name: string) => string) =>
        Object.entries(entries ?? {}).map(([name, right]) => ({ left: left(name), right: String(right) }));
      return {
        k: 'equations',
        lines: [
          ...lines(behaviour.let, (name) => name),
          ...Object.entries(behaviour.delays ?? {}).map(([name, { of, by }]) => ({ left: name, right: `${of}, ${by} s ago` })),
          ...lines(behaviour.derivatives, (name) => `d ${name} / dt`),
          ...(behaviour.events ?? []).map((event) => ({ left: `when ${String(event.when)}`, right: pairs(event.set) })),
          ...lines(behaviour.outputs, (name) => `${name} →`),
        ],
      };
    }
  }
}

function kindLine({ behaviour }: ComponentDocument['raw']): string {
  const period = 'period' in behaviour && behaviour.period !== undefined ? ` · ${String(behaviour.period)}` : '';
  switch (behaviour.kind) {
    case 'chart': {
      const picture = chartPicture(behaviour);
      const [count] = picture.k === 'chart' ? sizeOf(picture.regions) : [0];
      return `chart · ${counted(count, 'state')}${period}`;
    }
    case 'network':
      return `network · ${counted(Object.keys(behaviour.parts).length, 'part')}${period}`;
    case 'routine':
      return `routine${period}`;
    case 'decision table':
      return `decision table · ${counted(behaviour.rules.length, 'rule')}${period}`;
    case 'unit':
      return `co-simulation unit${period} · ${behaviour.file}`;
    case 'recording':
      return `recording · ${behaviour.file}`;
    case 'equations':
      return `equations · ${counted(Object.keys(behaviour.states ?? {}).length, 'state')}`;
  }
}

function headlineOf(picture: Picture, component: boolean): string {
  switch (picture.k) {
    case 'net': {
      const inside = picture.slips.filter((slip) => !slip.outside);
      return `${counted(inside.length, inside.some((slip) => slip.opens) ? 'component' : 'element')}, ${counted(picture.links.length, 'wire')}`;
    }
    case 'chart': {
      const [states, arrows] = sizeOf(picture.regions);
      return `${counted(states, 'state')}, ${counted(arrows, 'transition')}`;
    }
    case 'equations':
      if (!picture.lines.some((line) => line.left.startsWith('d '))) return counted(picture.lines.length, 'line');
      return `${counted(picture.lines.filter((line) => line.left.startsWith('d ')).length, 'differential equation')}, ${counted(picture.lines.length, 'line')} in all`;
    case 'text':
      return component ? 'A routine of Structured Text' : 'A document';
  }
}

function sizeOf(regions: readonly RegionPicture[]): [number, number] {
  const sizes = regions.map((region) => {
    const inner = region.states.map((state) => sizeOf(state.regions));
    return [region.states.length + sum(inner.map(([states]) => states)), region.arrows.length + sum(inner.map(([, arrows]) => arrows))] as const;
  });
  return [sum(sizes.map(([states]) => states)), sum(sizes.map(([, arrows]) => arrows))];
}

function sum(numbers: readonly number[]): number {
  return numbers.reduce((a, b) => a + b, 0);
}

function faceOf({ raw }: ComponentDocument, picture: ComponentPicture | undefined): Face {
  const ports = (entries: Readonly<Record<string, RawPort>> | undefined): FacePort[] =>
    Object.entries(entries ?? {}).map(([name, port]) => ({
      name,
      type: port.type ?? (typeof port.value === 'boolean' ? 'BOOL' : 'LREAL'),
      unit: port.unit ?? '',
      about: port.about ?? '',
      ...(port.min === undefined ? {} : { min: port.min }),
      ...(port.max === undefined ? {} : { max: port.max }),
      ...(port.value === undefined ? {} : { value: port.value }),
    }));
  return {
    component: raw.component,
    about: raw.about ?? '',
    ...(picture ? { picture } : {}),
    inputs: ports(raw.inputs),
    outputs: ports(raw.outputs),
    parameters: ports(raw.parameters),
  };
}

function namesFor(project: Project, loop: LoopDocument | undefined, component: ComponentDocument | undefined): ModelView['names'] {
  if (loop) {
    const components = [...project.components.values()].map(({ raw }) => ({ name: raw.component, about: raw.about ?? 'component' }));
    const ports = Object.entries(loop.raw.components).flatMap(([name, { use }]) => {
      const face = project.components.get(use.toLowerCase())?.raw;
      return Object.entries({ ...face?.inputs, ...face?.outputs }).map(([port, { about, unit, type }]) => ({
        name: `${name}.${port}`,
        about: [about, type, unit].filter(Boolean).join(' · '),
      }));
    });
    return [...components, ...ports];
  }
  if (!component) return [];
  const { raw } = component;
  const own = Object.entries({ ...raw.inputs, ...raw.outputs, ...raw.parameters }).map(([name, { about, unit }]) => ({
    name,
    about: [about, unit].filter(Boolean).join(' · '),
  }));
  const { behaviour } = raw;
  const inside =
    behaviour.kind === 'equations'
      ? Object.keys({ ...behaviour.states, ...behaviour.let, ...behaviour.delays })
      : behaviour.kind === 'chart'
        ? Object.keys(behaviour.variables ?? {})
        : behaviour.kind === 'network'
          ? Object.keys(behaviour.parts)
          : [];
  const library = behaviour.kind === 'network' ? elementsForCompletion() : [];
  return [...own, ...inside.map((name) => ({ name, about: '' })), ...library, ...sharedNames(project)];
}

/** Elements with what they do and what they take. */
function elementsForCompletion(): ModelView['names'] {
  return [...elements].map(([name, { about, kinds, example = {}, build }]) => {
    const continuous = build(example, false);
    const built = typeof continuous === 'object' ? continuous : build(example, true);
    const inputs = kinds ?? (typeof built === 'object' ? Object.keys(built.inputs ?? {}) : []);
    return { name, about: [about, inputs.length > 0 ? `takes ${inputs.join(', ')}` : ''].filter(Boolean).join(' · ') };
  });
}

/** Enumerations of the project and their values. */
function sharedNames({ library }: Project): ModelView['names'] {
  return library
    .enumerations()
    .flatMap(({ name, values }) => [
      { name, about: `type: ${values.join(', ')}` },
      ...values.map((value) => ({ name: value, about: `value of ${name}` })),
    ]);
}
