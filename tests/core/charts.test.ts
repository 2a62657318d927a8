import { describe, expect, it } from 'vitest';
import { decisionsOf, slotsRead } from '@/core/plan';
import { checkProject } from '@/core/project';
import { column, projectOf, runCase } from '../support/project';

/** A chart `c` of one region `r`, alone in a loop, with a script. */
function charted(face: string, regions: string, script: string, variables = ''): ReturnType<typeof projectOf> {
  return projectOf({
    'components/c.yaml': `component: C\n${face}behaviour:\n  kind: chart\n  period: 100 ms\n${variables}  regions:\n${regions}`,
    'loops/l.yaml': 'loop: l\ncomponents: { c: { use: C } }\nsolver: { method: runge-kutta-4, step: 100 ms }\nstop: 3 s\n',
    'cases/c.yaml': `case: c\nloop: l\nscript: ${script}\n`,
  });
}

const names = (project: ReturnType<typeof projectOf>, region: string): string[] => {
  const { trace } = runCase(project);
  const { data } = column(trace, region);
  const labels = trace.columns.find((one) => one.name === region)?.labels ?? [];
  return [...data].map((value) => labels[value] ?? '').filter((name, index, all) => name !== all[index - 1]);
};

describe('messages of a chart', () => {
  const regions = `    r:
      initial: A
      states:
        A: { go: [{ to: B, on: go }] }
        B: { go: [{ to: A, on: back.home }, { to: C, on: back }] }
        C: {}
`;
  const face = 'messages: { in: { go: {}, back.home: {}, back.away: {} } }\n';

  it('are taken one by one, a name also by its beginning', () => {
    expect(names(charted(face, regions, '[{ send: c.go }, { hold: 1 s }, { send: back.home }, { send: go }, { send: back.away }]'), 'c.r')).toEqual([
      'A',
      'B',
      'C',
    ]);
  });

  it('that nobody waits for are dropped', () => {
    expect(names(charted(face, regions, '[{ send: back.home }, { hold: 1 s }, { send: go }]'), 'c.r')).toEqual(['A', 'B']);
  });

  it('carry a number', () => {
    const project = charted(
      'outputs: { y: { type: LREAL } }\nmessages: { in: { level: { type: LREAL } } }\n',
      '    r: { initial: A, states: { A: { go: [{ on: level, do: "y := y + payload;" }] } } }\n',
      '[{ send: level, value: 2.5 }, { send: level, value: 4 }]',
    );
    expect(column(runCase(project).trace, 'c.y').data.at(-1)).toBe(6.5);
  });

  it('come later with a delay, unless they are taken back', () => {
    const project = charted(
      'outputs: { y: { type: LREAL } }\n',
      `    r:
      initial: A
      states:
        A:
          entry: "SEND(tick, DELAY := T#1s, VALUE := 1.0); SEND(tick, DELAY := T#500ms, VALUE := 10.0, ID := soon); SEND(tick, DELAY := T#2s, VALUE := 100.0); CANCEL(soon);"
          go: [{ on: tick, do: "y := y + payload;" }]
`,
      '[]',
    );
    const { data, time } = column(runCase(project).trace, 'c.y');
    expect([0.9, 1, 1.9, 2].map((t) => data[time.indexOf(t)])).toEqual([0, 1, 1, 101]);
  });

  it('wait for the next hit when too many come, and too many end the run', () => {
    const project = charted(face, regions, `[${'{ send: go }, '.repeat(33)}]`);
    expect(runCase(project).result.error?.message).toMatch(/too many messages wait for c\.go/);
  });

  it('go from one component to another at once, and are noted in the trace', () => {
    const project = projectOf({
      'components/a.yaml':
        'component: A\nmessages: { out: { open: {} } }\nbehaviour:\n  kind: chart\n  period: 100 ms\n  regions: { r: { initial: W, states: { W: { go: [{ to: D, after: 1 s }] }, D: { entry: "SEND(open);" } } } }\n',
      'components/b.yaml':
        'component: B\nmessages: { in: { open_now: {} } }\nbehaviour:\n  kind: chart\n  period: 200 ms\n  regions: { r: { initial: Shut, states: { Shut: { go: [{ to: Open, on: open_now }] }, Open: {} } } }\n',
      'loops/l.yaml':
        'loop: l\ncomponents: { a: { use: A }, b: { use: B } }\nwires: [{ from: a.open, to: b.open_now }]\nsolver: { method: runge-kutta-4, step: 100 ms }\nstop: 2 s\n',
      'cases/c.yaml': 'case: c\nloop: l\n',
    });
    const { trace } = runCase(project);
    const { data, time } = column(trace, 'b.r');
    expect([0.8, 1].map((t) => data[time.indexOf(t)])).toEqual([1, 2]);
    expect([...trace.marks.time].filter((t) => t === 1)).toHaveLength(5);
  });

  it.each([
    ['a message nobody tells', face, '    r: { initial: A, states: { A: { go: [{ on: gone, do: ";" }] } } }\n', /receives no message "gone"/],
    ['a command without a name', face, '    r: { initial: A, states: { A: { entry: "RAISE(1);" } } }\n', /RAISE takes one name/],
    ['an unknown word', face, '    r: { initial: A, states: { A: { entry: "SEND(go, WHEN := T#1s);" } } }\n', /SEND has no "WHEN"/],
    ['a history without states', '', '    r: { initial: A, states: { A: { history: { H: { default: A } } } } }\n', /no states to remember/],
  ])('%s is told', (_, own, text, message) => {
    const project = checkProject(
      Object.entries({
        'project.yaml': 'project: p\n',
        'components/c.yaml': `component: C\n${own}behaviour:\n  kind: chart\n  period: 1 s\n  regions:\n${text}`,
      }).map(([path, content]) => ({ path, text: content })),
    );
    expect(project.faults.map((fault) => fault.message).join('\n')).toMatch(message);
  });
});

describe('history and final states', () => {
  const inner = `        Off: { go: [{ to: H, on: on }] }
        On:
          initial: Slow
          history: { H: { deep: true, default: Slow } }
          go: [{ to: Off, on: off }, { to: Done, on: done.state.On }]
          states:
            Slow: { go: [{ to: Fast, on: next }] }
            Fast: { go: [{ to: End, on: next }] }
            End: { final: true }
        Done: {}
`;
  const face = 'messages: { in: { on: {}, off: {}, next: {} } }\n';
  const regions = `    r:\n      initial: Off\n      states:\n${inner}`;

  it('a history brings back what was active', () => {
    const project = charted(
      face,
      regions,
      '[{ send: on }, { hold: 200 ms }, { send: next }, { hold: 200 ms }, { send: off }, { hold: 200 ms }, { send: on }]',
    );
    expect(names(project, 'c.r.On').filter(Boolean)).toEqual(['Slow', 'Fast', 'Fast']);
  });

  it('a final state tells that the state around it is done', () => {
    expect(names(charted(face, regions, '[{ send: on }, { hold: 200 ms }, { send: next }, { send: next }]'), 'c.r')).toEqual(['Off', 'On', 'Done']);
  });
});

describe('the work of a microstep', () => {
  const decisions = (project: ReturnType<typeof projectOf>): ReturnType<typeof decisionsOf> => decisionsOf(project.cases[0]!.experiment.plan);
  const stateOf = (project: ReturnType<typeof projectOf>, name: string): number =>
    project.cases[0]!.experiment.plan.regions.flatMap((region) => region.states).find((state) => state.name === name)?.mark ?? -1;

  it('enters a state once for all transitions of a region that lead to it', () => {
    const project = charted(
      'messages: { in: { go: {}, stop: {} } }\n',
      `    r:
      initial: A
      states:
        A: { go: [{ to: C, on: stop }, { to: B, on: go }] }
        B: { go: [{ to: C, on: stop }, { to: C, on: go }] }
        C: { go: [{ to: A, on: go }] }
`,
      '[{ send: go }, { hold: 200 ms }, { send: go }, { hold: 200 ms }, { send: go }, { hold: 200 ms }, { send: stop }]',
    );
    const entering = decisions(project).filter(({ yes }) =>
      yes.some((one) => one.k === 'mark' && one.entered && one.state === stateOf(project, 'C')),
    );
    expect(entering).toHaveLength(1);
    expect(names(project, 'c.r')).toEqual(['A', 'B', 'C', 'A', 'C']);
  });

  /** Decisions that look at the choices of both regions. */
  const conflicts = (project: ReturnType<typeof projectOf>, regions: readonly string[]): number => {
    const { slots } = project.cases[0]!.experiment.plan;
    const choices = regions.map((region) => slots.findIndex((slot) => slot.name === `${region} choice`));
    return decisions(project).filter(({ condition, yes }) => {
      const read = slotsRead(condition);
      return choices.every((choice) => read.has(choice)) && yes.every((one) => one.k === 'set' && choices.includes(one.slot));
    }).length;
  };
  const halves = `            Left: { initial: L1, states: { L1: { go: [{ to: Out, on: go }] } } }
            Right: { initial: R1, states: { R1: { go: [{ to: Other, on: go }] } } }
`;
  const face = 'messages: { in: { go: {}, turn: {} } }\n';

  it('drops one of two transitions that leave the same states where both can be chosen', () => {
    const regions = `    r:\n      initial: Both\n      states:\n        Both:\n          regions:\n${halves}        Out: {}\n        Other: {}\n`;
    const project = charted(face, regions, '[{ send: go }]');
    expect(conflicts(project, ['c.r.Both.Left', 'c.r.Both.Right'])).toBe(1);
    expect(names(project, 'c.r')).toEqual(['Both', 'Out']);
  });

  it('looks for no conflict between states that are never active together', () => {
    const regions = `    r:\n      initial: Left\n      states:\n${halves.replaceAll('            ', '        ')}        Out: { go: [{ to: Right, on: turn }] }\n        Other: {}\n`;
    const project = charted(face, regions, '[{ send: go }, { hold: 200 ms }, { send: turn }, { hold: 200 ms }, { send: go }]');
    expect(conflicts(project, ['c.r.Left', 'c.r.Right'])).toBe(0);
    expect(names(project, 'c.r')).toEqual(['Left', 'Out', 'Right', 'Other']);
  });
});
