import type { ElkExtendedEdge, ElkNode } from 'elkjs/lib/elk-api';

/** Above so many slips the layout library takes longer than anybody waits. */
export const mostForLibrary = 300;

const gap = { layer: 70, slip: 22, lane: 6 };

/**
 * A plain layered layout for large networks (after Sugiyama, Tagawa, Toda 1981): columns by the longest way from a source, order within a column by the
 * mean place of what feeds it, wires at right angles. Linear but for sorting.
 */
export function quickLayout(children: readonly ElkNode[], edges: readonly ElkExtendedEdge[]): ElkNode {
  const byId = new Map(children.map((child) => [child.id, child]));
  const links = edges.flatMap((edge) => {
    const [source, target] = [slipOf(edge.sources[0] ?? ''), slipOf(edge.targets[0] ?? '')];
    return byId.has(source) && byId.has(target) ? [{ edge, source, target }] : [];
  });
  const feeds = new Map<string, string[]>();
  for (const { source, target } of links) feeds.set(target, [...(feeds.get(target) ?? []), source]);
  const { at, width } = placesOf(columns(children, feeds), feeds);
  // As from the library, pins count from the corner of the sheet.
  const placed = children.map((child) => {
    const { x: left, y: top } = at.get(child.id) ?? { x: 0, y: 0 };
    return { ...child, x: left, y: top, ports: child.ports?.map((port) => ({ ...port, x: left + (port.x ?? 0), y: top + (port.y ?? 0) })) ?? [] };
  });
  const ends = links.map(({ edge, source, target }) => ({
    edge,
    start: pinAt(byId.get(source), edge.sources[0] ?? '', at.get(source)),
    end: pinAt(byId.get(target), edge.targets[0] ?? '', at.get(target)),
  }));
  const height = Math.max(0, ...placed.map((child) => child.y + (child.height ?? 0)));
  return { id: 'root', x: 0, y: 0, width, height, children: placed, edges: routed(ends) };
}

/** Column by column, each slip as near to the mean height of what feeds it as those above it let it. */
function placesOf(layers: readonly (readonly ElkNode[])[], feeds: ReadonlyMap<string, readonly string[]>) {
  const at = new Map<string, Point>();
  const wish = (child: ElkNode): number => {
    const ys = (feeds.get(child.id) ?? []).flatMap((source) => at.get(source)?.y ?? []);
    return ys.length === 0 ? Number.POSITIVE_INFINITY : ys.reduce((a, b) => a + b, 0) / ys.length;
  };
  let x = 0;
  for (const layer of layers) {
    const ordered = layer.map((child) => ({ child, wish: wish(child) })).sort((a, b) => (a.wish === b.wish ? 0 : a.wish - b.wish));
    let y = 0;
    for (const { child, wish: wanted } of ordered) {
      const top = Number.isFinite(wanted) ? Math.max(y, wanted) : y;
      at.set(child.id, { x, y: top });
      y = top + (child.height ?? 0) + gap.slip;
    }
    x += Math.max(...layer.map((child) => child.width ?? 0)) + gap.layer;
  }
  return { at, width: x };
}

/** Wires at right angles; one that leads back goes over the top, in a lane of its own. */
function routed(ends: readonly { readonly edge: ElkExtendedEdge; readonly start: Point; readonly end: Point }[]): ElkExtendedEdge[] {
  let back = 0;
  return ends.map(({ edge, start, end }, index) => {
    const lane = 8 + (index % 8) * gap.lane;
    if (end.x > start.x) {
      const turn = end.x - lane;
      return section(
        edge,
        start,
        [
          { x: turn, y: start.y },
          { x: turn, y: end.y },
        ],
        end,
      );
    }
    back += 1;
    const over = -back * gap.lane;
    const [out, into] = [start.x + lane, end.x - lane];
    return section(
      edge,
      start,
      [
        { x: out, y: start.y },
        { x: out, y: over },
        { x: into, y: over },
        { x: into, y: end.y },
      ],
      end,
    );
  });
}

interface Point {
  readonly x: number;
  readonly y: number;
}

function slipOf(port: string): string {
  return port.replace(/\/(WEST|EAST)\/[^/]*$/, '');
}

function pinAt(child: ElkNode | undefined, port: string, at: Point | undefined): Point {
  const pin = child?.ports?.find((one) => one.id === port);
  return { x: (at?.x ?? 0) + (pin?.x ?? 0), y: (at?.y ?? 0) + (pin?.y ?? 0) };
}

function section(edge: ElkExtendedEdge, startPoint: Point, bendPoints: Point[], endPoint: Point): ElkExtendedEdge {
  return { ...edge, sections: [{ id: `${edge.id}/way`, startPoint, bendPoints, endPoint }] };
}

/** Columns by the longest way from a slip that nothing feeds; a wire that closes a ring is passed over. */
function columns(children: readonly ElkNode[], feeds: ReadonlyMap<string, readonly string[]>): ElkNode[][] {
  const depth = new Map<string, number>();
  const open = new Set<string>();
  for (const root of children) {
    const stack = [root.id];
    for (let id = stack.at(-1); id !== undefined; id = stack.at(-1)) {
      const before = feeds.get(id) ?? [];
      const next = depth.has(id) ? undefined : before.find((one) => !depth.has(one) && !open.has(one));
      open.add(id);
      if (next !== undefined) {
        stack.push(next);
        continue;
      }
      if (!depth.has(id)) depth.set(id, Math.max(0, ...before.map((one) => (depth.get(one) ?? -1) + 1)));
      open.delete(id);
      stack.pop();
    }
  }
  const layers: ElkNode[][] = [];
  for (const child of children) {
    const column = depth.get(child.id) ?? 0;
    const layer = layers[column] ?? [];
    layers[column] = layer;
    layer.push(child);
  }
  return layers.filter((layer) => layer !== undefined);
}
