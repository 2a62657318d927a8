import { spawnSync } from 'node:child_process';
import { cpSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { afterAll, describe, expect, it } from 'vitest';

const folder = mkdtempSync(path.join(tmpdir(), 'ovrand-cli-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));
const ovrand = (...args: string[]) => spawnSync(process.execPath, ['bin/ovrand.mjs', ...args], { encoding: 'utf8', maxBuffer: 1e9 });

function copyOfDemo(name: string, edits: readonly (readonly [file: string, from: string, to: string])[] = []): string {
  const target = path.join(folder, name);
  cpSync('demo/tarn-lock', target, { recursive: true });
  for (const [file, from, to] of edits) {
    const full = path.join(target, file);
    writeFileSync(full, readFileSync(full, 'utf8').replace(from, to));
  }
  return target;
}

describe('ovrand cases', () => {
  it('says what each case says of each requirement, and what it does not trigger', () => {
    const { stdout, status } = ovrand('cases', 'demo/tarn-lock');
    expect(status).toBe(1);
    expect(stdout).toContain('23 requirements in 9 cases: 1 fail in at least one, 3 pass or fail in none.');
    expect(stdout).toMatch(/TL-012 +pass +FAIL +· +pass/);
    const charger = ovrand('cases', 'tests/projects/charger', '--json');
    expect(charger.status).toBe(2);
    const table = JSON.parse(charger.stdout) as { cases: { case: string }[]; requirements: { id: string; inCase: unknown[] }[] };
    expect(table.cases.map((one) => one.case)).toEqual(['Hot day', 'Loose plug', 'Night charge']);
    expect(table.requirements.map((one) => one.inCase)).toEqual([
      ...Array.from({ length: 4 }, () => ['pass', 'pass', 'pass']),
      ['not triggered', 'not triggered', 'not triggered'],
    ]);
  });
});

describe('ovrand read', () => {
  it('reads every requirement that is not read yet, or one text', () => {
    const lift = path.join(folder, 'lift');
    cpSync('tests/projects/lift', lift, { recursive: true });
    expect(ovrand('read', lift)).toMatchObject({ stdout: 'Every requirement that is verified by test has been read.\n', status: 0 });
    writeFileSync(
      path.join(lift, 'requirements/more.yaml'),
      'section: More\nrequirements:\n  - { requirement: LT-101, text: The speed of the car shall not exceed 1.7 m/s. }\n  - { requirement: LT-102, text: The lift shall be pleasant. }\n',
    );
    const { stdout, status } = ovrand('read', lift);
    expect(status).toBe(2);
    expect(stdout).toMatch(/^LT-101 {2}The speed of the car shall not exceed 1.7 m\/s\.\n {4}1 {2}always car\.speed <= 1\.7 m\/s {3}/);
    expect(stdout).toContain('LT-102  The lift shall be pleasant.\n    no criterion could be read from this\n');
    expect(stdout).toContain('1 of 2 not read yet have proposals.');
    expect((JSON.parse(ovrand('read', lift, '--json').stdout) as { requirement: string }[]).map((one) => one.requirement)).toEqual([
      'LT-101',
      'LT-102',
    ]);
    writeFileSync(path.join(lift, 'requirements/faulty.yaml'), 'requirements: []\n');
    expect(ovrand('read', lift)).toMatchObject({ stdout: '', status: 3 });
    expect(ovrand('read', lift, '--text', 'The speed of the car shall not exceed 1.7 m/s.').status).toBe(0);
  });
});

describe('ovrand monitor with a project', () => {
  it('says of the traces that were written what the run says, states and enumerations among them', () => {
    const traces = ['Up to the third floor and back', 'Too heavy', 'Fire while the car travels'].flatMap((name, index) => {
      const file = path.join(folder, `lift-${index}.csv`);
      expect(ovrand('trace', 'tests/projects/lift', '--case', name, '--out', file).status).toBe(0);
      return ['--trace', file];
    });
    expect(readFileSync(traces[1] as string, 'utf8').split('\n')[0]).toMatch(/door\.state[^,]*\{[^}]*\|[^}]*\}/);
    const run = ovrand('run', 'tests/projects/lift');
    const monitored = ovrand('monitor', 'tests/projects/lift', ...traces);
    expect(run.stdout).toContain('7 requirements: 7 pass');
    expect(monitored.stdout).toBe(run.stdout);
    expect(monitored.status).toBe(run.status);
  });
});

describe('ovrand sweep', () => {
  const sweep = (...args: string[]) => ovrand('sweep', 'demo/tarn-lock', '--case', 'Upward transit, upper reach sways', ...args);

  it('runs a case at values of its parameters, and says where each requirement fails', () => {
    const csv = path.join(folder, 'sweep.csv');
    const { stdout, status } = sweep('--vary', 'upper_reach.sway=0..0.1/3', '--vary', 'chamber.area=200,220', '--csv', csv);
    expect(status).toBe(1);
    expect(stdout).toMatch(/^6 runs in /);
    expect(stdout).toMatch(/TL-012 fails in \d of 6 runs; worst −0\.\d+ m at sway 0\.1, area 2[02]0\./);
    // A grid was laid down, not drawn: there is no confidence to speak of.
    expect(stdout).not.toContain('confidence');
    const [head, ...rows] = readFileSync(csv, 'utf8').trim().split('\n');
    expect(head).toContain('run,seed,upper_reach.sway,chamber.area,verdict,trace,');
    expect(head).toContain('margin of TL-012 equal levels at the upper gates [m]');
    expect(rows.map((row) => row.split(',').slice(2, 4).join())).toEqual(['0,200', '0,220', '0.05,200', '0.05,220', '0.1,200', '0.1,220']);
  });

  it('draws the same runs with one worker and with two, and gives the share that fails an interval', () => {
    const args = ['--vary', 'upper_reach.sway=0..0.1', '--vary', 'chamber.cd=0.62+-0.01', '--runs', '12', '--seed', '3', '--json'];
    const [one, two] = [sweep(...args, '--jobs', '1'), sweep(...args, '--jobs', '2')];
    expect(two.stdout).toBe(one.stdout);
    const found = JSON.parse(one.stdout) as {
      criteria: { requirement: string; failed: number; passed: number; interval: { low: number; high: number } | null }[];
      runs: object[];
    };
    expect(found.runs).toHaveLength(12);
    const equal = found.criteria.find((criterion) => criterion.requirement === 'TL-012');
    expect((equal?.failed ?? 0) + (equal?.passed ?? 0)).toBe(12);
    expect(equal?.interval?.low).toBeLessThan((equal?.failed ?? 0) / 12);
    expect(found.criteria.find((criterion) => criterion.requirement === 'TL-015')).toMatchObject({ failed: 0, passed: 0, interval: null });
  });

  it.each([
    [
      ['--vary', 'upper_reach.amplitude=0..1/3', '--vary', 'chamber.area=1,2'],
      /no parameter "upper_reach.amplitude"[\s\S]*chamber.area = 1 m² lies outside[\s\S]*faults; nothing was run/,
    ],
    [['--vary', 'upper_reach.sway=0..0.1', '--design', 'grid'], /upper_reach.sway scatters; a grid design takes levels/],
  ])('refuses %j with what is wrong', (args, message) => {
    const { stderr, status } = sweep(...args);
    expect(stderr).toMatch(message);
    expect(status).toBe(3);
  });
});

describe('ovrand campaign', () => {
  it('runs what a document says, the same with one worker and two', () => {
    const [one, two] = ['1', '2'].map((jobs) => ovrand('campaign', 'tests/projects/charger', 'Ratings', '--json', '--jobs', jobs));
    expect(one!.status).toBe(1);
    expect(two!.stdout).toBe(one!.stdout);
    const found = JSON.parse(one!.stdout) as { quantities: string[]; criteria: { requirement: string; failed: number; interval: unknown }[] };
    expect(found.quantities).toEqual(['case', 'charger.rated', 'battery.resistance']);
    expect(found.criteria.find((criterion) => criterion.requirement === 'BC-01')).toMatchObject({ failed: 4, interval: null });
    expect(ovrand('campaign', 'tests/projects/charger', 'Sumer').stderr).toContain('did you mean "Summer"?');
  });
});

describe('ovrand run', () => {
  it('gives equal results and trace hashes with one and with two workers', () => {
    const [one, two] = [ovrand('run', 'demo/tarn-lock', '--json', '--jobs', '1'), ovrand('run', 'demo/tarn-lock', '--json', '--jobs', '2')];
    expect(one.status).toBe(1);
    expect(two.stdout).toBe(one.stdout);
    const report = JSON.parse(one.stdout) as {
      summary: object;
      requirements: { id: string; state: string; reason: string; criteria: object[] }[];
      runs: { trace: string }[];
    };
    expect(report.summary).toEqual({ pass: 19, fail: 1, lacksEvidence: 3 });
    expect(report.requirements.find((one) => one.id === 'TL-015')).toMatchObject({
      state: 'lacks evidence',
      reason: 'untriggered',
      criteria: [{ verdict: 'none', obligations: 0, margin: null }],
    });
    expect(report.requirements.find((one) => one.id === 'TL-012')).toMatchObject({
      state: 'fail',
      criteria: [{ stage: 'model', verdict: 'fail', unit: 'm', worst: { case: 'Upward transit, upper reach sways' } }],
    });
    for (const run of report.runs) expect(run.trace).toMatch(/^[0-9a-f]{64}$/);
  });

  it('tells by its exit code: all pass 0, fail 1, lacks evidence 2, faulty 3', () => {
    expect(ovrand('run', 'demo/tarn-lock', '--case', 'Upward transit, calm water').status).toBe(2);
    expect(ovrand('run', 'demo/tarn-lock', '--case', 'Nobody').status).toBe(3);
    expect(ovrand('run', 'demo/tarn-lock', '--tag', 'quick').stderr).toContain('no case has the tag "quick"; there are no tags');
    const tagged = ovrand('run', copyOfDemo('tagged', [['cases/5-low-lift.yaml', 'case:', 'tags: [Quick]\ncase:']]), '--tag', 'quick', '--json');
    expect((JSON.parse(tagged.stdout) as { runs: { case: string }[] }).runs.map((run) => run.case)).toEqual(['Upward transit, low lift']);
    expect(ovrand('run', path.join(folder, 'nowhere')).status).toBe(3);
    expect(ovrand('run', copyOfDemo('faulty', [['loops/lock.yaml', 'use: Chamber }', 'use: Camber }']])).stderr).toContain('Did you mean "Chamber"?');
    expect(ovrand('run', 'demo/tarn-lock', '--jobs', 'many').status).toBe(3);
    expect(ovrand('nonsense').status).toBe(3);
  });

  it('writes JUnit XML and JSON files', () => {
    const [junit, json] = [path.join(folder, 'r.xml'), path.join(folder, 'r.json')];
    const { stdout } = ovrand('run', 'demo/tarn-lock', '--case', 'Upward transit, low lift', '--junit', junit, '--json', json, '--seed', '5');
    expect(stdout).toContain('23 requirements:');
    expect(readFileSync(junit, 'utf8')).toContain('<testsuite name="2 · Interlocks between gates and paddles"');
    expect(JSON.parse(readFileSync(json, 'utf8'))).toMatchObject({ runs: [{ id: 1, seed: 5, stage: 'model' }] });
  });
});

describe('ovrand check', () => {
  it('is clean for the demo and lists faults as JSON otherwise', () => {
    expect(ovrand('check', 'demo/tarn-lock').status).toBe(0);
    const { status, stdout } = ovrand(
      'check',
      copyOfDemo('unit', [['components/paddle.yaml', 'opening: LIMIT(0, x, 100)', 'opening: LIMIT(0, z, 100)']]),
      '--json',
    );
    expect(status).toBe(1);
    expect(JSON.parse(stdout)).toEqual([
      {
        file: 'components/paddle.yaml',
        line: 19,
        column: 23,
        code: 'unknown-name',
        message: 'There is no "z" here.',
        mend: expect.any(String) as string,
      },
    ]);
  });
});

describe('ovrand trace and monitor', () => {
  it('writes a trace and checks a sentence on it', () => {
    const csv = path.join(folder, 't.csv');
    expect(
      ovrand('trace', 'demo/tarn-lock', '--case', 'Upward transit, low lift', '--signals', 'chamber.level,chamber.rate,request_up', '--out', csv)
        .status,
    ).toBe(0);
    expect(readFileSync(csv, 'utf8').split('\n')[0]).toBe('time[s],chamber.level[m],chamber.rate[mm/s],request_up[]');
    const passing = ovrand('monitor', '--trace', csv, '--criterion', 'always chamber.rate <= 14 mm/s', '--json');
    expect(passing.status).toBe(0);
    expect(JSON.parse(passing.stdout)).toMatchObject({
      verdict: 'pass',
      unit: 'mm/s',
      obligations: [{ from: 0, until: 300, outcome: 'met', at: 300 }],
    });
    expect(ovrand('monitor', '--trace', csv, '--criterion', 'when request_up rises, within 1 min level > 2.1 m').status).toBe(1);
    expect(ovrand('monitor', '--trace', csv, '--criterion', 'always speed > 0').status).toBe(3);
    expect(ovrand('monitor', '--trace', path.join(folder, 'no.csv'), '--criterion', 'always x > 0').stderr).toContain('cannot be read');
  });
});

describe('ovrand emit', () => {
  it('writes C99 that a strict compiler takes, and that steps as the routine says', () => {
    const out = path.join(folder, 'c');
    expect(ovrand('emit', 'demo/quay-crane', '--component', 'driveloop', '--to', 'c', '--out', out).status).toBe(0);
    writeFileSync(
      path.join(out, 'main.c'),
      `#include "DriveLoop.h"
#include <stdio.h>
int main(void) {
  DriveLoop_t s;
  DriveLoop_init(&s);
  s.in.command = 2.0;
  for (int hit = 0; hit < 60; hit++) {
    DriveLoop_outputs(&s, hit / 1e3);
    DriveLoop_task0(&s, hit);
    if (hit == 0 || hit == 59) printf("%g %d %d\\n", s.out.accel, (int)s.out.limited, (int)s.fault);
  }
  return 0;
}
`,
    );
    const compiled = spawnSync('cc', ['-std=c99', '-Wall', '-Wextra', '-Werror', '-ffp-contract=off', 'main.c', 'DriveLoop.c', '-o', 'main', '-lm'], {
      cwd: out,
      encoding: 'utf8',
    });
    expect(compiled.stderr).toBe('');
    expect(spawnSync(path.join(out, 'main'), { encoding: 'utf8' }).stdout).toBe('1.2 0 0\n1.2 1 0\n');
  });

  it('names what is not there', () => {
    const { status, stderr } = ovrand('emit', 'demo/quay-crane', '--component', 'DrivLoop', '--to', 'c', '--out', folder);
    expect([status, stderr]).toEqual([3, 'ovrand: there is no component "DrivLoop"; did you mean "DriveLoop"?\n']);
  });
});

describe('what a folder and a pipe may hold', () => {
  it('files that nobody reads are told, with the folder that may be meant', () => {
    const target = copyOfDemo('unread');
    for (const file of ['nightly/all.yaml', 'case/extra.yaml', 'cases/deep/er.yaml', 'cases/notes.st', 'spare.yaml', 'README.md', 'docs/plan.txt']) {
      mkdirSync(path.dirname(path.join(target, file)), { recursive: true });
      writeFileSync(path.join(target, file), 'x: 1\n');
    }
    const { stderr, status } = ovrand('check', target);
    expect(status).toBe(0);
    expect(stderr.trim().split('\n')).toEqual([
      'Not read: case/extra.yaml: no folder "case" is read; did you mean "cases"?',
      'Not read: cases/deep/er.yaml: folders inside cases/ are not read.',
      'Not read: cases/notes.st: this is no kind of file that is read in cases/.',
      expect.stringMatching(/^Not read: nightly\/all\.yaml: no folder "nightly" is read, only requirements, /),
      expect.stringMatching(/^Not read: spare\.yaml: beside project\.yaml only /),
    ]);
  });

  it('a bench is proposed while cases and stages ask for it already', () => {
    const target = path.join(mkdtempSync(path.join(tmpdir(), 'ovrand-pond-')), 'pond');
    cpSync('tests/projects/pond', target, { recursive: true });
    expect(ovrand('check', target).status).toBe(0);
    rmSync(path.join(target, 'benches'), { recursive: true });
    expect(ovrand('check', target).stdout).toContain('There is no bench for the loop pond');
    const { status, stdout } = ovrand('wiring', target, '--name', 'Rig', '--cycle', '1 s', '--out', path.join(target, 'rig.yaml'));
    expect([status, stdout]).toEqual([0, '']);
    mkdirSync(path.join(target, 'benches'));
    cpSync(path.join(target, 'rig.yaml'), path.join(target, 'benches', 'rig.yaml'));
    rmSync(path.join(target, 'rig.yaml'));
    expect(ovrand('check', target)).toMatchObject({ status: 0, stderr: '' });
    expect(ovrand('wiring', target, '--loop', 'pand').stderr).toContain('there is no loop "pand"; did you mean "pond"?');
  });

  it('a reader that has enough ends a trace quietly', () => {
    const command = `set -o pipefail; "${process.execPath}" bin/ovrand.mjs trace demo/tarn-lock --case "Upward transit, low lift" | head -1`;
    const { stdout, stderr, status } = spawnSync('bash', ['-c', command], { encoding: 'utf8' });
    expect([stdout.split(',')[0], stderr, status]).toEqual(['time[s]', '', 0]);
  });
});

describe('ovrand break', () => {
  it('prints a case that breaks a criterion, which then fails in it; what it cannot break it says how hard it tried', () => {
    const target = path.join(folder, 'dryer');
    cpSync('tests/projects/dryer', target, { recursive: true });
    const broken = ovrand('break', target, '--requirement', 'GD-02', '--runs', '300', '--write');
    expect(broken.status).toBe(1);
    expect(broken.stdout).toMatch(/^dryer: \d+ runs\nGD-02 dry in time: broken\n {4}case: GD-02 broken\n/);
    const run = ovrand('run', target, '--case', 'GD-02 broken');
    expect(run.status).toBe(1);
    expect(run.stdout).toContain('GD-02');
    const kept = ovrand('break', target, '--requirement', 'GD-01', '--runs', '20', '--seed', '3');
    expect(kept.status).toBe(0);
    expect(kept.stdout).toMatch(/GD-01 hottest: not broken in \d+ runs that triggered it, least margin \+[\d.]+ K\n/);
    const unknown = ovrand('break', target, '--requirement', 'GD-99');
    expect([unknown.status, unknown.stderr]).toEqual([3, expect.stringContaining('there is no requirement GD-99')]);
    const unlimited = ovrand('break', target, '--vary', 'dryer.colour');
    expect([unlimited.status, unlimited.stderr]).toEqual([3, expect.stringContaining('there is no parameter or state dryer.colour in dryer')]);
  });
});

describe('ovrand derive', () => {
  it('finds a case for the requirement that is asked for and no other; what is left it says how near it came to', () => {
    const { status, stdout } = ovrand('derive', 'tests/projects/proofer', '--requirement', 'dp-04', '--vary', 'plant');
    expect(status).toBe(0);
    expect(stdout).toMatch(/^proofer: 1 of 1 goal reached after \d+ runs; 1 further case\.\n\n.*for DP-04 lamp out is triggered\n/);
    const few = ovrand('derive', 'tests/projects/proofer', '--goals', 'transitions', '--budget', '2runs');
    expect(few.status).toBe(2);
    expect(few.stdout).toContain(
      '  transition: control.batch.Failed to Idle when cancel AND temperature < 30.0\n      control.batch.Failed was never active\n',
    );
    const none = ovrand('derive', 'tests/projects/proofer', '--requirement', 'DP-99');
    expect([none.status, none.stderr]).toEqual([3, 'ovrand: there is no requirement DP-99\n']);
  });
});

describe('ovrand suite', () => {
  it('names the cases that keep all goals, and those without which nothing is lost', () => {
    const target = path.join(folder, 'few');
    cpSync('tests/projects/dryer', target, { recursive: true });
    const file = path.join(target, 'cases', 'again.yaml');
    writeFileSync(file, 'case: Mild day again\nlike: Mild day\n');
    const { status, stdout } = ovrand('suite', target);
    expect(stdout).toMatch(/^2 cases of 3 keep \d+ goals of \d+:\n {2}.+: \d+ goals? more, .+\n {2}.+: \d+ goals? more, /);
    expect(stdout).toMatch(/Without them nothing is lost: Mild day( again)?\.\n$/);
    expect([1, 2]).toContain(status);
    expect(ovrand('suite', target, '--goals', 'colours').stderr).toContain('there are no goals "colours"; choose of criteria,');
  });
});
