import { type ComponentDocument, type LoopDocument, type Project, pictureOfComponent } from '@/core/documents';
import { nameKey } from '@/core/language';
import type { RawNetwork, RawPart } from '@/core/shapes';
import { equationOf } from './equation';
import type { Link, Picture, Slip } from './types';

function list(value: string | readonly string[]): readonly string[] {
  return typeof value === 'string' ? [value] : value;
}

/** The component a loop or network uses, and how its slip shows and opens it. */
function opened(project: Project, use: string): { component: ComponentDocument; shown: Pick<Slip, 'opens' | 'picture'> } | undefined {
  const component = project.components.get(nameKey(use));
  if (!component) return undefined;
  const picture = pictureOfComponent(project, component);
  return { component, shown: { opens: `component:${component.raw.component}`, ...(picture ? { picture } : {}) } };
}

/** A loop as components, free inputs and wires. */
export function loopPicture(project: Project, { raw }: LoopDocument): Picture {
  const slips: Slip[] = [];
  const links: Link[] = [];
  for (const name of Object.keys(raw.inputs ?? {}))
    slips.push({ id: `in:${name}`, title: name, text: '', about: 'free input', inputs: [], outputs: [name], outside: 'input' });
  for (const [name, use] of Object.entries(raw.components)) {
    const found = opened(project, use.use);
    const face = found?.component.raw;
    slips.push({
      id: name,
      title: name,
      text: use.use,
      about: face?.about ?? '',
      inputs: Object.keys(face?.inputs ?? {}),
      outputs: Object.keys(face?.outputs ?? {}),
      ...found?.shown,
    });
  }
  const known = new Map(slips.map((slip) => [nameKey(slip.id), slip.id]));
  const pin = (name: string): { slip: string; pin: string } | undefined => {
    const [head = '', ...rest] = name.split('.');
    const slip = rest.length > 0 ? known.get(nameKey(head)) : known.get(`in:${nameKey(head)}`);
    return slip === undefined ? undefined : { slip, pin: rest.length > 0 ? rest.join('.') : head };
  };
  const link = (from: string, to: string): void => {
    const [source, target] = [pin(from), pin(to)];
    if (source && target) links.push({ from: source, to: target });
  };
  for (const [name, free] of Object.entries(raw.inputs ?? {})) for (const to of list(free.to)) link(name, to);
  for (const wire of raw.wires ?? []) for (const to of list(wire.to)) link(wire.from, to);
  return { k: 'net', slips, links };
}

/** A network as elements and components that carry their equation. */
export function networkPicture(project: Project, { raw }: ComponentDocument, behaviour: RawNetwork): Picture {
  const slips: Slip[] = [];
  const links: Link[] = [];
  for (const [name, port] of Object.entries(raw.inputs ?? {}))
    slips.push({
      id: `in:${nameKey(name)}`,
      title: name,
      text: port.unit ?? '',
      about: port.about ?? '',
      inputs: [],
      outputs: [name],
      outside: 'input',
    });
  const starts = new Set([...Object.keys(raw.inputs ?? {}), ...Object.keys(behaviour.parts)].map(nameKey));
  const isWired = (from: string): boolean => starts.has(nameKey(from.split('.')[0] ?? ''));
  for (const [name, part] of Object.entries(behaviour.parts)) {
    const found = opened(project, part.use);
    slips.push({
      id: nameKey(name),
      title: name,
      text: found ? part.use : equationOf(part, plainInputs(part, isWired)),
      about: found?.component.raw.about ?? part.use.replace(/_/g, ' '),
      inputs: Object.keys(part.inputs ?? {}),
      outputs: found ? Object.keys(found.component.raw.outputs ?? {}) : ['out'],
      ...found?.shown,
    });
  }
  const known = new Map(slips.map((slip) => [slip.id, slip]));
  const source = (name: string): Link['from'] | undefined => {
    const [head = '', ...rest] = name.split('.');
    const key = nameKey(head);
    if (known.has(`in:${key}`)) return { slip: `in:${key}`, pin: known.get(`in:${key}`)?.outputs[0] ?? head };
    const slip = known.get(key);
    return slip && { slip: key, pin: rest.length > 0 ? rest.join('.') : (slip.outputs[0] ?? 'out') };
  };
  for (const [name, part] of Object.entries(behaviour.parts)) {
    for (const [input, from] of Object.entries(part.inputs ?? {})) {
      const found = typeof from === 'string' ? source(from) : undefined;
      if (found) links.push({ from: found, to: { slip: nameKey(name), pin: input } });
    }
  }
  for (const [name, from] of Object.entries(behaviour.outputs)) {
    slips.push({ id: `out:${nameKey(name)}`, title: name, text: '', about: 'output', inputs: [name], outputs: [], outside: 'output' });
    const found = source(from);
    if (found) links.push({ from: found, to: { slip: `out:${nameKey(name)}`, pin: name } });
  }
  return { k: 'net', slips, links };
}

/** Inputs that no wire brings: a number, or a parameter of the network, which stands in the equation. */
function plainInputs({ inputs = {} }: RawPart, isWired: (from: string) => boolean): Readonly<Record<string, string>> {
  return Object.fromEntries(
    Object.entries(inputs).flatMap(([input, from]) =>
      typeof from === 'string'
        ? isWired(from)
          ? []
          : [[input, from]]
        : [[input, typeof from === 'boolean' ? String(from).toUpperCase() : String(from)]],
    ),
  );
}
