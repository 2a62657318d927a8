import { describe, expect, it } from 'vitest';
import { Coverage, touchedIn, untouched } from '@/core/coverage';
import { openSearch } from '@/core/design';
import { slotsRead } from '@/core/plan';
import { checkProject, logicMark } from '@/core/project';
import { simulate } from '@/core/simulate';
import { readFolder } from '@/server/folder';
import { column } from '../support/project';

const period = 0.1;
const component = `component: Shaper
inputs: { x: { type: LREAL, min: -5, max: 5 }, y: { type: LREAL, min: 0, max: 4 }, on: { type: BOOL } }
outputs: { out: { type: LREAL }, cell: { type: LREAL } }
behaviour:
  kind: network
  period: 100 ms
  parts:
    kept: { use: saturation, inputs: { in: x }, parameters: { low: -1, high: 2 } }
    still: { use: dead_band, inputs: { in: x }, parameters: { width: 0.5 } }
    chosen: { use: switch, inputs: { condition: on, one: kept, other: still } }
    map: { use: table, inputs: { in: y }, settings: { x: [0, 1, 3], y: [0, 5, 6] } }
    plane: { use: surface, inputs: { a: x, b: y }, settings: { a: [-5, 0, 5], b: [0, 2, 4], values: [[0, 1, 2], [1, 2, 3], [2, 3, 4]] } }
    both: { use: sum, inputs: { plus: map, plus_2: plane } }
  outputs: { out: chosen, cell: both }
`;

function filesWith(stimuli: string) {
  return Object.entries({
    'project.yaml': 'project: Shaper\n',
    'components/s.yaml': component,
    'loops/l.yaml':
      'loop: l\ncomponents: { s: { use: Shaper } }\ninputs: { x: { to: s.x }, y: { to: s.y }, on: { to: s.on } }\nunused: [s.out, s.cell]\nsolver: { method: euler, step: 100 ms }\nstop: 10 s\n',
    'cases/c.yaml': `case: c\nloop: l\n${stimuli}`,
  }).map(([path, text]) => ({ path, text }));
}

/** What the elements do, from their definitions, by hand. */
const where: Readonly<Record<string, (x: number, y: number, on: number) => boolean>> = {
  's.kept at its low limit': (x) => x <= -1,
  's.kept between its limits': (x) => x > -1 && x < 2,
  's.kept at its high limit': (x) => x >= 2,
  's.still below the band': (x) => x < -0.5,
  's.still within the band': (x) => x >= -0.5 && x <= 0.5,
  's.still above the band': (x) => x > 0.5,
  's.chosen at one': (_x, _y, on) => on === 1,
  's.chosen at other': (_x, _y, on) => on === 0,
  's.map in from 0 to 1': (_x, y) => y >= 0 && y < 1,
  's.map in from 1 to 3': (_x, y) => y >= 1 && y <= 3,
  's.plane a from -5 to 0, b from 0 to 2': (x, y) => x >= -5 && x < 0 && y >= 0 && y < 2,
  's.plane a from -5 to 0, b from 2 to 4': (x, y) => x >= -5 && x < 0 && y >= 2 && y <= 4,
  's.plane a from 0 to 5, b from 0 to 2': (x, y) => x >= 0 && x <= 5 && y >= 0 && y < 2,
  's.plane a from 0 to 5, b from 2 to 4': (x, y) => x >= 0 && x <= 5 && y >= 2 && y <= 4,
  'x at its least, -5': (x) => x <= -5,
  'x at its greatest, 5': (x) => x >= 5,
  'y at its least, 0': (_x, y) => y <= 0,
  'y at its greatest, 4': (_x, y) => y >= 4,
};

describe('positions of elements, and ends of ranges of inputs', () => {
  it('are counted as often as they are taken up, held against their definitions', () => {
    for (const walk of [1, 2, 5]) {
      const random = (at: string, low: number, high: number): string =>
        `${at}: [{ walk: ${walk}, from: 0 s, until: 10 s, every: 300 ms, within: [${low}, ${high}] }]`;
      const files = filesWith(
        `seed: ${walk}\nstimuli: { ${random('x', -5, 5)}, ${random('y', 0, 4)}, on: [{ pulse: TRUE, at: 1 s, width: 500 ms, period: 2 s }] }\n`,
      );
      const project = checkProject(files);
      expect(project.faults).toEqual([]);
      const { experiment } = project.cases[0]!;
      const outcome = simulate({ ...experiment, coverage: true });
      const coverage = new Coverage();
      coverage.add(experiment.plan, touchedIn(experiment.plan, outcome));
      const { items } = coverage.report();
      const own = items.filter(({ kind }) => kind === 'position' || kind === 'limit');
      expect(own.map(({ words }) => words).sort()).toEqual(Object.keys(where).sort());
      const [x, y, on] = ['x', 'y', 'on'].map((name) => column(outcome.trace, name));
      const times = [...x!.time];
      expect(times.length).toBeGreaterThan(10 / period / 2);
      const at = (of: { time: Float64Array; data: Float64Array }, t: number): number => of.data[[...of.time].filter((one) => one <= t).length - 1]!;
      const all = [...new Set([...times, ...y!.time, ...on!.time])].sort((a, b) => a - b);
      for (const { words, count } of own) {
        const truths = all.map((t) => where[words]!(at(x!, t), at(y!, t), at(on!, t)));
        const begun = truths.filter((one, index) => one && !truths[index - 1]).length;
        expect(count, `${words}, seed ${walk}`).toBe(begun);
      }
    }
  });

  it('are goals: a search takes up all of them', () => {
    const search = openSearch(filesWith(''), 'l', { seed: 1, kinds: new Set(['position', 'limit']) });
    expect(search.goals).toHaveLength(Object.keys(where).length);
    while (search.runs < 60 && search.left.length > 0) search.step();
    expect(search.left.map(({ words }) => words)).toEqual([]);
  });

  it('speak of nothing that a trace does not hold', async () => {
    for (const folder of [
      'demo/tarn-lock',
      'demo/autoclave',
      'demo/quay-crane',
      'tests/projects/booster',
      'tests/projects/charger',
      'tests/projects/coldstore',
    ]) {
      const project = checkProject((await readFolder(folder)).files);
      for (const { experiment } of project.cases.slice(0, 1)) {
        const { trace } = simulate({ ...experiment, stopNs: 1e9, coverage: true });
        const known = new Set([...trace.columns.map((one) => one.slot), ...experiment.plan.parameters]);
        for (const { component: of, text, node } of experiment.plan.positions)
          for (const slot of slotsRead(node)) expect(known.has(slot), `${folder}: ${of} ${text}`).toBe(true);
        // And each part of the logic can be justified: something stands for it that changes with it.
        const coverage = new Coverage();
        coverage.add(experiment.plan, untouched(experiment.plan));
        const { items, conditions } = coverage.report();
        for (const item of [...items, ...conditions]) expect(logicMark(project.project, item), item.id).toMatch(/^[0-9a-f]{16}$/);
      }
    }
  });
});
