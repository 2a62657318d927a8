import { describe, expect, it } from 'vitest';
import {
  type AtStage,
  acrossStages,
  causeOfAge,
  changedSinceRuns,
  type Finding,
  type RequirementFacts,
  reasonWords,
  rollUp,
  withOutOfDate,
} from '@/core/evidence';
import { readCsvTrace, writeCsvTrace, writeJUnit, writeLedgerCsv } from '@/core/formats';
import { checkProject, orderRun, performRun, todayOf } from '@/core/project';
import { judgeCsv } from '../outside/monitor/harness';
import { demoFiles, projectOf, runCase } from '../support/project';

const facts = (criteria: string[], extra: Partial<RequirementFacts> = {}): RequirementFacts => ({
  id: 'R',
  criteria: criteria.map((name) => ({ name, accepted: true, watched: true })),
  ...extra,
});
describe('a requirement that has to be shown at several stages', () => {
  const at = (stage: 'model' | 'code', verdict: Finding['verdict'] | undefined): AtStage => {
    const found =
      verdict === undefined
        ? []
        : [
            finding('a', verdict, {
              stage,
              worst: {
                from: 0,
                until: 1,
                at: 1,
                outcome: 'met',
                margin: { value: stage === 'code' ? 1 : 2, unit: 's', measure: stage === 'code' ? 1 : 2 },
              },
            }),
          ];
    return { stage, result: rollUp([facts(['a'])], found, 1)[0]! };
  };

  it.each([
    ['pass', 'pass', 'pass', '', undefined],
    ['pass', 'fail', 'fail', 'broken at 1 s in "c"', 'code'],
    ['fail', 'pass', 'fail', 'broken at 1 s in "c"', 'model'],
    ['fail', 'fail', 'fail', 'broken at 1 s in "c"', undefined],
    ['pass', undefined, 'lacks evidence', 'not run', 'code'],
    ['none', 'none', 'lacks evidence', 'untriggered', undefined],
    ['none', 'fail', 'fail', 'broken at 1 s in "c"', 'code'],
    ['inconclusive', 'pass', 'lacks evidence', 'inconclusive', 'model'],
  ] as const)('model %s, code %s: %s', (model, code, state, reason, stage) => {
    const found = acrossStages([at('model', model), at('code', code)]);
    expect([found.state, found.reason, found.at]).toEqual([state, reason, stage]);
    expect(reasonWords(found)).toBe(stage && reason ? `${reason}, on ${stage === 'model' ? 'the model' : 'code'}` : reason);
  });

  it('shows the least margin of all, and is what it is at a single stage', () => {
    expect(acrossStages([at('model', 'pass'), at('code', 'pass')]).criteria[0]?.margin?.value).toBe(1);
    expect(acrossStages([at('model', 'pass')])).toEqual(at('model', 'pass').result);
  });
});

const finding = (criterion: string, verdict: Finding['verdict'], extra: Partial<Finding> = {}): Finding => ({
  requirement: 'R',
  criterion,
  run: 1,
  case: 'c',
  stage: 'model',
  verdict,
  obligations: verdict === 'none' ? 0 : 1,
  ...extra,
});
const state = (requirement: RequirementFacts, findings: Finding[], cases = 1) => {
  const [result] = rollUp([requirement], findings, cases);
  return [result?.state, result?.reason];
};

describe('roll-up', () => {
  it.each([
    ['all pass', facts(['a', 'b']), [finding('a', 'pass'), finding('b', 'pass')], 'pass', ''],
    ['untriggered is not passed', facts(['a']), [finding('a', 'none')], 'lacks evidence', 'untriggered'],
    ['one criterion untriggered', facts(['a', 'b']), [finding('a', 'pass'), finding('b', 'none')], 'lacks evidence', 'untriggered'],
    ['a fail beats passes', facts(['a', 'b']), [finding('a', 'pass'), finding('b', 'fail')], 'fail', 'broken'],
    ['a pass in one run is enough', facts(['a']), [finding('a', 'none'), finding('a', 'inconclusive'), finding('a', 'pass')], 'pass', ''],
    ['only inconclusive', facts(['a']), [finding('a', 'inconclusive')], 'lacks evidence', 'inconclusive'],
    ['no criterion', facts([]), [], 'lacks evidence', 'not read yet'],
    ['verified otherwise', facts([], { verifyBy: 'inspection' }), [], 'lacks evidence', 'not tested: verified by inspection'],
    [
      'a run that does not count gives no pass',
      facts(['a']),
      [finding('a', 'pass', { discounted: 'run "c" ended in an error' })],
      'lacks evidence',
      'run "c" ended in an error',
    ],
    ['but its breaks count', facts(['a']), [finding('a', 'fail', { discounted: 'x' })], 'fail', 'broken'],
  ] as const)('%s', (_, requirement, findings, wanted, reason) => expect(state(requirement, [...findings])).toEqual([wanted, reason]));

  it('a proposed reading never counts', () => {
    const proposed: RequirementFacts = { id: 'R', criteria: [{ name: 'a', accepted: false, watched: false }] };
    expect(state(proposed, [])).toEqual(['lacks evidence', 'reading not confirmed']);
  });
  it('says when there is no case', () => expect(state(facts(['a']), [], 0)).toEqual(['lacks evidence', 'no case']));
});

describe('files', () => {
  it('a trace written as CSV reads back to the same bits and judges the same', async () => {
    const project = checkProject(await demoFiles());
    const test = project.cases[4]!;
    const { result, trace } = performRun(orderRun(project, test));
    const csv = writeCsvTrace(trace);
    const read = readCsvTrace(csv);
    if ('problem' in read) throw new Error(read.problem);
    // Bytes are held against each other as a whole; one by one they take half a minute.
    const bits = (data: Float64Array | undefined): Buffer => Buffer.from(data?.buffer ?? new ArrayBuffer(), data?.byteOffset, data?.byteLength);
    expect(bits(read.trace.bases[0]).equals(bits(trace.bases[0]))).toBe(true);
    for (const column of trace.columns.filter((one) => one.base === 0)) {
      const same = read.trace.columns.find((one) => one.name === column.name);
      expect(same, column.name).toBeDefined();
      expect(bits(same?.data).equals(bits(column.data)), column.name).toBe(true);
    }
    const rate = result.results.find((one) => one.requirement === 'TL-021')!;
    const again = judgeCsv(csv, 'always chamber.rate <= 14 mm/s');
    expect(again.obligations[0]?.margin?.value).toBe(rate.obligations[0]?.margin?.value);
  });

  it('writes JUnit XML with escaped text and right counts', () => {
    const [result] = rollUp([facts(['a'])], [finding('a', 'fail')], 1);
    const xml = writeJUnit('P & Q', [{ section: '1 <x>', text: 'say "no"', result: result! }]);
    expect(xml).toContain('tests="1" failures="1" errors="0" skipped="0"');
    expect(xml).toContain('name="P &amp; Q"');
    expect(xml).toContain('R say &quot;no&quot;');
  });

  it('disarms formulas in the ledger CSV and quotes commas', () => {
    const [result] = rollUp([facts(['a'])], [finding('a', 'pass')], 1);
    const csv = writeLedgerCsv([{ section: '=cmd', text: 'a, b', result: result! }]);
    expect(csv).toContain('\'=cmd,R,"a, b",pass');
  });
});

describe('sentences on recorded traces', () => {
  const csv = 'time[s],level[m],pump,mode[1]{hold}\n0,0,FALSE,1\n2,4,FALSE,1\n2,4,TRUE,2\n4,0,TRUE,2\n';
  it.each([
    ['always level <= 5 m', 'pass', 1],
    ['always level <= 300 cm', 'fail', -1],
    ['always level in [0 m, 4 m]', 'pass', 0],
    ['when pump rises, within 1 s level < 3 m', 'pass', 0.5],
    ['when level crosses 3 m upward, within 1 s pump', 'pass', 0.5],
    ['while mode = 2, pump', 'pass', 0],
    ['when pump rises, for 1.5 s level >= 1 m', 'pass', 0],
    ['when pump falls, level > 0 m', 'none', undefined],
    ['when pump rises, for 3 s pump', 'inconclusive', -1],
    ['always level = 2 ± 2 m', 'pass', 0],
  ] as const)('%s: %s', (sentence, verdict, margin) => {
    const judged = judgeCsv(csv, sentence);
    expect(judged.verdict).toBe(verdict);
    const worst = judged.worst === undefined ? undefined : judged.obligations[judged.worst]?.margin?.value;
    if (margin === undefined) expect(worst).toBeUndefined();
    else expect(worst).toBeCloseTo(margin, 12);
  });

  it.each([
    ['always', /value is missing/],
    ['always level <= 5 kg', /do not measure the same/],
    ['always level <= 5 blurb', /not a unit/],
    ['when pump, level > 0', /event is not complete/],
    ['when pump rises within 2 s level > 0', /"," is missing/],
    ['when pump rises, within 2 level > 0', /not a unit|time is missing/],
    ['always lvel > 0', /no "lvel"/],
    ['maybe level > 0', /cannot begin/],
  ])('tells what is wrong with "%s"', (sentence, message) => expect(() => judgeCsv(csv, sentence)).toThrow(message));
});

describe('what is out of date', () => {
  const tank = (changes: Readonly<Record<string, (text: string) => string>> = {}) =>
    projectOf(
      Object.fromEntries(
        Object.entries({
          'components/c.yaml':
            'component: C\nparameters: { rate: { value: 1 } }\noutputs: { y: { type: LREAL } }\nbehaviour: { kind: equations, states: { x: { start: 0 } }, derivatives: { x: rate }, outputs: { y: x } }\n',
          'loops/l.yaml': 'loop: l\ncomponents: { c: { use: C } }\nsolver: { method: heun, step: 10 ms }\nstop: 1 s\n',
          'cases/c.yaml': 'case: only\nloop: l\n',
          'requirements/r.yaml':
            'section: S\nrequirements:\n  - requirement: R\n    text: It stays low.\n    criteria: [{ criterion: low, sentence: always c.y <= 2, accepted: { by: A, on: "2026-01-01" } }]\n',
        }).map(([path, text]) => [path, changes[path]?.(text) ?? text]),
      ),
    );
  const judged = todayOf(tank());
  const run = { caseName: 'only', stage: 'model' as const, fingerprint: runCase(tank()).result.fingerprint };
  const recorded = judged.evidence(run.fingerprint, 'R', 'low');
  const low = { requirement: 'R', criterion: 'low' };

  it.each([
    ['nothing', {}, true, true],
    ['a comment', { 'components/c.yaml': (text: string) => `# About the tank\n${text}` }, true, true],
    ['what the case is about', { 'cases/c.yaml': (text: string) => `${text}about: Filling\n` }, true, true],
    ['the model', { 'components/c.yaml': (text: string) => text.replace('value: 1', 'value: 1.5') }, false, false],
    ['the loop', { 'loops/l.yaml': (text: string) => text.replace('10 ms', '20 ms') }, false, false],
    ['the case', { 'cases/c.yaml': (text: string) => `${text}parameters: { c.rate: 0.5 }\n` }, false, false],
    ['the criterion', { 'requirements/r.yaml': (text: string) => text.replace('<= 2', '<= 3') }, true, false],
    ['the requirement text', { 'requirements/r.yaml': (text: string) => text.replace('It stays', 'It always stays') }, true, false],
    ['the name of the case', { 'cases/c.yaml': (text: string) => text.replace('only', 'another') }, false, false],
  ])('after a change of %s', (_, changes, fits, counts) => {
    const project = tank(changes);
    expect(project.faults).toEqual([]);
    const today = todayOf(project);
    expect([today.fits(run), today.counts(run, low, recorded)]).toEqual([fits, counts]);
  });

  it('and a run that never came to a result fits nothing', () => {
    expect(judged.fits({ caseName: 'only', stage: 'model', fingerprint: null })).toBe(false);
    expect(judged.fits({ caseName: 'gone', stage: 'model', fingerprint: null })).toBe(false);
  });

  it('says so only where something was found before', () => {
    const [now] = rollUp([facts(['a'])], [], 1);
    const [before] = rollUp([facts(['a'])], [finding('a', 'pass')], 1);
    expect(withOutOfDate(now!, before!).reason).toBe('out of date');
    expect(withOutOfDate(now!, now!).reason).toBe('not run');
    expect(withOutOfDate(before!, before!).state).toBe('pass');
  });

  it('names every cause of the runs in which the requirement was triggered', () => {
    const old = [finding('a', 'pass', { run: 1 }), finding('a', 'none', { run: 2 }), finding('a', 'fail', { run: 3 })];
    const changes = new Map([
      [1, causeOfAge(false, ['loops/l.yaml'])],
      [2, causeOfAge(false, ['cases/c.yaml'])],
      [3, causeOfAge(true, [])],
    ]);
    expect(changedSinceRuns('R', old, changes)).toEqual({ documents: ['loops/l.yaml'], reading: true, product: false });
    expect(causeOfAge(false, [])).toEqual({ documents: [], reading: false, product: true });
  });
});
