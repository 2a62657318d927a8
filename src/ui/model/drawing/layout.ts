import type { ElkExtendedEdge, ElkNode } from 'elkjs/lib/elk-api';
import type { HistoryPicture, Picture, RegionPicture, StatePicture } from '@/core/picture';
import { mostForLibrary, quickLayout } from './quickLayout';

export interface Box {
  readonly id: string;
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

export interface Path {
  readonly id: string;
  readonly points: readonly { readonly x: number; readonly y: number }[];
  readonly label?: Box;
}

export interface Laid {
  readonly width: number;
  readonly height: number;
  readonly boxes: ReadonlyMap<string, Box>;
  readonly pins: ReadonlyMap<string, { readonly x: number; readonly y: number }>;
  readonly paths: readonly Path[];
}

/** Sizes that drawing and layout agree on (px). */
export const size = { head: 38, pin: 15, mono: 6.1, sans: 7.4, line: 14, stateHead: 26 } as const;

/** The layout library, which lives in a worker of the browser, and in the server itself. */
export interface LayoutLibrary {
  layout(graph: ElkNode): Promise<ElkNode>;
}

const options = {
  'elk.algorithm': 'layered',
  'elk.direction': 'RIGHT',
  'elk.edgeRouting': 'ORTHOGONAL',
  'elk.json.edgeCoords': 'ROOT',
  'elk.json.shapeCoords': 'ROOT',
  'elk.layered.considerModelOrder.strategy': 'NODES_AND_EDGES',
  'elk.layered.spacing.nodeNodeBetweenLayers': '46',
  'elk.layered.spacing.edgeNodeBetweenLayers': '16',
  'elk.spacing.nodeNode': '22',
  'elk.spacing.edgeEdge': '9',
  'elk.spacing.edgeNode': '12',
};

/** Lays out a loop or network: slips with pins at both sides, wires at right angles. */
export async function layNet(picture: Picture & { k: 'net' }, library: LayoutLibrary): Promise<Laid> {
  const children = picture.slips.map((slip): ElkNode => {
    const longest = (names: readonly string[]): number => Math.max(0, ...names.map((name) => name.length));
    const pins = slip.outside ? 0 : longest(slip.inputs) + longest(slip.outputs);
    const width = Math.max(slip.title.length * size.sans + (slip.picture ? 52 : 24), slip.text.length * size.mono + 24, pins * size.mono + 44, 64);
    const height = slip.outside ? 26 : size.head + Math.max(slip.inputs.length, slip.outputs.length) * size.pin + 8;
    const port = (name: string, side: 'WEST' | 'EAST', index: number) => ({
      id: `${slip.id}/${side}/${name}`,
      x: side === 'WEST' ? 0 : width,
      y: slip.outside ? 13 : size.head + index * size.pin + 6,
      width: 0,
      height: 0,
      layoutOptions: { 'elk.port.side': side },
    });
    return {
      id: slip.id,
      width,
      height,
      ports: [...slip.inputs.map((name, index) => port(name, 'WEST', index)), ...slip.outputs.map((name, index) => port(name, 'EAST', index))],
      layoutOptions: {
        'elk.portConstraints': 'FIXED_POS',
        ...(slip.outside === 'input' ? { 'elk.layered.layering.layerConstraint': 'FIRST' } : {}),
        ...(slip.outside === 'output' ? { 'elk.layered.layering.layerConstraint': 'LAST' } : {}),
      },
    };
  });
  const known = new Set(children.flatMap((child) => child.ports?.map((port) => port.id) ?? []));
  const edges = picture.links.flatMap((link, index): ElkExtendedEdge[] => {
    const [source, target] = [`${link.from.slip}/EAST/${link.from.pin}`, `${link.to.slip}/WEST/${link.to.pin}`];
    return known.has(source) && known.has(target) ? [{ id: String(index), sources: [source], targets: [target] }] : [];
  });
  if (children.length > mostForLibrary) return collect(quickLayout(children, edges));
  return collect(await library.layout({ id: 'root', children, edges, layoutOptions: options }));
}

/** The id of the slip at which a transition ends whose target lies in another region at the top. */
export function beyondId(target: string): string {
  return `beyond ${target}`;
}

/** What stands on such a slip. */
export function beyondWords(target: string): string {
  return `to ${target}`;
}

/** Lays out one region of a chart: nested states, transitions with their guards. Every arrow of the picture becomes one path. */
export async function layRegion(region: RegionPicture, library: LayoutLibrary): Promise<Laid> {
  const edges: ElkExtendedEdge[] = [];
  const gather = (one: RegionPicture): void => {
    one.arrows.forEach((arrow, index) => {
      const text = shortened(arrow.label);
      edges.push({
        id: `${one.id}#${index}`,
        sources: [arrow.from],
        targets: [arrow.to],
        labels: [{ id: `${one.id}#${index}/label`, text, width: Math.max(1, text.length) * size.mono + 8, height: 14 }],
      });
    });
    for (const state of one.states) for (const inner of state.regions) gather(inner);
  };
  gather(region);
  const children = region.states.map(stateNode);
  const ids = new Set<string>();
  const note = (node: ElkNode): void => {
    ids.add(node.id);
    for (const child of node.children ?? []) note(child);
  };
  for (const child of children) note(child);
  const beyond = [...new Set(edges.flatMap(({ targets }) => targets.filter((target) => !ids.has(target))))];
  const slips = beyond.map((target): ElkNode => ({ id: beyondId(target), width: beyondWords(target).length * size.mono + 10, height: 18 }));
  const ending = edges.map((edge) => ({ ...edge, targets: edge.targets.map((target) => (ids.has(target) ? target : beyondId(target))) }));
  const layoutOptions = {
    ...options,
    'elk.hierarchyHandling': 'INCLUDE_CHILDREN',
    // Nested states grow long sideways; one scrolls downward more gladly.
    'elk.direction': region.states.some((state) => state.regions.length > 0) ? 'DOWN' : 'RIGHT',
    'elk.layered.spacing.nodeNodeBetweenLayers': '30',
    'elk.edgeLabels.inline': 'false',
  };
  return collect(await library.layout({ id: 'root', children: [...children, ...slips], edges: ending, layoutOptions }));
}

/** What stands where a history is. */
export function historyWords({ name, deep }: HistoryPicture): string {
  return `${name}: ${deep ? 'deep history' : 'history'}`;
}

function stateNode(state: StatePicture): ElkNode {
  const widest = Math.max(state.name.length * size.sans, ...state.actions.map((action) => shortened(action).length * size.mono));
  const width = Math.max(96, widest + 22);
  const head = size.stateHead + state.actions.length * size.line;
  if (state.regions.length === 0) return { id: state.id, width, height: head + 6 };
  const parallel = state.regions.length > 1;
  const histories = state.histories.map((history): ElkNode => ({ id: history.id, width: historyWords(history).length * size.mono + 14, height: 18 }));
  const inner = state.regions.flatMap((region): ElkNode[] =>
    parallel
      ? [
          {
            id: `${region.id}/region`,
            children: region.states.map(stateNode),
            layoutOptions: { 'elk.padding': '[top=24,left=10,bottom=10,right=10]' },
          },
        ]
      : region.states.map(stateNode),
  );
  return {
    id: state.id,
    children: [...inner, ...histories],
    layoutOptions: {
      'elk.padding': `[top=${head + 10},left=12,bottom=12,right=12]`,
      'elk.nodeSize.constraints': 'MINIMUM_SIZE',
      'elk.nodeSize.minimum': `(${width},${head})`,
    },
  };
}

/** Guards and actions are cut on the drawing; the text has them whole. */
export function shortened(text: string): string {
  return text.length > 34 ? `${text.slice(0, 33)}…` : text;
}

function collect(root: ElkNode): Laid {
  const boxes = new Map<string, Box>();
  const pins = new Map<string, { x: number; y: number }>();
  const visit = (node: ElkNode): void => {
    for (const child of node.children ?? []) {
      boxes.set(child.id, { id: child.id, x: child.x ?? 0, y: child.y ?? 0, width: child.width ?? 0, height: child.height ?? 0 });
      for (const port of child.ports ?? []) pins.set(port.id, { x: port.x ?? 0, y: port.y ?? 0 });
      visit(child);
    }
  };
  visit(root);
  const paths = (root.edges ?? []).map((edge): Path => {
    const points = (edge.sections ?? []).flatMap((section) => [section.startPoint, ...(section.bendPoints ?? []), section.endPoint]);
    const label = edge.labels?.[0];
    return {
      id: edge.id,
      points,
      ...(label ? { label: { id: label.id ?? '', x: label.x ?? 0, y: label.y ?? 0, width: label.width ?? 0, height: label.height ?? 0 } } : {}),
    };
  });
  return { width: root.width ?? 0, height: root.height ?? 0, boxes, pins, paths };
}
