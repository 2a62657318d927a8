import { describe, expect, it } from 'vitest';
import type { SourceFile } from '@/core/documents';
import { inspectModel, type Picture } from '@/core/picture';
import { replaceScalar } from '@/core/yaml';
import { readFolder } from '@/server/folder';

const crane = async (): Promise<readonly SourceFile[]> => (await readFolder('demo/quay-crane')).files;
const lock = async (): Promise<readonly SourceFile[]> => (await readFolder('demo/tarn-lock')).files;

function net(picture: Picture): Picture & { k: 'net' } {
  if (picture.k !== 'net') throw new Error(`a ${picture.k} is no net`);
  return picture;
}

describe('what is drawn of a project', () => {
  it('begins with the loop, and lists loops before components', async () => {
    const view = inspectModel(await crane(), '');
    expect(view.at).toBe('loop:crane');
    expect(view.outline.map((item) => `${item.name}: ${item.line}`)).toEqual([
      'crane: loop · 4 components',
      'DriveLoop: routine · 1 ms',
      'Load: equations · 2 states',
      'SwayLaw: network · 7 parts · 20 ms',
      'Trolley: equations · 2 states',
    ]);
    expect(view.headline).toBe('4 components, 8 wires');
  });

  it('draws every wire of a loop from pin to pin, and what opens', async () => {
    const { slips, links } = net(inspectModel(await crane(), 'loop:crane').picture);
    expect(slips.filter((slip) => slip.outside).map((slip) => slip.title)).toEqual(['target', 'brake']);
    expect(slips.find((slip) => slip.id === 'law')).toMatchObject({
      opens: 'component:SwayLaw',
      inputs: ['target', 'position', 'sway'],
      outputs: ['command'],
    });
    expect(links).toContainEqual({ from: { slip: 'drive', pin: 'accel' }, to: { slip: 'load', pin: 'accel' } });
    expect(links).toContainEqual({ from: { slip: 'in:target', pin: 'target' }, to: { slip: 'law', pin: 'target' } });
    const pins = new Set(slips.flatMap((slip) => [...slip.inputs, ...slip.outputs].map((pin) => `${slip.id}/${pin}`)));
    for (const { from, to } of links) expect([pins.has(`${from.slip}/${from.pin}`), pins.has(`${to.slip}/${to.pin}`)]).toEqual([true, true]);
  });

  it('puts its equation on each element of a network', async () => {
    const { slips, links } = net(inspectModel(await crane(), 'component:SwayLaw').picture);
    expect(Object.fromEntries(slips.filter((slip) => !slip.outside).map((slip) => [slip.title, slip.text]))).toEqual({
      error: 'plus − minus',
      approach: '0.3 · in',
      cruise: '−2.2 … 2.2',
      smooth: '+0.35 −0.35 /s',
      damping: '0.05 · in',
      wanted: 'plus + plus_2',
      bounded: '−3 … 3',
    });
    expect(links.at(-1)).toEqual({ from: { slip: 'bounded', pin: 'out' }, to: { slip: 'out:command', pin: 'command' } });
  });

  it('draws a chart with nested states, actions and guards', async () => {
    const { picture, headline } = inspectModel(await lock(), 'component:LockSupervisor');
    expect(headline).toBe('31 states, 63 transitions');
    if (picture.k !== 'chart') throw new Error('no chart');
    const transit = picture.regions[0]!;
    expect([transit.name, transit.initial]).toEqual(['transit', 'transit.Idle']);
    const upward = transit.states.find((state) => state.name === 'Upward')!;
    expect(upward.actions).toEqual(['exit: filling := FALSE; buzzer := FALSE;']);
    expect(upward.regions[0]!.states[0]!.id).toBe('transit.Upward.Warning');
    expect(upward.regions[0]!.arrows[0]).toEqual({ from: 'transit.Upward.Warning', to: 'transit.Upward.ClosingLower', label: 'after 2.4 s' });
  });

  it('shows faces with limits, and names for completion with what they mean', async () => {
    const { face } = inspectModel(await lock(), 'component:Chamber');
    expect(face?.parameters[0]).toEqual({
      name: 'area',
      type: 'LREAL',
      unit: 'm2',
      about: 'water surface of the chamber',
      min: 10,
      max: 5000,
      value: 212.8,
    });
    const { names } = inspectModel(await lock(), 'loop:lock');
    expect(names).toContainEqual({ name: 'chamber.level', about: 'level above the sill · LREAL · m' });
  });

  it('counts the faults of each document while it is edited', async () => {
    const files = (await crane()).map((file) =>
      file.path === 'components/load.yaml' ? { ...file, text: file.text.replace('unit: rad/s', 'unit: furlong!') } : file,
    );
    const broken = files.map((file) =>
      file.path === 'components/load.yaml' ? { ...file, text: file.text.replace('turning: -(', 'turning: -((') } : file,
    );
    const view = inspectModel(broken, 'component:Load');
    expect(view.faults.length).toBeGreaterThan(0);
    expect(view.outline.find((item) => item.name === 'Load')?.faults).toBe(
      view.faults.filter((fault) => fault.place.file === 'components/load.yaml').length,
    );
  });
});

describe('an edit through a form', () => {
  const text = '# head\nparameters: # here\n  area:   { value: 212.8, unit: m2 } # why 212.8\n  on: { value: TRUE }\nlist:\n  - a # one\n  - 7\n';
  it.each([
    ['a number', ['parameters', 'area', 'value'], 3.5, text.replace('212.8, unit', '3.5, unit')],
    ['a truth', ['parameters', 'on', 'value'], false, text.replace('TRUE', 'false')],
    ['a place in a list', ['list', 1], 8, text.replace('- 7', '- 8')],
  ])('changes %s and nothing else', (_, path, value, wanted) => expect(replaceScalar(text, path, value)).toBe(wanted));

  it('gives nothing where there is no plain value', () => {
    expect(replaceScalar(text, ['parameters', 'area'], 1)).toBeUndefined();
    expect(replaceScalar(text, ['parameters', 'nowhere', 'value'], 1)).toBeUndefined();
  });
});
