import { expect, it } from 'vitest';
import { backToBack } from '@/core/build';
import type { BackToBack } from '@/core/evidence';
import { orderCodeRun, orderRun, performRun } from '@/core/project';
import { LibraryHost } from '@/server/code/libraryHost';
import { buildOf, libraryOf } from '../../support/code';
import { projectOf } from '../../support/project';

/** A furnace held by a proportional and integral law; the integral is a sum of many small parts. */
const documents = {
  'components/law.yaml': `component: Law
inputs: { reading: { type: LREAL, unit: Cel }, wanted: { type: LREAL, unit: Cel } }
outputs: { heat: { type: LREAL, unit: "%", min: 0, max: 100 }, warm: { type: BOOL } }
behaviour:
  kind: routine
  period: 100 ms
  body: |
    VAR sum : LREAL; END_VAR
    sum := LIMIT(-50.0, sum + 0.0013 * (wanted - reading), 50.0);
    heat := LIMIT(-20.0, 0.7 * (wanted - reading) + sum, 120.0);
    warm := reading > wanted - 1.0;
`,
  'components/furnace.yaml': `component: Furnace
inputs: { heat: { type: LREAL, unit: "%" } }
outputs: { reading: { type: LREAL, unit: Cel } }
behaviour: { kind: equations, states: { x: { start: 20, unit: Cel } }, derivatives: { x: "0.02 * heat - 0.01 * (x - 20.0)" }, outputs: { reading: x } }
`,
  'loops/l.yaml': `loop: l
components: { law: { use: Law }, furnace: { use: Furnace } }
inputs: { wanted: { to: law.wanted, start: 60 } }
wires: [{ from: law.heat, to: furnace.heat }, { from: furnace.reading, to: law.reading }]
solver: { method: runge-kutta-4, step: 100 ms }
stop: 10 min
`,
  'cases/c.yaml': 'case: only\nloop: l\nstimuli: { wanted: [{ step: 150, at: 60 s }, { step: 40, at: 5 min }] }\n',
};

async function against(change: (file: string, text: string) => string, floats: 32 | 64 = 64): Promise<BackToBack> {
  const project = projectOf(documents);
  expect(project.faults).toEqual([]);
  const [test] = project.cases;
  const built = buildOf(projectOf({ ...documents, 'project.yaml': `project: Test\ncontroller: { floats: ${floats} }` }), test!.loop);
  const library = await libraryOf(built, change);
  const host = new LibraryHost(library);
  const model = performRun(orderRun(project, test!));
  const code = performRun(orderCodeRun(project, test!, built, library), undefined, false, [host]);
  expect(code.result.error).toBeUndefined();
  host.close();
  return backToBack(test!.experiment, buildOf(project, test!.loop), model.trace, code.trace, new Map(), { absolute: 0, relative: 0 });
}

const given = /(v\[\d+\])=(s->out\.\w*heat);/;
function changed(text: string, what: RegExp, into: string): string {
  expect(text).toMatch(what);
  return text.replace(what, into);
}

it('finds nothing where nothing is planted', async () => {
  const found = await against((_, text) => text);
  expect(found).toEqual({ words: 'Model and code agree in every bit.', isExact: true, parted: [], tried: [] });
});

it('names floats of 32 bits', async () => {
  const found = await against((_, text) => text, 32);
  expect(found.cause).toBe('floats of 32 bits in place of 64');
  expect(found.words).toMatch(/^Model and code part at .* The model does the same with floats of 32 bits in place of 64\.$/);
});

it('names one sum that is kept in 32 bits', async () => {
  const found = await against((file, text) =>
    file === 'plan.c' ? changed(text, /(s->[\w.]+) = (ovr_min\(ovr_max\(-50.*|ovr_m\w+\(.*50\.0.*);/, '$1 = (double)(float)($2);') : text,
  );
  expect(found.cause).toBe('law.sum kept in 32 bits in place of 64');
});

it('names an output that is one cycle late', async () => {
  const late = 'static double before=0.0;$1=before;before=$2;';
  const found = await against((file, text) => (file === 'host.c' ? changed(text, given, `{${late}}`) : text));
  expect(found.cause).toBe('law.heat one cycle late');
  expect(found.parted[0]).toMatchObject({ signal: 'law.heat', at: 0, code: 0 });
});

it('names the rounding of a scaled output', async () => {
  const round = (expression: string): string => `$1=round($2${expression}`;
  const bits = await against((file, text) => (file === 'host.c' ? changed(text, given, round('/(100.0/4095.0))*(100.0/4095.0);')) : text));
  expect(bits.cause).toBe('law.heat rounded to 12 bits of its range');
  const tenth = await against((file, text) => (file === 'host.c' ? changed(text, given, round('/0.1)*0.1;')) : text));
  expect(tenth.cause).toBe('law.heat rounded to 0.1 %');
});

it('names an output that is limited to its range', async () => {
  const found = await against((file, text) => (file === 'host.c' ? changed(text, given, '$1=fmin(100.0,fmax(0.0,$2));') : text));
  expect(found.cause).toBe('law.heat limited to 0 … 100');
});

it('says what was tried where it is none of these', async () => {
  const found = await against((file, text) => (file === 'host.c' ? changed(text, given, '$1=1.01*$2;') : text));
  expect(found.cause).toBeUndefined();
  expect(found.tried.length).toBeGreaterThan(3);
  expect(found.words).toMatch(/None of \d+ likely causes explains it\.$/);
});

it('holds each signal to its tolerance', async () => {
  const project = projectOf(documents);
  const [test] = project.cases;
  const built = buildOf(project, test!.loop);
  const model = performRun(orderRun(project, test!)).trace;
  const code = {
    ...model,
    columns: model.columns.map((one) => (one.name === 'law.heat' ? { ...one, data: one.data.map((value) => value + 0.02) } : one)),
  };
  const none = { absolute: 0, relative: 0 };
  expect(backToBack(test!.experiment, built, model, code, new Map([['law.heat', 0.03]]), none).words).toBe(
    'Model and code agree within their tolerances.',
  );
  expect(backToBack(test!.experiment, built, model, code, new Map([['law.heat', 0.01]]), none).parted).toHaveLength(1);
});
