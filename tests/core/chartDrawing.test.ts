import ELK from 'elkjs';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type ArrowPicture, inspectModel, type Picture, type RegionPicture, type StatePicture } from '@/core/picture';
import { type Box, beyondId, type Laid, layRegion, type Path } from '@/ui/model/drawing/layout';

interface State {
  readonly name: string;
  readonly inner: readonly (readonly State[])[];
  readonly histories: readonly string[];
}
interface Chart {
  readonly text: string;
  /** From, to and label of every transition. */
  readonly arrows: readonly (readonly [string, string, string])[];
}

interface Tree {
  readonly inner: readonly (readonly Tree[])[];
  readonly histories: number;
}

/** Trees of states: names are given afterwards, each once in the chart. */
const tree = (depth: number): fc.Arbitrary<Tree> =>
  fc.record({
    inner:
      depth === 0
        ? fc.constant<readonly (readonly Tree[])[]>([])
        : fc.oneof(
            { weight: 3, arbitrary: fc.constant<readonly (readonly Tree[])[]>([]) },
            { weight: 2, arbitrary: fc.array(fc.array(tree(depth - 1), { minLength: 1, maxLength: 3 }), { minLength: 1, maxLength: 2 }) },
          ),
    histories: fc.constantFrom(0, 0, 1),
  });

const chart: fc.Arbitrary<Chart> = fc
  .tuple(
    fc.array(fc.array(tree(2), { minLength: 1, maxLength: 4 }), { minLength: 1, maxLength: 2 }),
    fc.array(fc.tuple(fc.nat(), fc.nat(), fc.boolean(), fc.boolean()), { minLength: 1, maxLength: 12 }),
  )
  .map(([regions, wishes]) => {
    let count = 0;
    const named = (node: Tree): State => {
      count += 1;
      const name = `S${count}`;
      return {
        name,
        histories: node.inner.length > 0 && node.histories > 0 ? [`H${count}`] : [],
        inner: node.inner.map((list) => list.map(named)),
      };
    };
    const states = regions.map((list) => list.map((one) => named(one)));
    const ids = new Map<string, string>();
    const note = (list: readonly State[], region: string): void => {
      for (const state of list) {
        const id = `${region}.${state.name}`;
        ids.set(state.name, id);
        for (const history of state.histories) ids.set(history, `${id}.history ${history}`);
        for (const [index, inner] of state.inner.entries()) note(inner, state.inner.length > 1 ? `${id}.r${index}` : id);
      }
    };
    for (const [index, list] of states.entries()) note(list, `region${index}`);
    const sources = [...ids.keys()].filter((name) => name.startsWith('S'));
    const goals = [...ids.keys()];
    const wanted = wishes.map(([from, to, dotted, isAction], index) => ({
      from: sources[from % sources.length]!,
      to: goals[to % goals.length]!,
      label: `g${index}`,
      dotted,
      isAction: isAction && index % 3 === 0,
    }));
    const written = (list: readonly State[], indent: string): string =>
      list
        .map((state) => {
          const go = wanted
            .filter((one) => one.from === state.name)
            .map((one) => {
              const to = one.dotted && one.to.startsWith('S') ? ids.get(one.to)!.split('.').slice(-2).join('.') : one.to;
              return `{ ${one.isAction ? '' : `to: ${to}, `}when: ${one.label}${one.isAction ? ', do: "n := n + 1;"' : ''} }`;
            });
          const lines = [`${indent}${state.name}:`, `${indent}  go: [${go.join(', ')}]`];
          if (state.histories.length > 0)
            lines.push(`${indent}  history: { ${state.histories.map((one) => `${one}: { default: ${state.inner[0]![0]!.name} }`).join(', ')} }`);
          if (state.inner.length === 1)
            lines.push(`${indent}  initial: ${state.inner[0]![0]!.name}`, `${indent}  states:`, written(state.inner[0]!, `${indent}    `));
          if (state.inner.length > 1)
            lines.push(
              `${indent}  regions:`,
              ...state.inner.flatMap((inner, index) => [
                `${indent}    r${index}:`,
                `${indent}      initial: ${inner[0]!.name}`,
                `${indent}      states:`,
                written(inner, `${indent}        `),
              ]),
            );
          return lines.join('\n');
        })
        .join('\n');
    const text = `component: C\ninputs: { ${wanted.map((one) => `${one.label}: { type: BOOL }`).join(', ')} }\nbehaviour:\n  kind: chart\n  period: 10 ms\n  variables: { n: { type: DINT } }\n  regions:\n${states
      .map((list, index) => `    region${index}:\n      initial: ${list[0]!.name}\n      states:\n${written(list, '        ')}`)
      .join('\n')}\n`;
    const arrows = wanted.filter((one) => !one.isAction).map((one) => [ids.get(one.from)!, ids.get(one.to)!, one.label] as const);
    return { text, arrows };
  });

function drawn(text: string): Picture & { k: 'chart' } {
  const { picture } = inspectModel(
    [
      { path: 'project.yaml', text: 'project: P\n' },
      { path: 'components/c.yaml', text },
    ],
    'component:C',
  );
  if (picture.k !== 'chart') throw new Error(`a ${picture.k}\n${text}`);
  return picture;
}

function regionsIn(region: RegionPicture): RegionPicture[] {
  return [region, ...region.states.flatMap((state) => state.regions.flatMap(regionsIn))];
}
function statesIn(region: RegionPicture): StatePicture[] {
  return regionsIn(region).flatMap((one) => one.states);
}

const isAtBorder = ({ x, y }: { x: number; y: number }, box: Box): boolean => {
  const inside = x >= box.x - 1 && x <= box.x + box.width + 1 && y >= box.y - 1 && y <= box.y + box.height + 1;
  const deep = x > box.x + 1 && x < box.x + box.width - 1 && y > box.y + 1 && y < box.y + box.height - 1;
  return inside && !deep;
};

function check(region: RegionPicture, laid: Laid): string[] {
  const found = regionsIn(region).flatMap((one) =>
    one.arrows.flatMap((arrow, index) => {
      const paths = laid.paths.filter((path) => path.id === `${one.id}#${index}`);
      const problem = paths.length === 1 ? problemOf(arrow, paths[0]!, laid) : `drawn ${paths.length} times`;
      return problem === undefined ? [] : [`${arrow.from} → ${arrow.to}: ${problem}`];
    }),
  );
  const ids = laid.paths.map((path) => path.id);
  return new Set(ids).size === ids.length ? found : [...found, 'a line stands twice'];
}

function problemOf(arrow: ArrowPicture, { points, label }: Path, { boxes, width, height }: Laid): string | undefined {
  const [from, to] = [boxes.get(arrow.from), boxes.get(arrow.to) ?? boxes.get(beyondId(arrow.to))];
  if (!from || !to) return 'an end has no box';
  const [first, last] = [points[0], points.at(-1)];
  if (!first || !last || points.length < 2) return 'no line';
  if (!isAtBorder(first, from) || !isAtBorder(last, to)) return 'the line does not end at its states';
  return label && label.x >= -1 && label.y >= -1 && label.x <= width + 1 && label.y <= height + 1 ? undefined : 'the label is out of reach';
}

/** All 500 in the long run; they take half a minute. */
const charts = process.env.OVRAND_LONG ? 500 : 60;

describe('a chart is drawn as it is written', () => {
  it(`${charts} random charts: every transition of the text is drawn once, ends at its states, and its label can be reached`, async () => {
    const library = new ELK();
    await fc.assert(
      fc.asyncProperty(chart, async ({ text, arrows }) => {
        const picture = drawn(text);
        const found = picture.regions
          .flatMap((region) => regionsIn(region).flatMap((one) => one.arrows))
          .filter((one) => one.label !== 'the first time');
        const sorted = (list: readonly (readonly string[])[]): string[] => list.map((one) => one.join(' ')).sort();
        expect(sorted(found.map((one) => [one.from, one.to, one.label]))).toEqual(sorted(arrows));
        for (const region of picture.regions) {
          const problems = check(region, await layRegion(region, library));
          if (problems.length > 0) throw new Error(`${problems.join('\n')}\n${text}`);
        }
      }),
      { numRuns: charts },
    );
  });

  it('finds the nearest of a name, shows histories, and what only acts stands in its state', () => {
    const picture = drawn(`component: C
inputs: { a: { type: BOOL }, b: { type: BOOL } }
behaviour:
  kind: chart
  period: 10 ms
  variables: { n: { type: DINT } }
  regions:
    main:
      initial: Off
      states:
        Off: { go: [{ to: Slow, when: a }, { to: Back, when: b }] }
        On:
          initial: Slow
          history: { Back: { deep: true, default: Fast } }
          go: [{ when: b, do: "n := n + 1;" }, { to: Off, when: a }]
          states:
            Slow: { go: [{ to: Fast, when: a }, { to: Off, when: b }] }
            Fast: { go: [{ to: Slow, when: b }, { to: other.Off, when: a }] }
    other:
      initial: Off
      states: { Off: {} }
`);
    const [main] = picture.regions;
    expect(regionsIn(main!).flatMap((one) => one.arrows.map(({ from, to }) => `${from} → ${to}`))).toEqual([
      'main.Off → main.On.Slow',
      'main.Off → main.On.history Back',
      'main.On → main.Off',
      'main.On.history Back → main.On.Fast',
      'main.On.Slow → main.On.Fast',
      'main.On.Slow → main.Off',
      'main.On.Fast → main.On.Slow',
      'main.On.Fast → other.Off',
    ]);
    const on = statesIn(main!).find((state) => state.name === 'On')!;
    expect(on).toMatchObject({ actions: ['b: n := n + 1;'], histories: [{ name: 'Back', deep: true }] });
  });
});
