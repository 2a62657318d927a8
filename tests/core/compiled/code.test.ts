import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { emitCUnit } from '@/core/emit/c';
import { Faults } from '@/core/fault';
import { aloneLoop, assembleLoop } from '@/core/loop';
import { type CheckedProject, checkProject } from '@/core/project';
import { compileC } from '@/server/compiler';
import { readFolder } from '@/server/folder';
import { differences, threeWays } from '../../support/code';
import { projectOf } from '../../support/project';
import { randomProject } from './randomProject';

const plans = process.env.OVRAND_LONG ? 300 : 25;

/** @returns the sort of end the run came to */
async function expectOneRun(project: CheckedProject, name?: string): Promise<'error' | 'end'> {
  expect(project.faults.map((fault) => fault.message)).toEqual([]);
  const { model, code, hosted } = await threeWays(project, name);
  for (const other of [code, hosted]) {
    if (model.result.error) {
      expect(other.result.error?.at).toBe(model.result.error.at);
      continue;
    }
    expect(other.result.error).toBeUndefined();
    expect(differences(model.trace, other.trace)).toEqual([]);
    expect(other.result.traceHash).toBe(model.result.traceHash);
    expect(other.result.verdict).toBe(model.result.verdict);
  }
  expect(code.result.stage).toBe('code');
  expect(code.result.fingerprint).not.toBe(model.result.fingerprint);
  return model.result.error ? 'error' : 'end';
}

describe('a run of code', () => {
  it.each([
    'demo/tarn-lock',
    'demo/autoclave',
    'demo/quay-crane',
    'tests/projects/coldstore',
    'tests/projects/dryer',
    'tests/projects/gantry',
    'tests/projects/dosing',
  ])(
    'gives every bit of the model in the cases of %s',
    async (folder) => {
      const project = checkProject((await readFolder(folder)).files);
      for (const test of project.cases.slice(0, 4)) await expectOneRun(project, test.experiment.case);
    },
    600_000,
  );

  it('gives them for messages between a controller and the rest, its own messages, history, random numbers and a held component', async () => {
    const project = projectOf({
      'project.yaml': 'project: Test\ncontroller: { components: [C, D] }',
      'components/c.yaml': `component: C
inputs: { level: { type: LREAL } }
outputs: { y: { type: LREAL }, z: { type: LREAL } }
messages: { in: { full: null }, out: { open: null, shut: null } }
behaviour:
  kind: chart
  period: 100 ms
  regions:
    r:
      initial: On
      states:
        On:
          initial: Slow
          history: { H: { deep: true, default: Slow } }
          entry: "SEND(tick, DELAY := T#700ms, VALUE := DRAW_UNIFORM(1.0, 2.0), ID := t); SEND(open, VALUE := level); SEND(shut, VALUE := y);"
          go: [{ to: Off, on: tick, do: "y := y + payload;" }, { to: Off, on: full, do: "z := 0.01 * payload;" }]
          states:
            Slow: { stay: "z := z + DRAW_NORMAL(0.0, 0.5);", go: [{ to: Fast, when: z > 1.0, do: "RAISE(seen, VALUE := z);" }] }
            Fast: { entry: "CANCEL(t);", stay: "z := z + 1.0;", go: [{ to: Slow, on: seen, do: "y := y - payload; z := 0.0;" }, { to: Slow, when: z > 4.0, do: "z := -2.0;" }] }
        Off: { go: [{ to: H, after: 300 ms }] }
`,
      'components/d.yaml': `component: D
inputs: { y: { type: LREAL } }
outputs: { twice: { type: LREAL } }
behaviour: { kind: routine, period: 50 ms, body: "VAR n : DINT; END_VAR n := n + 1; twice := 2.0 * y + DRAW_UNIFORM(0.0, 0.001) + DINT_TO_LREAL(n);" }
`,
      'components/valve.yaml': `component: Valve
outputs: { at: { type: LREAL }, busy: { type: BOOL } }
messages: { in: { open: null, shut: null }, out: { ended: null } }
behaviour:
  kind: routine
  period: 20 ms
  body: "IF open THEN at := at + payload; END_IF; IF shut THEN at := at - 0.5 * payload; SEND(ended, VALUE := at); END_IF; busy := at > 0.3;"
`,
      'components/tank.yaml': `component: Tank
inputs: { at: { type: LREAL } }
outputs: { level: { type: LREAL } }
behaviour: { kind: equations, states: { x: { start: 1 } }, derivatives: { x: "0.1 * at - 0.05 * x" }, outputs: { level: x } }
`,
      'loops/l.yaml': `loop: l
components: { c: { use: C }, d: { use: D, enabled: v.busy }, v: { use: Valve }, t: { use: Tank } }
wires:
  - { from: c.open, to: v.open }
  - { from: c.shut, to: v.shut }
  - { from: v.ended, to: c.full }
  - { from: v.at, to: t.at }
  - { from: t.level, to: c.level }
  - { from: c.y, to: d.y }
solver: { method: runge-kutta-4, step: 10 ms }
stop: 100 s
`,
      'cases/c.yaml': 'case: only\nloop: l\nseed: 7\nscript: [{ hold: 20 s }, { send: c.full, value: 3 }]\n',
    });
    expect(await expectOneRun(project)).toBe('end');
  });

  it(`gives them for ${plans} random routines, and ends where the model ends`, async () => {
    const ends = { error: 0, end: 0 };
    for (let seed = 0; seed < plans; seed += 1) ends[await expectOneRun(projectOf(randomProject(seed)))] += 1;
    expect(ends.end).toBeGreaterThan(plans / 2);
  }, 600_000);

  it('gives with 32 bits what the model of 32 bits gives', async () => {
    for (let seed = 0; seed < 6; seed += 1) {
      const project = projectOf({ ...randomProject(seed), 'project.yaml': 'project: Test\ncontroller: { floats: 32 }' });
      const { code, hosted } = await threeWays(project);
      if (hosted.result.error) expect(code.result.error?.at).toBe(hosted.result.error.at);
      else expect(differences(hosted.trace, code.trace)).toEqual([]);
    }
  }, 600_000);
});

it('the small program of docs/emitted-c.md compiles and runs', async () => {
  const project = projectOf({
    'components/t.yaml':
      'component: Thermostat\ninputs: { temperature: { type: LREAL, unit: Cel } }\noutputs: { heat: { type: BOOL } }\nparameters: { wanted: { value: 20, unit: Cel } }\nbehaviour: { kind: routine, period: 100 ms, body: "IF temperature < wanted - 0.5 THEN heat := TRUE; ELSIF temperature > wanted + 0.5 THEN heat := FALSE; END_IF;" }\n',
  }).project;
  const { plan } = assembleLoop(project, aloneLoop(project.components.get('thermostat')!), new Faults());
  const unit = emitCUnit(plan, 'Thermostat');
  const main = /#include "Thermostat.h"[\s\S]*?(?=```)/.exec(readFileSync('docs/emitted-c.md', 'utf8'))![0];
  const checked = main.replace('  return 0;\n', '  return s.out.heat ? 2 : 0;\n');
  expect(checked).not.toBe(main);
  // It includes its source, as `compileC` has but one.
  const program = await compileC({
    files: { 'Thermostat.h': unit.header, 'Thermostat.c': unit.source, 'main.c': `#include "Thermostat.c"\n${checked}` },
    calls: unit.calls,
  });
  execFileSync(program.file);
  await program.remove();
});
