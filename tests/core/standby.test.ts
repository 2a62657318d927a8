import { describe, expect, it } from 'vitest';
import { channelFaultKinds, heldFault, proposedSheet } from '@/core/bench';
import { benchViews, checkProject, performRun, plannedBuild } from '@/core/project';
import { readFolder } from '@/server/folder';
import { AtOnce, benchOrder } from '../support/atOnce';
import { column, runCase } from '../support/project';

const { files } = await readFolder('tests/projects/standby');
const project = checkProject(files);
const replaced = (path: string, from: string, to: string) =>
  checkProject(files.map((file) => (file.path === path ? { ...file, text: file.text.replace(from, to) } : file)));

describe('a standby generator, written from the docs alone', () => {
  it('does what its equations say', () => {
    expect(project.faults).toEqual([]);
    const { trace } = runCase(project, 'Outage');
    const { time, data } = column(trace, 'control.on_diesel');
    // The mains fail at 10 s. 3 s later it cranks: 150 of 220 per minute with 2 s, then 380 of 400 V on the way to 1500; seen at the next hit of 100 ms.
    const carries = 13 + 2 * Math.log(220 / 70) + 2 * Math.log((1500 - 150) / (1500 - 1425));
    const first = time[data.indexOf(1)]!;
    expect(first).toBeGreaterThanOrEqual(carries);
    expect(first).toBeLessThanOrEqual(carries + 0.2);
  });

  it('its proposed sheet is called after its loop, and exchanges with each hit of its controller', () => {
    const build = plannedBuild(project, 'genset');
    if ('because' in build) throw new Error(build.because);
    expect(proposedSheet('genset', build, project.loops.get('genset')!)).toMatchObject({ bench: 'genset bench', cycle: '100 ms' });
  });

  it('values of an enumeration have their names on the bench: in the sheet, in a fault and in the trace', () => {
    const source = benchViews(project)[0]!.channels.find(({ name }) => name === 'control.source');
    expect(source?.labels).toEqual(['Mains', 'Nothing', 'Diesel']);
    const order = benchOrder(project, 'Told wrongly');
    const { result, trace } = performRun(order, undefined, false, [new AtOnce(order)]);
    expect(result.error).toBeUndefined();
    const written = trace.columns.find(({ name }) => name === 'control.source as written')!;
    expect(written.labels).toEqual(['Mains', 'Nothing', 'Diesel']);
    expect(Array.from(written.data)).toContain(2);
    const { outputs } = order.experiment.hosts![0]!.bench!;
    const channel = outputs.find(({ name }) => name === 'control.source')!;
    expect(heldFault({ channel: channel.name, stuck: 'Nothing' }, channel, outputs)).toEqual({ kind: channelFaultKinds.stuck, amount: 1 });
  });

  it('a value that an enumeration does not have is told, with those it has', () => {
    const told = (value: string) => replaced('cases/told.yaml', 'stuck: Nothing', `stuck: ${value}`).faults.map(({ message }) => message);
    expect(told('Deisel')).toEqual(['"Deisel" is no value of control.source; it has Mains, Nothing, Diesel.']);
    expect(told('Source#Diesel')).toEqual([]);
    const ofNumber = replaced('cases/told.yaml', 'channel: control.source, stuck: Nothing', 'channel: level, stuck: Nothing').faults;
    expect(ofNumber.map(({ message }) => message)).toEqual(['"Nothing" is no value of level, which is LREAL.']);
  });
});
