import { beforeAll, describe, expect, it } from 'vitest';
import { caseOfRun, laidCampaign, ofMeasure, RunTable, sentenceOver, sumUp } from '@/core/campaign';
import { caseParts } from '@/core/cases';
import type { SourceFile } from '@/core/documents';
import { type CheckedProject, checkProject, orderRun, performRun } from '@/core/project';
import { readFolder } from '@/server/folder';

let files: SourceFile[];
beforeAll(async () => {
  files = (await readFolder('tests/projects/charger')).files;
});
const withCampaign = (text: string): CheckedProject => checkProject([...files, { path: 'campaigns/x.yaml', text: `campaign: X\n${text}` }]);
const told = (text: string): string[] =>
  withCampaign(text).faults.map((fault) => `${fault.place.line}:${fault.place.column} ${fault.message} ${fault.fix}`);
const campaign = (project: CheckedProject, name: string) => project.campaigns.find((one) => one.document.raw.campaign === name)!;

describe('a campaign', () => {
  it('makes the same runs whenever it is asked, and others with another seed', () => {
    const project = checkProject(files);
    const summer = campaign(project, 'Summer');
    const made = (seed?: number) => laidCampaign(project, seed === undefined ? summer : { ...summer, seed }).runs();
    const [first, again, other] = [made(), made(), made(6)];
    expect(first.faults).toEqual([]);
    expect(first.runs).toHaveLength(60);
    expect(again.runs.map((run) => [run.point, run.order.experiment.seed])).toEqual(first.runs.map((run) => [run.point, run.order.experiment.seed]));
    expect(other.runs[0]!.point).not.toEqual(first.runs[0]!.point);
    for (const { point } of first.runs) {
      expect(point[0]).toBeGreaterThanOrEqual(2);
      expect(point[0]).toBeLessThanOrEqual(6);
    }
    expect(new Set(first.runs.map((run) => run.order.experiment.seed)).size).toBe(60);
  });

  it('runs each of its cases at every point, in the order of the project', () => {
    const project = checkProject(files);
    const laid = laidCampaign(project, campaign(project, 'Ratings'));
    const { quantities } = laid;
    const { runs } = laid.runs();
    expect(quantities.map((one) => one.name)).toEqual(['case', 'charger.rated', 'battery.resistance']);
    expect(runs.map((run) => run.point)).toEqual(
      ['Loose plug', 'Night charge'].flatMap((name) =>
        [10, 20, 30, 40].flatMap((rated) => [0.02, 0.05].map((resistance) => [name, rated, resistance])),
      ),
    );
    expect(runs.map((run) => run.number)).toEqual(Array.from({ length: 16 }, (_, i) => i + 1));
    expect(performRun(runs[15]!.order).result.case).toBe('Night charge');
  });

  it('chooses cases by name, tag, or what they are meant for; all of them unless said', () => {
    const chosen = (cases: string): string[] => {
      const project = withCampaign(`${cases}vary: { charger.rated: { list: [10] } }\n`);
      expect(project.faults).toEqual([]);
      return campaign(project, 'X').cases.map((one) => one.experiment.case);
    };
    expect(chosen('')).toEqual(['Hot day', 'Loose plug', 'Night charge']);
    expect(chosen('cases: all\n')).toHaveLength(3);
    expect(chosen('cases: hot DAY\n')).toEqual(['Hot day']);
    expect(chosen('cases: [Night charge, Hot day]\n')).toEqual(['Hot day', 'Night charge']);
    expect(chosen('cases: { tags: [QUICK] }\n')).toEqual(['Night charge']);
  });

  it('has levels with equal steps or equal ratios', () => {
    const levels = (spread: string) => campaign(withCampaign(`vary: { charger.rated: ${spread} }\n`), 'X').quantities[0]!.spread;
    expect(levels('{ from: 10, until: 40, steps: 4 }')).toEqual({ k: 'levels', levels: [10, 20, 30, 40] });
    expect(levels('{ from: 1, until: 100, steps: 3, logarithmic: true }')).toEqual({ k: 'levels', levels: [1, 10, 100] });
  });

  it.each([
    ['vary: { charger.ratd: { list: [1] } }', 'There is no parameter or state "charger.ratd" in the loop charge. Did you mean "charger.rated"?'],
    ['cases: Nigt charge\nvary: { charger.rated: { list: [1] } }', 'There is no case "Nigt charge". Did you mean "Night charge"?'],
    ['cases: { tags: [slow] }\nvary: { charger.rated: { list: [1] } }', 'No case has the tag "slow".'],
    ['cases: { meant_for: [BC-01] }\nvary: { charger.rated: { list: [1] } }', 'No case is meant for BC-01.'],
    ['vary: { variant: { list: [tight] } }', 'The loop charge has no variant "tight".'],
    ['vary: { variant: { uniform: [1, 2] } }', 'Variants have names, not numbers.'],
    ['design: spiral\nvary: { charger.rated: { list: [1] } }', 'There is no design "spiral".'],
    ['design: grid\nvary: { charger.rated: { uniform: [1, 2] } }', 'charger.rated scatters; a grid design takes levels.'],
    ['vary: { charger.rated: { uniform: [2, 1] } }', '2 is not below 1.'],
    ['vary: { charger.rated: { triangular: { low: 1, mode: 9, high: 2 } } }', 'The mode 9 lies outside 1 … 2.'],
    ['vary: { charger.rated: { from: 0, until: 2, steps: 3, logarithmic: true } }', 'Equal ratios need numbers above 0.'],
    ['vary: { charger.rated: { from: 0, until: 2 } }', '"vary.charger.rated.steps" is required.'],
    ['vary: { charger.rated: { about: 3 } }', 'Must be a range (from, until, steps), a list, uniform, normal, triangular or lognormal.'],
  ])('is refused: %s', (text, message) => {
    const found = told(`${text}\n`);
    expect(found.join('\n')).toContain(message);
    expect(withCampaign(`${text}\n`).campaigns.map((one) => one.document.raw.campaign)).not.toContain('X');
  });

  it('whose values do not fit is refused before anything is run', () => {
    const project = withCampaign('vary: { charger.rated: { list: [1, 99] } }\ncases: Hot day\n');
    expect(project.faults).toEqual([]);
    expect(
      laidCampaign(project, campaign(project, 'X'))
        .runs()
        .faults.map((fault) => fault.message),
    ).toEqual(['charger.rated = 99 A lies outside its limits, 1 … 60 A.']);
  });
});

describe('a case made of a run', () => {
  it('is that run, to the last byte of its trace', () => {
    const project = checkProject(files);
    for (const [name, number] of [
      ['Summer', 17],
      ['Ratings', 11],
    ] as const) {
      const laid = laidCampaign(project, campaign(project, name));
      const made = caseOfRun(
        laid,
        number,
        'Worst of all',
        files.map((file) => file.path),
      );
      const { runs } = laid.runs(number, number + 1);
      const found = checkProject([...files, made]);
      expect(found.faults).toEqual([]);
      const test = found.cases.find((one) => one.experiment.case === 'Worst of all')!;
      expect(performRun(orderRun(found, test)).result.traceHash).toBe(performRun(runs[0]!.order).result.traceHash);
    }
  });

  it('takes a path that is free', () => {
    const project = checkProject(files);
    const laid = laidCampaign(project, campaign(project, 'Summer'));
    expect(caseOfRun(laid, 1, 'Hot day', ['cases/hot-day.yaml', 'cases/HOT-day-2.yaml']).path).toBe('cases/hot-day-3.yaml');
  });
});

describe('what a stimulus is made of', () => {
  const night = `cases: Night charge
vary:
  PART: { list: [VALUES] }
`;
  const of = (part: string, values: string) => withCampaign(night.replace('PART', part).replace('VALUES', values));

  it('varies as if the document of the case said it, and makes a case that is that run', () => {
    const plain = checkProject(files);
    const parts = caseParts(plain.cases.find((one) => one.experiment.case === 'Night charge')!.document.raw);
    expect(parts.length).toBeGreaterThan(0);
    for (const part of parts.slice(0, 6)) {
      const value = part.value * 1.01 + (part.of === undefined ? 0.25 : 0);
      const project = of(part.name, String(value));
      expect(project.faults).toEqual([]);
      const laid = laidCampaign(project, campaign(project, 'X'));
      const [run] = laid.runs().runs;
      const made = caseOfRun(laid, 1, 'Made of it', []);
      const written = checkProject([...files, made]);
      expect(written.faults).toEqual([]);
      const same = written.cases.find((one) => one.experiment.case === 'Made of it')!;
      expect(same.experiment.stimuli).toEqual(run!.order.experiment.stimuli);
      expect(performRun(orderRun(written, same)).result.traceHash).toBe(performRun(run!.order).result.traceHash);
    }
  });

  it('is named to be found, and refused where it is not there or out of order', () => {
    const [fault] = of('plugged.att', '5').faults;
    expect(`${fault?.message} ${fault?.fix}`).toMatch(/There is no parameter or state "plugged.att".*Did you mean "plugged.at"/);
    const project = checkProject(files);
    const parts = caseParts(project.cases.find((one) => one.experiment.case === 'Loose plug')!.document.raw).map((one) => one.name);
    expect(new Set(parts).size).toBe(parts.length);
  });
});

describe('a measure', () => {
  it('is the figure that the trace has, in each run, and a column of its own', () => {
    const project = withCampaign(`cases: Night charge
vary: { charger.rated: { list: [10, 25] } }
measures:
  highest voltage: peak of battery.voltage
  charging: duration of charger.current > 1 A
  plugged in: count of plugged rises
`);
    expect(project.faults).toEqual([]);
    const laid = laidCampaign(project, campaign(project, 'X'));
    const table = new RunTable(laid.columns, laid.total);
    for (const { number, order } of laid.runs().runs) {
      const { result, trace } = performRun(order);
      table.put(number - 1, result);
      const of = (name: string): number | undefined => {
        const criterion = laid.columns.findIndex((one) => one.requirement === ofMeasure && one.name === name);
        return table.finding(criterion, number - 1)?.margin?.value;
      };
      const voltage = trace.columns.find((one) => one.name === 'battery.voltage')!;
      expect(of('highest voltage')).toBe(Math.max(...voltage.data));
      expect(of('plugged in')).toBe(1);
      expect(of('charging')).toBeGreaterThan(60);
      // Figures make no verdict, and are in the fingerprint of nothing but the campaign.
      const plain = performRun({ ...order, measured: [] }).result;
      expect([result.verdict, result.fingerprint, result.traceHash]).toEqual([plain.verdict, plain.fingerprint, plain.traceHash]);
    }
    const found = sumUp(table, laid).filter((one) => one.requirement === ofMeasure);
    expect(found.map((one) => [one.criterion, one.figures?.runs, one.interval])).toEqual([
      ['highest voltage', 2, undefined],
      ['charging', 2, undefined],
      ['plugged in', 2, undefined],
    ]);
    expect(sentenceOver(found[2]!, laid.quantities)).toMatch(/^plugged in: 1 in the median of 2 runs/);
  });

  it('that is none is refused, with what is wrong', () => {
    expect(told('vary: { charger.rated: { list: [10] } }\nmeasures: { x: peak of battery.volltage }\n').join()).toMatch(
      /"peak of battery.volltage" cannot be measured: There is no "battery.volltage"/,
    );
    expect(told('vary: { charger.rated: { list: [10] } }\nmeasures: { x: always battery.voltage }\n').join()).toMatch(/cannot be measured/);
  });
});
