import { execFileSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { unzipSync } from 'fflate';
import { beforeAll, describe, expect, it } from 'vitest';
import { cosimulationUnit, type UnitChoice, type UnitVersion } from '@/core/cosimulation';
import { Faults } from '@/core/fault';
import { type CheckedProject, orderRun, performRun } from '@/core/project';
import type { Trace } from '@/core/trace';
import { elementsOf, parseXml, tag } from '@/core/xml';
import { unitArchive } from '@/server/builds';
import { projectOf } from '../../support/project';

/**
 * Sources: Functional Mock-up Interface 2.0.4 and 3.0.2 (fmi-standard.org), from memory. The importers in this folder are C written from the text of the standard: they call a unit in the order its state
 * machine allows and want every function that has to be there. The rules of the description below are those of chapters 2.2 (2.0.4) and 2.4 (3.0.2).
 */
const project = (): CheckedProject =>
  projectOf({
    'components/law.yaml': `component: Law
inputs: { reading: { type: LREAL, unit: Cel }, wanted: { type: LREAL, unit: Cel, min: 0, max: 300 }, on: { type: BOOL }, mode: { type: INT, min: 0, max: 3 } }
outputs: { heat: { type: LREAL, unit: "%", min: 0, max: 100 }, warm: { type: BOOL }, count: { type: INT } }
parameters: { gain: { value: 0.7, min: 0, max: 5 } }
behaviour:
  kind: routine
  period: 250 ms
  body: |
    VAR sum : LREAL; END_VAR
    IF on THEN sum := LIMIT(-50.0, sum + 0.0013 * (wanted - reading), 50.0); ELSE sum := 0.0; END_IF;
    heat := LIMIT(0.0, gain * (wanted - reading) + sum + SIN(INT_TO_LREAL(mode)), 100.0);
    warm := reading > wanted - 1.0; IF warm THEN count := count + mode; END_IF;
`,
    'components/furnace.yaml': `component: Furnace
inputs: { heat: { type: LREAL, unit: "%" }, draught: { type: LREAL } }
outputs: { reading: { type: LREAL, unit: Cel } }
parameters: { loss: { value: 0.01 } }
behaviour: { kind: equations, states: { x: { start: 20, unit: Cel }, y: { start: "20.0 + loss", unit: Cel } }, derivatives: { x: "0.02 * heat - loss * (x - 20.0) * (1.0 + draught)", y: "0.3 * (x - y)" }, outputs: { reading: y } }
`,
    'loops/l.yaml': `loop: furnace
components: { law: { use: Law }, furnace: { use: Furnace } }
inputs: { wanted: { to: law.wanted, start: 60 }, on: { to: law.on, start: TRUE }, mode: { to: law.mode, start: 1 }, draught: { to: furnace.draught } }
wires: [{ from: law.heat, to: furnace.heat }, { from: furnace.reading, to: law.reading }]
unused: [law.warm, law.count]
solver: { method: runge-kutta-4, step: 50 ms }
stop: 60 s
`,
    'cases/c.yaml':
      'case: only\nloop: furnace\nparameters: { law.gain: 1.3, furnace.loss: 0.02 }\nstimuli: { wanted: [{ step: 150, at: 5 s }, { step: 40, at: 30 s }], on: [{ step: FALSE, at: 20 s }, { step: TRUE, at: 25 s }], mode: [{ step: 3, at: 12.5 s }], draught: [{ step: 0.7, at: 40.5 s }] }\n',
  });

const folder = mkdtempSync(path.join(tmpdir(), 'ovrand-importer-'));
beforeAll(() => {
  for (const version of [2, 3])
    execFileSync('cc', [
      '-std=gnu99',
      '-Wall',
      '-Wextra',
      '-Werror',
      '-O1',
      path.join('tests/outside/fmi', `importer${version}.c`),
      '-o',
      path.join(folder, `importer${version}`),
      '-ldl',
    ]);
});

interface Written {
  readonly files: Readonly<Record<string, Uint8Array>>;
  readonly description: string;
  readonly library: string;
  readonly token: string;
  readonly references: ReadonlyMap<string, number>;
}

async function written(checked: CheckedProject, version: UnitVersion, choice: Partial<UnitChoice> = {}): Promise<Written> {
  const unit = cosimulationUnit(checked.project, checked.project.loops.get('furnace')!, { stepNs: 500e6, ...choice });
  const files = unzipSync(await unitArchive(unit, version));
  const description = new TextDecoder().decode(files['modelDescription.xml']);
  const binary = Object.keys(files).find((name) => name.endsWith('.so'))!;
  const library = path.join(mkdtempSync(path.join(folder, 'unit-')), 'unit.so');
  writeFileSync(library, files[binary]!);
  const token = /(?:guid|instantiationToken)="([^"]*)"/.exec(description)![1]!;
  return { files, description, library, token, references: new Map(unit.variables.map(({ name, reference }) => [name, reference])) };
}

const imported = (version: UnitVersion, { library, token }: Written, steps: number, step: number, words: readonly string[]): number[][] =>
  execFileSync(path.join(folder, `importer${version}`), [library, token, String(steps), String(step), ...words], {
    encoding: 'utf8',
    stdio: ['ignore', 'pipe', 'pipe'],
  })
    .trim()
    .split('\n')
    .map((line) => line.trim().split(' ').map(Number));

/** Value just before an instant: of rows at one instant the first, of hits the last one before. */
function before(trace: Trace, name: string, t: number): number {
  const column = trace.columns.find((one) => one.name === name)!;
  const time = trace.bases[column.base]!;
  const isHit = column.base > 0;
  let row = 0;
  while (row + 1 < time.length && (isHit ? time[row + 1]! < t - 1e-12 : time[row + 1]! <= t + 1e-12 && time[row]! < t - 1e-12)) row += 1;
  return column.data[row]!;
}

describe.each([2, 3] as const)('a co-simulation unit after version %s of the standard', (version) => {
  it('gives an importer what the loop gives here, also after a state was kept and come back to', async () => {
    const checked = project();
    expect(checked.faults).toEqual([]);
    const unit = await written(checked, version);
    const at = (name: string): number => unit.references.get(name)!;
    const [steps, step] = [120, 0.5];
    const outputs = [
      ['r', 'furnace.reading'],
      ['r', 'law.heat'],
      ['b', 'law.warm'],
      ['i', 'law.count'],
    ] as const;
    const words = [
      `cr${at('law.gain')}=1.3`,
      `cr${at('furnace.loss')}=0.02`,
      `k10r${at('wanted')}=150`,
      `k60r${at('wanted')}=40`,
      `k40b${at('on')}=0`,
      `k50b${at('on')}=1`,
      `k25i${at('mode')}=3`,
      `k81r${at('draught')}=0.7`,
      's33',
      ...outputs.map(([kind, name]) => `g${kind}${at(name)}`),
    ];
    const rows = imported(version, unit, steps, step, words);
    const { trace } = performRun(orderRun(checked, checked.cases[0]!));
    expect(rows).toHaveLength(steps + 1);
    for (let k = 1; k <= steps; k += 1)
      outputs.forEach(([, name], column) => {
        expect(Math.abs(rows[k]![column]! - before(trace, name, k * step)), `${name} at ${k * step}`).toBeLessThanOrEqual(1e-12);
      });
    expect(new Set(rows.map((row) => row[3])).size).toBeGreaterThan(10);
  });

  it('goes at any rate: steps of other lengths give the same at the same instants', async () => {
    const unit = await written(project(), version);
    const reading = [`gr${unit.references.get('furnace.reading')}`, `gr${unit.references.get('law.heat')}`];
    const coarse = imported(version, unit, 30, 2, reading);
    const fine = imported(version, unit, 300, 0.2, reading);
    // The hits at an instant wait for the next step, so at their instants the two agree as well.
    for (const [k, row] of coarse.entries()) expect(row).toEqual(fine[10 * k]);
  });

  it('of a plant, or a controller alone, shows what is asked for', async () => {
    const plant = await written(project(), version, { components: ['furnace'], inputs: ['heat'], outputs: ['reading'], parameters: [] });
    expect([...plant.references.keys()]).toEqual(['heat', 'furnace.reading']);
    const rows = imported(version, plant, 4, 1, [`k0r1=50`, 'gr2']);
    expect(rows[4]![0]).toBeGreaterThan(rows[1]![0]!);
    const law = await written(project(), version, { components: ['law'] });
    expect([...law.references.keys()]).toContain('reading');
    expect(() => imported(version, { ...law, token: 'another' }, 1, 1, [])).toThrow(/the description is of another unit/);
    expect(() => imported(version, law, 1, 1, [`ki99=1`, 'gr77'])).toThrow(/get r 77/);
  });

  it('has a description by the rules of the standard', async () => {
    const unit = await written(project(), version);
    expect(rulesBroken(unit.description, version)).toEqual([]);
    expect(Object.keys(unit.files)).toEqual(
      expect.arrayContaining([
        'modelDescription.xml',
        'sources/unit.c',
        version === 2 ? 'binaries/linux64/furnace.so' : 'binaries/x86_64-linux/furnace.so',
      ]),
    );
    if (version === 3) expect(new TextDecoder().decode(unit.files['sources/buildDescription.xml'])).toContain('<SourceFile name="unit.c"/>');
    // The rules notice what is wrong.
    for (const [from, to] of [
      ['causality="output"', 'causality="parameter"'],
      [/valueReference="4"/g, 'valueReference="1"'],
      ['name="law.heat"', 'name="law.warm"'],
      [/unit="Cel"/, 'unit="K"'],
      ['initial="calculated"', 'initial="exact"'],
      [/<(Outputs|Output) ?/, '<Wrong '],
    ] as const)
      expect(rulesBroken(unit.description.replace(from, to), version), String(from)).not.toEqual([]);
  });
});

it('what cannot become a unit is told', async () => {
  const checked = project();
  const loop = checked.project.loops.get('furnace')!;
  const choose = (choice: Partial<UnitChoice>) => () => cosimulationUnit(checked.project, loop, { stepNs: 1e9, ...choice });
  expect(choose({ outputs: ['reeding'] })).toThrow('there is no output "reeding"; did you mean "furnace.reading"?');
  expect(choose({ components: ['furnce'] })).toThrow('the loop furnace has no component "furnce"; did you mean "furnace"?');
  const talking = projectOf({
    'components/a.yaml': 'component: A\nmessages: { out: { ready: null } }\nbehaviour: { kind: routine, period: 1 s, body: "SEND(ready);" }\n',
    'components/b.yaml':
      'component: B\noutputs: { y: { type: BOOL } }\nmessages: { in: { ready: null } }\nbehaviour: { kind: routine, period: 1 s, body: "y := ready;" }\n',
    'loops/l.yaml':
      'loop: l\ncomponents: { a: { use: A }, b: { use: B } }\nwires: [{ from: a.ready, to: b.ready }]\nunused: [b.y]\nsolver: { method: euler, step: 1 s }\nstop: 9 s\n',
  }).project;
  const ofTalk = (components?: string[]) => () =>
    cosimulationUnit(talking, talking.loops.get('l')!, { stepNs: 1e9, ...(components ? { components } : {}) });
  expect(ofTalk(['a'])).toThrow('the message a.ready goes between these components and the rest of the loop');
  expect(ofTalk(['b'])).toThrow('the message b.ready goes between');
  expect(ofTalk()().variables.map((one) => one.name)).toEqual(['b.y']);
  const variable = { ...loop, raw: { ...loop.raw, solver: { method: 'rosenbrock-43' as const, step: '1 s' } } };
  expect(() => cosimulationUnit(checked.project, variable, { stepNs: 1e9 })).toThrow(
    'its solver rosenbrock-43 does not go into a unit; choose one of euler, heun, runge-kutta-4, dormand-prince-54, bogacki-shampine-32',
  );
});

/** What in a description breaks the rules, in words. */
function rulesBroken(xml: string, version: UnitVersion): string[] {
  const faults = new Faults();
  const root = parseXml('modelDescription.xml', xml, faults);
  if (!root) return faults.all().map((fault) => fault.message);
  const broken: string[] = [];
  const rule = (holds: boolean, words: string): void => void (holds || broken.push(words));
  const get = (element: Element, name: string): string | undefined => element.getAttribute(name) ?? undefined;
  type Element = NonNullable<typeof root>;
  rule(tag(root) === 'fmiModelDescription', 'root');
  rule(get(root, 'fmiVersion') === `${version}.0`, 'fmiVersion');
  for (const name of ['modelName', version === 2 ? 'guid' : 'instantiationToken']) rule(Boolean(get(root, name)), name);
  const children = elementsOf(root);
  const order =
    version === 2
      ? [
          'ModelExchange',
          'CoSimulation',
          'UnitDefinitions',
          'TypeDefinitions',
          'LogCategories',
          'DefaultExperiment',
          'VendorAnnotations',
          'ModelVariables',
          'ModelStructure',
        ]
      : [
          'ModelExchange',
          'CoSimulation',
          'ScheduledExecution',
          'UnitDefinitions',
          'TypeDefinitions',
          'LogCategories',
          'DefaultExperiment',
          'ModelVariables',
          'ModelStructure',
          'Annotations',
        ];
  const places = children.map((child) => order.indexOf(tag(child)));
  rule(
    places.every((place, index) => place >= 0 && (index === 0 || place > places[index - 1]!)),
    'order of elements',
  );
  const child = (name: string): Element | undefined => children.find((one) => tag(one) === name);
  rule(/^[A-Za-z_]\w*$/.test(get(child('CoSimulation')!, 'modelIdentifier') ?? ''), 'modelIdentifier');
  const units = new Set(elementsOf(child('UnitDefinitions') ?? root).map((one) => get(one, 'name')));
  const variables = elementsOf(child('ModelVariables')!);
  const typed = (one: Element): Element => (version === 2 ? elementsOf(one)[0]! : one);
  const names = variables.map((one) => get(one, 'name'));
  rule(new Set(names).size === names.length, 'names are unique');
  const references = variables.map((one) => `${version === 2 ? tag(typed(one)) : ''}${get(one, 'valueReference')}`);
  rule(new Set(references).size === references.length, 'references are unique');
  const allowed = new Set([
    'parameter fixed exact',
    'parameter tunable exact',
    'input discrete ',
    'input continuous ',
    'output discrete calculated',
    'output continuous calculated',
    'independent continuous ',
  ]);
  for (const one of variables) {
    const [causality, variability, initial = ''] = [get(one, 'causality') ?? 'local', get(one, 'variability') ?? 'continuous', get(one, 'initial')];
    const name = get(one, 'name');
    rule(allowed.has(`${causality} ${variability} ${initial}`), `${name}: ${causality} ${variability} ${initial}`);
    const hasStart = get(typed(one), 'start') !== undefined;
    rule(hasStart === (causality === 'parameter' || causality === 'input'), `${name}: start`);
    const kind = tag(typed(one));
    rule(variability !== 'continuous' || kind === 'Real' || kind.startsWith('Float'), `${name}: continuous ${kind}`);
    const unit = get(typed(one), 'unit');
    rule(unit === undefined || units.has(unit), `${name}: unit ${unit}`);
  }
  const structure = child('ModelStructure')!;
  const outputs = variables.flatMap((one, index) =>
    get(one, 'causality') === 'output' ? [version === 2 ? String(index + 1) : get(one, 'valueReference')!] : [],
  );
  const listed = (name: string): (string | undefined)[] =>
    version === 2
      ? elementsOf(elementsOf(structure).find((one) => tag(one) === `${name}s`) ?? structure).map((one) => get(one, 'index'))
      : elementsOf(structure)
          .filter((one) => tag(one) === name)
          .map((one) => get(one, 'valueReference'));
  rule(JSON.stringify(listed('Output')) === JSON.stringify(outputs), 'outputs are listed');
  rule(JSON.stringify(listed('InitialUnknown')) === JSON.stringify(outputs), 'initial unknowns are listed');
  return broken;
}
