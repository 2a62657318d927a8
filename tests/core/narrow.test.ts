import { describe, expect, it } from 'vitest';
import { CaseFinder, familyOf, openSearch, suiteOf } from '@/core/design';
import { Stream } from '@/core/numeric';
import { checkProject } from '@/core/project';
import { readFolder } from '@/server/folder';

/** Two inputs through a plane: the greatest value over their ranges is known. The lamp follows a press after two hits at most. */
function project(a: number, b: number, limit: number) {
  return Object.entries({
    'project.yaml': 'project: Plane\n',
    'components/plane.yaml': `component: Plane
inputs: { u: { type: LREAL, unit: m, min: -1, max: 2 }, v: { type: LREAL, unit: m, min: -3, max: 1 } }
outputs: { y: { type: LREAL, unit: m } }
behaviour: { kind: equations, outputs: { y: "${a} * u + ${b} * v" } }
`,
    'components/lamp.yaml': `component: Lamp
inputs: { press: { type: BOOL } }
outputs: { lamp: { type: BOOL } }
behaviour: { kind: chart, period: 100 ms, regions: { r: { initial: Off, states: { Off: { go: [{ to: On, when: press }] }, On: { entry: "lamp := TRUE;" } } } } }
`,
    'loops/l.yaml':
      'loop: l\ncomponents: { plane: { use: Plane }, lamp: { use: Lamp } }\ninputs: { u: { to: plane.u }, v: { to: plane.v }, press: { to: lamp.press } }\nunused: [plane.y, lamp.lamp]\nsolver: { method: euler, step: 100 ms }\nstop: 20 s\n',
    'requirements/r.yaml': `section: S
requirements:
  - requirement: R1
    text: It stays low.
    criteria: [{ criterion: low, sentence: "always plane.y <= ${limit} m", accepted: { by: us, on: 2026-01-01 } }]
  - requirement: R2
    text: The lamp follows.
    criteria: [{ criterion: lamp, sentence: "when press rises, within 3 s lamp.lamp", accepted: { by: us, on: 2026-01-01 } }]
`,
  }).map(([path, text]) => ({ path, text }));
}

describe('the least margin', () => {
  it('is found where it is known, and then the search comes to rest', () => {
    const stream = new Stream(7);
    for (let draw = 0; draw < 3; draw += 1) {
      const [a, b] = [0, 1].map(() => Math.round(20 * (stream.next() - 0.5)) / 4 || 1) as [number, number];
      const greatest = Math.max(-a, 2 * a) + Math.max(-3 * b, b);
      const files = project(a, b, greatest + 2);
      const search = openSearch(files, 'l', { seed: draw, kinds: new Set(['triggered', 'least']) });
      const isLeft = (): boolean => search.left.some(({ criterion }) => criterion?.requirement === 'R1');
      while (search.runs < 2500 && isLeft()) search.step();
      expect(isLeft()).toBe(false);
      const suite = suiteOf(search, search.known);
      const of = (requirement: string) =>
        suite.findLast(({ goals }) => goals.some(({ kind, criterion }) => kind === 'least' && criterion?.requirement === requirement));
      const margin = of('R1')?.distances.get('least R1 low')?.margin?.value;
      expect(margin, `${a} u + ${b} v`).toBeGreaterThanOrEqual(2 - 1e-9);
      expect(margin, `${a} u + ${b} v`).toBeLessThan(2.05);
    }
  });

  it('of an answer is that of the latest there can be, and is told in the family with the case that shows it', () => {
    const files = project(1, 1, 9);
    const finder = CaseFinder.forFamily(files, 'R2', { seed: 1, withWires: false });
    while (finder.runs < 2000 && finder.left.some(({ id }) => id.startsWith('least') || id.startsWith('triggered'))) finder.step();
    const documents = finder.documents();
    const [criterion] = familyOf([...files, ...documents], 'R2').criteria;
    const least = criterion!.goals.find(({ kind }) => kind === 'least')!;
    // Pressed just after a hit, the lamp follows at the next one, 100 ms later; where a press between two hits is not seen at all, later still.
    expect(least.says).toBe('is answered as late as the loop can');
    expect(least.margin?.value).toBeLessThanOrEqual(2.92);
    expect(least.reachedBy).toHaveLength(1);
  });

  it('of a gantry that stops at the hit after the button is pressed lies between the hits', async () => {
    const { files } = await readFolder('tests/projects/gantry');
    const finder = CaseFinder.forFamily(files, 'GW-1', { seed: 0, withWires: false });
    while (finder.runs < 600 && finder.left.some(({ id }) => id.startsWith('least') || id.startsWith('triggered'))) finder.step();
    const all = [...files, ...finder.documents()];
    expect(checkProject(all).faults).toEqual([]);
    // 300 ms less the 100 ms of the hit.
    const least = familyOf(all, 'GW-1').criteria[0]!.goals.find(({ kind }) => kind === 'least')!;
    expect(least.margin?.value).toBeGreaterThanOrEqual(0.2 - 1e-9);
    expect(least.margin?.value).toBeLessThanOrEqual(0.22);
  });

  it('is nothing to look for once the criterion is broken', () => {
    const search = openSearch(project(1, 1, 2.5), 'l', { seed: 1, kinds: new Set(['triggered', 'least']) });
    while (search.runs < 500 && !search.reached.has('broken R1 low')) search.step();
    expect([...search.reached]).toContain('broken R1 low');
    expect(search.left.filter(({ criterion }) => criterion?.requirement === 'R1')).toEqual([]);
    expect(
      suiteOf(search, search.known).flatMap(({ goals }) =>
        goals.filter(({ criterion, kind }) => kind === 'least' && criterion?.requirement === 'R1'),
      ),
    ).toEqual([]);
  });
});
