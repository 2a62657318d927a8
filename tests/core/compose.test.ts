import { beforeAll, describe, expect, it } from 'vitest';
import { composed, laidCampaign } from '@/core/campaign';
import type { SourceFile } from '@/core/documents';
import { checkProject } from '@/core/project';
import { changeDocument } from '@/core/yaml';
import { readFolder } from '@/server/folder';
import { firstSpread, kindOf, numbersOf, spreadKinds } from '@/ui/campaigns/composer/spreads';

let files: SourceFile[];
beforeAll(async () => {
  files = (await readFolder('tests/projects/dryer')).files;
});
const file = 'campaigns/harvest.yaml';
const withText = (text: string): SourceFile[] => files.map((one) => (one.path === file ? { ...one, text } : one));
const textOf = (): string => files.find((one) => one.path === file)!.text;

describe('a campaign while it is composed', () => {
  it('shows what its document says, what else could vary, and as many runs as it makes', () => {
    const project = checkProject(files);
    const view = composed(project, file);
    const laid = laidCampaign(project, project.campaigns[0]!);
    expect(view.faults).toEqual([]);
    expect([view.cases, view.runs?.total, view.runs?.quantities]).toEqual([['Mild day'], laid.total, ['damp', 'power']]);
    for (const [index, point] of (view.runs?.points ?? []).entries()) expect(point).toEqual(laid.pointOf(1 + Math.floor((index * laid.total) / 300)));
    const names = view.variables.map((one) => one.name);
    expect(names).toEqual(expect.arrayContaining(['bin.damp', 'operation.hot', 'bin.t', 'start.width', 'outside.until']));
    expect(view.variables.find((one) => one.name === 'bin.damp')).toMatchObject({ unit: '%', min: 10, max: 35, value: 19 });
    expect(view.variables.find((one) => one.name === 'start.width')).toMatchObject({ kind: 'part of a stimulus', unit: 's', value: 2 });
  });

  it('is sound with any way to vary that the form offers for any of its variables, and with any number changed in it', () => {
    const { variables } = composed(checkProject(files), file);
    for (const variable of variables)
      for (const kind of spreadKinds) {
        const spread = firstSpread(kind, variable);
        expect(kindOf(spread)).toBe(kind);
        const text = changeDocument(textOf(), [{ path: ['vary'], value: { [variable.name]: spread } }])!;
        const project = checkProject(withText(text));
        expect(project.faults.map((fault) => `${variable.name} ${kind}: ${fault.message}`)).toEqual([]);
        for (const number of numbersOf(spread)) {
          const again = changeDocument(text, [{ path: ['vary', variable.name, ...number.path], value: number.value }])!;
          expect(again).toBe(text);
        }
      }
  });

  it('says what is wrong, and still what can be chosen', () => {
    const view = composed(checkProject(withText('campaign: Harvest\ncases: Nobody\nvary: { bin.damp: { list: [17] } }\n')), file);
    expect(view.faults.map((fault) => fault.place.line)).toEqual([2]);
    expect(view.runs).toBeUndefined();
    expect(view.allCases).toContain('Mild day');
    expect(view.variables.length).toBeGreaterThan(5);
  });

  it('runs without anything that varies: the noise alone, or each case once', () => {
    const total = (text: string): number | undefined =>
      composed(checkProject(withText(`campaign: Harvest\ncases: Mild day\n${text}`)), file).runs?.total;
    expect([total(''), total('design: random\nruns: 40\n')]).toEqual([1, 40]);
  });
});
