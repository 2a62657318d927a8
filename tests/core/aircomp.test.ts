import { beforeAll, describe, expect, it } from 'vitest';
import type { SourceFile } from '@/core/documents';
import { type CheckedProject, checkProject, orderRun, performRun } from '@/core/project';
import { Reader, termsOf } from '@/core/reading';
import { readFolder } from '@/server/folder';
import { differences, threeWays } from '../support/code';
import { column } from '../support/project';

let files: readonly SourceFile[];
let project: CheckedProject;
beforeAll(async () => {
  files = (await readFolder('tests/projects/aircomp')).files;
  project = checkProject(files);
});
const run = (name: string) => performRun(orderRun(project, project.cases.find((one) => one.experiment.case === name)!));

/** bar a second that the whole delivery of 10 m³/min makes in 2 m³ at 1.013 bar. */
const fill = (10 / 60) * (1.013 / 2);
type Trace = ReturnType<typeof run>['trace'];

/** When a truth changes, and to what. */
function edges(trace: Trace, name: string): [seconds: number, value: number][] {
  const { time, data } = column(trace, name);
  return [...data].flatMap((value, row): [number, number][] => (row > 0 && value !== data[row - 1] ? [[Number(time[row]!.toFixed(3)), value]] : []));
}

/** The station as its author would put it in a few lines, tick by tick, with air that is counted straight on. */
class Station {
  motor = false;
  load = false;
  private phase: 'rest' | 'run up' | 'load' | 'idle' = 'rest';
  private since = 0;
  private pressure = 5;
  private isFull = false;
  private motorBefore = false;
  private seenBefore = false;
  private readonly starts: number[] = [];

  /** @param demand m³/min since the tick before */
  tick(tick: number, demand: number): void {
    if (tick > 0) this.pressure += (((this.load ? 10 : 0) - demand) / 60) * (1.013 / 2) * 0.1;
    this.isFull = this.isFull ? this.pressure > 6.2 : this.pressure >= 7;
    const seen = this.motorBefore;
    if (seen && !this.seenBefore) this.starts.push(tick);
    this.seenBefore = seen;
    while (this.step(tick));
    this.motorBefore = this.motor;
  }

  private step(tick: number): boolean {
    const lasted = tick - this.since;
    const mayStop = this.starts.length < 6 || tick - this.starts.at(-6)! >= 36_000;
    if (this.phase === 'rest' && !this.isFull) return this.go(tick, 'run up', true, false);
    if (this.phase === 'run up' && lasted >= 30) return this.go(tick, 'load', true, true);
    if (this.phase === 'load' && this.isFull) return this.go(tick, 'idle', true, false);
    if (this.phase === 'idle' && !this.isFull) return this.go(tick, 'load', true, true);
    if (this.phase === 'idle' && lasted >= 600 && mayStop) return this.go(tick, 'rest', false, false);
    return false;
  }

  private go(tick: number, phase: Station['phase'], motor: boolean, load: boolean): boolean {
    [this.phase, this.since, this.motor, this.load] = [phase, tick, motor, load];
    return true;
  }
}

describe('a compressed air station', () => {
  it('is without a fault, and keeps all that is asked of it', () => {
    expect([project.faults, project.warnings]).toEqual([[], []]);
    const verdicts = project.cases.map((test) =>
      performRun(orderRun(project, test)).result.results.map(({ requirement, verdict }) => `${requirement} ${verdict}`),
    );
    // How often the motor starts in an hour stays open in a run of 45 minutes.
    expect(verdicts.flat().filter((one) => !/pass|none/.test(one))).toEqual(['CA-02 inconclusive']);
    for (const number of project.project.requirements.keys()) expect(verdicts.flat()).toContain(`CA-${String(number + 1).padStart(2, '0')} pass`);
  });

  it('fills the receiver, idles a minute and stops, at the ticks that can be worked out by hand', () => {
    const { trace } = run('Fill');
    // Three seconds to run up; then from 5 bar to 7 bar in 23.69 s, seen at the next tick; a minute later the motor stops.
    const full = Math.ceil((3 + 2 / fill) * 10) / 10;
    expect(edges(trace, 'station.load')).toEqual([
      [3, 1],
      [full, 0],
    ]);
    expect(edges(trace, 'station.motor').at(-1)).toEqual([Number((full + 60).toFixed(3)), 0]);
    expect(column(trace, 'receiver.pressure').data.at(-1)).toBeCloseTo(5 + fill * (full - 3), 9);
  });

  it('starts and loads through a night as a few lines of another program do, tick by tick', () => {
    const { trace } = run('Night');
    const station = new Station();
    const wanted = { motor: [] as [number, number][], load: [] as [number, number][] };
    for (let tick = 0; tick <= 432_000; tick += 1) {
      const before = [station.motor, station.load];
      station.tick(tick, tick > 180_000 && tick <= 216_000 ? 8 : 1);
      if (tick > 0 && station.motor !== before[0]) wanted.motor.push([tick / 10, Number(station.motor)]);
      if (tick > 0 && station.load !== before[1]) wanted.load.push([tick / 10, Number(station.load)]);
    }
    expect(wanted.load.length).toBeGreaterThan(400);
    expect(edges(trace, 'station.motor').filter(([at]) => at > 0)).toEqual(wanted.motor);
    expect(edges(trace, 'station.load')).toEqual(wanted.load);
    const starts = wanted.motor.filter(([, value]) => value === 1).map(([at]) => at);
    for (const [index, at] of starts.entries()) if (index >= 6) expect(at - starts[index - 6]!).toBeGreaterThanOrEqual(3600);
  });

  it('blocks on hot oil as late as the sensor and the two seconds make it, and comes back', () => {
    const { trace, result } = run('Hot summer');
    // Towards 85 °C for three seconds, then towards 110 °C, by a time constant of 600 s.
    const loaded = 85 - 60 * Math.exp(-3 / 600);
    const seen = 3 + 600 * Math.log((110 - loaded) / 5) + 4;
    const blocked = Math.ceil(seen * 10) / 10 + 2;
    const phase = column(trace, 'station.phase');
    const first = phase.data.indexOf(4);
    expect(phase.time[first]).toBeCloseTo(blocked, 9);
    const motor = edges(trace, 'station.motor').filter(([at]) => at > 0);
    expect(motor[0]).toEqual([Number(blocked.toFixed(3)), 0]);
    expect(result.expected.map((one) => one.outcome)).toEqual(['met']);
    // The sensor shows what the oil was four seconds before, all the time.
    const [oil, shown] = [column(trace, 'compressor.oil'), column(trace, 'compressor.oil_seen')];
    for (let row = 200; row < oil.data.length; row += 97) {
      const at = oil.time[row]! - 4;
      const before = oil.time.findIndex((time) => time >= at - 1e-9);
      if (Math.abs(oil.time[before]! - at) < 1e-9) expect(shown.data[row]).toBeCloseTo(oil.data[before]!, 6);
    }
  });

  it('does the same as code, with an enumeration on its face and parameters of a function block', async () => {
    for (const name of ['Fill', 'Hot summer']) {
      const { model, code, hosted } = await threeWays(project, name);
      expect(code.result.error).toBeUndefined();
      expect(differences(hosted.trace, code.trace)).toEqual([]);
      for (const signal of ['station.phase', 'station.motor', 'guard.may_stop', 'receiver.pressure', 'compressor.oil_seen'])
        expect([...column(code.trace, signal).data]).toEqual([...column(model.trace, signal).data]);
      expect(code.result.results.map(({ verdict }) => verdict)).toEqual(model.result.results.map(({ verdict }) => verdict));
    }
  });

  it('with one start an hour idles on, and with a shorter span stops sooner: the parameters of the block are those of the loop', () => {
    const motorEdges = (parameters: string): number => {
      const tuned = files.map((file) =>
        file.path === 'loops/air.yaml'
          ? { ...file, text: file.text.replace('guard: { use: StartGuard }', `guard: { use: StartGuard, parameters: ${parameters} }`) }
          : file,
      );
      const changed = checkProject(
        tuned.map((file) => (file.path === 'cases/night.yaml' ? { ...file, text: file.text.replace('12 h', '3 h') } : file)),
      );
      expect(changed.faults).toEqual([]);
      const night = changed.cases.find((one) => one.experiment.case === 'Night')!;
      return edges(performRun(orderRun(changed, night)).trace, 'station.motor').filter(([, value]) => value === 1).length;
    };
    const [usual, once, quick] = [motorEdges('{ most: 6 }'), motorEdges('{ most: 1 }'), motorEdges('{ most: 6, span: T#6m }')];
    expect(once).toBeLessThan(usual);
    expect(once).toBeLessThanOrEqual(3);
    expect(quick).toBeGreaterThan(2 * usual);
  });

  it('is read from its prose as its author has put it', () => {
    const catalogues = [...project.loops.values()].map((loop) => loop.catalogue);
    const reader = new Reader(termsOf(catalogues), { synonyms: {}, vague: {} });
    const proposed = project.project.requirements.map(({ raw }) => reader.read(raw.text).proposals.map((one) => one.sentence));
    expect(proposed).toEqual([
      ['always pressure <= 7.5 bar'],
      ['count of station.motor rises in any 1 h <= 6'],
      ['if oil_seen > 105 °C for 2 s, within 200 ms NOT station.motor'],
      // What blocks the station is a value of an enumeration, which prose does not name; what follows a temperature is not "within" it.
      [],
      ['while station.load, station.motor'],
      ['while plant.Idle, NOT station.load'],
      ['always rate of pressure <= 0.1 bar/s'],
      ['when pressure < 6.2 bar rises while plant.Idle, within 200 ms station.load'],
      [],
      ['between station.motor rises and station.motor rises at least 8 s'],
    ]);
  });
});
