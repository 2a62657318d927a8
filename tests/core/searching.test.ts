import { describe, expect, it } from 'vitest';
import { Decision } from '@/core/coverage';
import { Asked, derivedDocument, emptyCase, type Literal, openSearch, showingOf, suiteOf } from '@/core/design';
import type { SourceFile } from '@/core/documents';
import { Stream } from '@/core/numeric';
import { conditionsIn, evaluate, type Node } from '@/core/plan';
import { checkProject } from '@/core/project';
import { readFolder } from '@/server/folder';

/** A chart with a message, a state that has to last for longer than the loop runs, and a level that has to be low while a button is pressed. */
const parts: Readonly<Record<string, string>> = {
  'project.yaml': 'project: Watch\n',
  'components/watch.yaml': `component: Watch
inputs: { press: { type: BOOL }, level: { type: LREAL, unit: m, min: 0, max: 10 } }
outputs: { lamp: { type: BOOL } }
messages: { in: { arm: {} } }
behaviour:
  kind: chart
  period: 100 ms
  regions:
    watch:
      initial: Off
      states:
        Off:
          go: [{ to: Armed, on: arm }]
        Armed:
          go:
            - { to: Off, when: press AND level > 2.0 }
            - { to: Late, after: 100 s }
        Late:
          entry: "lamp := TRUE;"
`,
  'components/tank.yaml':
    'component: Tank\ninputs: { inflow: { type: LREAL, min: -1, max: 1 } }\noutputs: { level: { type: LREAL, unit: m, min: 0, max: 10 } }\nbehaviour: { kind: equations, states: { h: { start: 1 } }, derivatives: { h: "inflow * 0.1 - 0.01 * h" }, outputs: { level: "LIMIT(0.0, h, 10.0)" } }\n',
  'loops/l.yaml':
    'loop: l\ncomponents: { watch: { use: Watch }, tank: { use: Tank } }\ninputs: { press: { to: watch.press }, inflow: { to: tank.inflow } }\nwires: [{ from: tank.level, to: watch.level }]\nunused: [watch.lamp]\nsolver: { method: runge-kutta-4, step: 100 ms }\nstop: 60 s\n',
  'requirements/r.yaml': `section: S
requirements:
  - requirement: W1
    text: The lamp shows that it is late.
    criteria: [{ criterion: lamp, sentence: "when enters watch.Late, within 1 s lamp", accepted: { by: us, on: 2026-01-01 } }]
  - requirement: W2
    text: Pressed at a high level it goes off.
    criteria: [{ criterion: off, sentence: "when press rises while watch.Armed AND tank.level > 3 m, within 1 s watch.Off", accepted: { by: us, on: 2026-01-01 } }]
`,
};
const files: SourceFile[] = Object.entries(parts).map(([path, text]) => ({ path, text }));

describe('a search', () => {
  it('lets a run go on where something has to last for longer than a loop runs, sends a message first, and brings a level up', () => {
    const search = openSearch(files, 'l', { seed: 1, kinds: new Set(['triggered', 'state', 'transition']) });
    while (search.runs < 600 && search.left.length > 0) search.step();
    expect(search.left.map(({ words }) => words)).toEqual([]);
    const late = suiteOf(search, search.known).find(({ goals }) => goals.some(({ words }) => words === 'W1 lamp is triggered'))!;
    expect(late.stopNs).toBeGreaterThan(100e9);
    expect(late.stopNs).toBeLessThanOrEqual(240e9);
    const document = derivedDocument({ ...search.document(late.moves, late.stopNs), case: 'Late' }, { for: [], seed: 1 }, []);
    const again = checkProject([...files, document]);
    expect(again.faults).toEqual([]);
    expect([...showingOf(again, again.cases[0]!).reached]).toContain('triggered W1 lamp');
  });

  it('sends each message, and tells of one that no case sends', () => {
    const search = openSearch(files, 'l', { seed: 1, kinds: new Set(['message']) });
    expect(search.goals.map(({ words }) => words)).toEqual(['watch.arm is sent']);
    while (search.runs < 100 && search.left.length > 0) search.step();
    expect(search.left).toEqual([]);
  });

  it('goes after what it is for above all', () => {
    const runsFor = (aim: string): number => {
      const search = openSearch(files, 'l', { seed: 3, kinds: new Set(['triggered', 'state', 'transition']), isAimed: ({ id }) => id === aim });
      while (search.runs < 600 && !search.reached.has(aim)) search.step();
      return search.runs;
    };
    for (const aim of ['triggered W1 lamp', 'triggered W2 off']) expect(runsFor(aim)).toBeLessThan(120);
  });
});

describe('what goals ask for', async () => {
  const { project, template } = emptyCase(files, 'l');
  const loop = project.loops.get(template.loop)!;
  const asked = new Asked(loop.plan);
  const shown = (one: Literal): string => `${'value' in one && !one.value ? 'NOT ' : ''}${one.text}${one.isFree ? ' (free)' : ''}`;

  it('is a message where a transition waits for one, and a limit with its unit where a guard compares', () => {
    const of = (to: string) => loop.plan.transitions.filter((one) => one.to === to).flatMap((info) => asked.transition(info));
    expect(of('Armed').map((way) => way.map(shown))).toEqual([['watch.watch.Off', 'message arm (free)']]);
    expect(of('Armed')[0]![1]).toMatchObject({ k: 'sent', messages: [{ name: 'watch.arm' }] });
    expect(of('Off').map((way) => way.map(shown))).toEqual([['watch.watch.Armed', 'press (free)', 'level > 2.0']]);
    expect(of('Off')[0]![2]).toMatchObject({ k: 'bound', strict: true, scale: 10, unit: 'm' });
  });

  it('is what triggers a criterion, and what would break it', () => {
    const criterion = project.criteria.find(({ requirement }) => requirement === 'W2')!.inLoop.get(template.loop)!;
    expect(asked.criterion(criterion).map((way) => way.map(shown))).toEqual([['press (free)', 'watch.watch.Armed', 'tank.level']]);
    expect(asked.breaking(criterion).map((way) => way.map(shown))).toEqual([
      ['NOT watch.watch.Off', 'press (free)', 'watch.watch.Armed', 'tank.level'],
    ]);
  });

  it('is, for a condition that decides, exactly the combinations in which it does', async () => {
    const lock = await readFolder('demo/tarn-lock');
    const plan = [...checkProject(lock.files).loops.values()].find((one) => one.plan.loop === 'lock')!.plan;
    const of = new Asked(plan);
    const stream = new Stream(1);
    let looked = 0;
    for (const { tree } of plan.decisions) {
      const conditions = conditionsIn(tree);
      if (conditions.length < 2 || conditions.length > 3) continue;
      const decision = new Decision(tree);
      for (const outcome of [true, false])
        conditions.forEach((_, bit) => {
          const wanted = Array.from({ length: 2 ** conditions.length }, (_unused, one) => one).filter(
            (one) => decision.decides(bit, one) && decision.outcome(one) === outcome,
          );
          const ways = of.deciding(tree, bit, outcome, undefined);
          expect(ways.length).toBe(wanted.length);
          ways.forEach((way, index) => {
            way.forEach((literal, at) => {
              // The time since a state was entered is nothing that a signal tells.
              if (literal.text.startsWith('after')) return;
              const isWanted = ((wanted[index] as number) & (1 << at)) !== 0;
              // Whatever the signals are: the literal is so exactly where the condition is as the combination has it.
              for (let draw = 0; draw < 20; draw += 1) {
                const values = plan.slots.map(({ type }) =>
                  type === 'BOOL' ? Math.round(stream.next()) : type === 'INT' ? Math.floor(9 * stream.next()) : 4 * stream.next(),
                );
                const isTrue = evaluate(conditions[at]!.node, (slot) => values[slot] as number);
                if (isTrue === undefined) continue;
                expect(isSo(literal, values), `${literal.text} in ${conditions.map(({ text }) => text).join(', ')}`).toBe(
                  (isTrue === 1) === isWanted,
                );
                looked += 1;
              }
            });
          });
        });
    }
    expect(looked).toBeGreaterThan(1_000);
  });
});

function isSo(literal: Literal, values: readonly number[]): boolean {
  const worth = (node: Node): number => evaluate(node, (slot) => values[slot] as number) ?? Number.NaN;
  if (literal.k === 'truth') return (worth(literal.node) === 1) === literal.value;
  if (literal.k !== 'bound') throw new Error(`what is ${literal.text}?`);
  return literal.strict ? worth(literal.distance) > 0 : worth(literal.distance) >= 0;
}
