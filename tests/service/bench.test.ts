import { type ChildProcess, spawn, spawnSync } from 'node:child_process';
import { mkdtempSync, readdirSync, readFileSync } from 'node:fs';
import { mkdir, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import ModbusRTU from 'modbus-serial';
import { afterAll, afterEach, beforeAll, describe, expect, it } from 'vitest';
import { holding, said, states } from '@/bench/protocol';
import { type BenchMoment, benchOf, type CheckedProject, liveOrder, type RunResult } from '@/core/project';
import { receivedTrace, type Trace } from '@/core/trace';
import { checkBench, liveSession, startLive } from '@/server/bench';
import { built, orderAtStage, programOf } from '@/server/builds';
import { type Ran, RunPool } from '@/server/pool';
import { kilnDocuments, kilnProject, timedGuard } from '../support/kiln';
import { column } from '../support/project';

/** Kills of each kind; ten with OVRAND_LONG=1. */
const rounds = process.env.OVRAND_LONG === '1' ? 10 : 2;

/** A bench of these tests' own: the application has the one of that name, and each is reserved for one at a time. */
const sheet = kilnDocuments['benches/kiln.yaml']!.replace('Kiln bench', 'Kiln of the service tests');
const kiln = (more: Readonly<Record<string, string>> = {}): CheckedProject => kilnProject({ 'benches/kiln.yaml': sheet, ...more });
const started: ChildProcess[] = [];

/** A program that tells its port in the first line. */
async function server(command: string, args: readonly string[]): Promise<{ readonly process: ChildProcess; readonly port: number }> {
  const child = spawn(command, args, { stdio: ['ignore', 'pipe', 'inherit'] });
  started.push(child);
  const port = await new Promise<number>((resolve, reject) => {
    child.once('exit', () => reject(new Error(`${command} ended`)));
    child.stdout!.once('data', (text) => resolve(Number(/(\d+)(?:;|\s*$)/m.exec(String(text))?.[1])));
  });
  return { process: child, port };
}

const device = (folder = mkdtempSync(path.join(tmpdir(), 'ovrand-device-'))) =>
  server(process.execPath, ['dist/cli.mjs', 'device', '--port', '0', '--late', '2000', '--folder', folder]);

const at = (port: number, more = ''): CheckedProject => kiln({ 'benches/kiln.yaml': `${sheet}controller: "127.0.0.1:${port}"\n${more}` });

async function made(pool: RunPool, project: CheckedProject, name: string): Promise<{ readonly result: RunResult; readonly trace: Trace }> {
  const test = project.cases.find((one) => one.experiment.case === name)!;
  const ran: Ran = await pool.run((await orderAtStage(project, test, 'bench')).order);
  return { result: ran.result, trace: ran.trace ? receivedTrace(ran.trace) : (undefined as never) };
}

/** Processes whose command line has a word, of this very test's family: those that this process or its children have started. */
function processes(word: string): number[] {
  const all = readdirSync('/proc').filter((name) => /^\d+$/.test(name));
  const read = (pid: string, file: string): string => {
    try {
      return readFileSync(`/proc/${pid}/${file}`, 'utf8');
    } catch {
      return '';
    }
  };
  const parentOf = (pid: string): string => /\) \S (\d+)/.exec(read(pid, 'stat'))?.[1] ?? '0';
  const isOurs = (pid: string): boolean => {
    for (let one = pid; one !== '0' && one !== '1'; one = parentOf(one)) if (one === String(process.pid)) return true;
    return false;
  };
  return all.filter((pid) => read(pid, 'cmdline').includes(word) && !/\) Z/.test(read(pid, 'stat')) && isOurs(pid)).map(Number);
}

async function one(word: string): Promise<number> {
  await expect.poll(() => processes(word), { timeout: 60_000 }).toHaveLength(1);
  return processes(word)[0]!;
}

/** What the controller says of itself. */
async function saidBy(port: number, from: number, count = 1): Promise<number[]> {
  const bus = new ModbusRTU();
  await bus.connectTCP('127.0.0.1', { port });
  bus.setTimeout(60_000);
  const { data } = await bus.readInputRegisters(from, count);
  bus.close(() => undefined);
  return data;
}

async function parametersOf(port: number): Promise<number[]> {
  const words = await saidBy(port, said.parameterValues, 8);
  const bytes = Buffer.alloc(16);
  words.forEach((word, index) => {
    bytes.writeUInt16BE(word, 2 * index);
  });
  return [bytes.readDoubleBE(0), bytes.readDoubleBE(8)];
}

const pool = new RunPool(2);
afterAll(async () => {
  await pool.close();
  for (const child of started) child.kill('SIGKILL');
});

/** What stands still in the midst of a run, and for how long. */
interface Stop {
  readonly who: 'the bench' | 'the controller';
  readonly seconds: number;
  /** Once the controller has done more cycles than that. */
  readonly after: number;
}

/** A run of "Heat" on a device, in the midst of which one of the two stands still. */
async function stopped(own: Awaited<ReturnType<typeof device>>, project: CheckedProject, stop: Stop): Promise<Awaited<ReturnType<typeof made>>> {
  const running = made(pool, project, 'Heat');
  await expect.poll(() => saidBy(own.port, said.state), { timeout: 60_000 }).toEqual([states.running]);
  const pid = stop.who === 'the bench' ? await one('bench-runner') : own.process.pid!;
  // Its time counts by then.
  await expect.poll(async () => (await saidBy(own.port, said.cycles, 2))[1]! > stop.after, { timeout: 60_000 }).toBe(true);
  process.kill(pid, 'SIGSTOP');
  await new Promise((resolve) => setTimeout(resolve, 1000 * stop.seconds));
  process.kill(pid, 'SIGCONT');
  return running;
}

/** The same for longer than a cycle may be late. @param more of its sheet */
function stoodStill(own: Awaited<ReturnType<typeof device>>, who: Stop['who'], more = ''): Promise<Awaited<ReturnType<typeof made>>> {
  const strict = kiln({ 'benches/kiln.yaml': `${sheet.replace('lateness: 2 s', 'lateness: 1 s')}${more}controller: "127.0.0.1:${own.port}"\n` });
  return stopped(own, strict, { who, seconds: 1.5, after: 3 });
}

describe('a run on a stand-in', () => {
  const project = kiln();
  let heat: Awaited<ReturnType<typeof made>>;
  beforeAll(async () => {
    heat = await made(pool, project, 'Heat');
  });

  it('is judged by what the bench sees, and agrees with the model', () => {
    const { result } = heat;
    expect([result.error, result.stage, result.verdict]).toEqual([undefined, 'bench', 'pass']);
    expect(result.results.map((one) => one.requirement)).toEqual(['K1', 'K3']);
    expect(result.backToBack?.words).toContain('answers as the model does');
    expect(result.bench?.timing).toMatchObject({ cycles: 40, cycleUs: 100_000, overruns: 0 });
  });

  it('gets hot, by counts of 12 bits, and tells the states of its charts', () => {
    const { trace } = heat;
    const read = column(trace, 'law_temperature as read').data;
    expect(read.every((value) => Number.isInteger(Math.round((819 + ((value + 20) / 1320) * 3276) * 1e6) / 1e6))).toBe(true);
    expect([...new Set(column(trace, 'guard.wire').data)]).toEqual([1]);
    expect(Math.max(...column(trace, 'chamber.t').data)).toBeGreaterThan(482);
    expect([...new Set(column(trace, 'tally.long').data)]).toEqual([0, 1]);
  });

  it('has the parameters of its case, and those that its script changes', async () => {
    const { result, trace } = await made(pool, project, 'Tuned');
    expect(result.error).toBeUndefined();
    const heating = column(trace, 'law.heating');
    const mean = (from: number, until: number): number => {
      const values = heating.data.filter((_, index) => heating.time[index]! > from && heating.time[index]! < until);
      return values.reduce((sum, value) => sum + value, 0) / values.length;
    };
    expect(mean(1, 2)).toBeLessThan(60);
    expect(mean(3, 4)).toBe(100);
    expect(result.backToBack?.parted).toEqual([]);
  });

  it('shows a broken wire as the controller sees it, and its alarm', async () => {
    const { result, trace } = await made(pool, project, 'Broken');
    expect(result.expected.map((one) => one.outcome)).toEqual(['met', 'met']);
    expect(Math.min(...column(trace, 'guard_temperature as read').data)).toBeCloseTo(-350, 0);
    expect(Math.min(...column(trace, 'law_temperature as read').data)).toBeGreaterThan(0);
    expect([...new Set(column(trace, 'guard_temperature fault').data)]).toEqual([0, 7]);
    expect(trace.columns.some((one) => one.name === 'law_temperature fault')).toBe(false);
  });

  it('goes on after the bus was frozen, lost, or the power was gone', async () => {
    const script = (state: string): string => `  - hold: 0.5 s\n  - bench: { bus: ${state} }\n  - hold: 0.5 s\n  - bench: { bus: sound }\n`;
    const bad = kiln({
      'cases/bus.yaml': `case: Bus\nloop: kiln\nstimuli: { on: [{ hold: TRUE }] }\nscript:\n${script('frozen')}${script('lost')}${script('power cycle')}`,
    });
    const { result, trace } = await made(pool, bad, 'Bus');
    expect(result.error).toBeUndefined();
    expect([...new Set(column(trace, 'bus fault').data)]).toEqual([0, 1, 2, 3]);
    const [heating, bus] = [column(trace, 'law.heating').data, column(trace, 'bus fault').data];
    expect([...new Set(heating.filter((_, index) => bus[index] === 3))]).toEqual([0]);
    expect(heating.at(-1)).toBeGreaterThan(10);
  });

  it('runs one after the other, and leaves no process behind', async () => {
    const both = await Promise.all([made(pool, project, 'Heat'), made(pool, project, 'Heat')]);
    expect(both.map(({ result }) => [result.error, result.verdict])).toEqual([
      [undefined, 'pass'],
      [undefined, 'pass'],
    ]);
    await expect.poll(() => [...processes('bench-runner'), ...processes('device-process')], { timeout: 60_000 }).toEqual([]);
  });

  it('tries each wire', async () => {
    const { order } = await orderAtStage(project, project.cases[0]!, 'bench');
    const found = await checkBench(order as never);
    if (typeof found === 'string') throw new Error(found);
    const names = ['law_temperature', 'on', 'guard_temperature', 'power', 'law.heating', 'guard.alarm', 'tally.long'];
    expect(found.map(({ name, isSound, words }) => [name, isSound || words])).toEqual(names.map((name) => [name, true]));
    expect(found.filter((one) => one.ms !== undefined)).toHaveLength(4);
  });
});

describe('a controller at an address', () => {
  let port: number;
  beforeAll(async () => {
    port = (await device()).port;
  });

  it('is in its safe state after a run, with its parameters as designed', async () => {
    const { result } = await made(pool, at(port), 'Tuned');
    expect(result.error).toBeUndefined();
    expect(await saidBy(port, said.state)).toEqual([states.stopped]);
    expect(await parametersOf(port)).toEqual([500, 2]);
    expect(await saidBy(port, said.outputValues, 3)).toEqual([0, 0, 0]);
  });

  it('that is not there is told', async () => {
    const { result } = await made(pool, at(1), 'Heat');
    expect(result.error?.message).toContain('no controller answers at 127.0.0.1:1');
  });

  it('is brought to its safe state when the process of the bench is killed, and the next run works', async () => {
    for (let round = 0; round < rounds; round += 1) {
      const running = made(pool, at(port), 'Tuned');
      const runner = await one('bench-runner');
      await expect.poll(() => saidBy(port, said.state), { timeout: 60_000 }).toEqual([states.running]);
      process.kill(runner, 'SIGKILL');
      const { result } = await running;
      expect([result.verdict, result.error?.message]).toEqual(['error', 'the process of the bench ended unexpectedly (SIGKILL)']);
      expect(await saidBy(port, said.state)).toEqual([states.stopped]);
      expect(await parametersOf(port)).toEqual([500, 2]);
    }
    expect((await made(pool, at(port), 'Heat')).result.verdict).toBe('pass');
  });

  it('is brought to its safe state when it is run by hand and the process of the bench is killed', async () => {
    const project = at(port);
    const bench = benchOf(project, 'kiln');
    if (typeof bench === 'string') throw new Error(bench);
    const order = liveOrder(project, bench, 'kiln', programOf(bench, (await built(project, 'kiln')).build));
    if (typeof order === 'string') throw new Error(order);
    expect(startLive('killed', order, 'a test')).toBeUndefined();
    await expect.poll(() => liveSession('killed')!.status(0).state, { timeout: 60_000 }).toBe('running');
    expect(liveSession('killed')!.act({ do: 'tune', name: 'law.wanted', value: 700 })).toBeUndefined();
    await expect.poll(() => parametersOf(port), { timeout: 60_000 }).toEqual([700, 2]);
    process.kill(await one('bench-runner'), 'SIGKILL');
    await liveSession('killed')!.ended;
    expect(liveSession('killed')!.status(0).why).toBe('the process of the bench ended unexpectedly');
    expect(await saidBy(port, said.state)).toEqual([states.stopped]);
    expect(await parametersOf(port)).toEqual([500, 2]);
  });

  it('that is killed ends the run with a sentence; the next one finds it again', async () => {
    const folder = mkdtempSync(path.join(tmpdir(), 'ovrand-device-'));
    for (let round = 0; round < rounds; round += 1) {
      const own = await device(folder);
      const running = made(pool, at(own.port), 'Heat');
      await expect.poll(() => saidBy(own.port, said.state), { timeout: 60_000 }).toEqual([states.running]);
      own.process.kill('SIGKILL');
      const { result } = await running;
      expect(result.verdict).toBe('error');
      expect(result.error?.message).toMatch(/the connection to the controller is lost|did not answer in time/);
      expect(result.error?.message).toContain('could not be brought to its safe state');
    }
    const again = await device(folder);
    expect((await made(pool, at(again.port), 'Heat')).result).toMatchObject({ verdict: 'pass' });
  });

  it.each([
    ['the bench', /the bench missed its time/],
    ['the controller', /missed its time|did not answer in time/],
  ] as const)('%s that stands still for longer than it may makes the run an error', async (who, message) => {
    const { result } = await stoodStill(await device(), who);
    expect(result.verdict).toBe('error');
    expect(result.error?.message).toMatch(message);
  });

  it('that has missed its time is made anew, where its sheet says so', async () => {
    const { result } = await stoodStill(await device(), 'the bench', 'attempts: 3\n');
    expect(result).toMatchObject({ verdict: 'pass', bench: { attempt: 2 } });
  });

  it('that fails only since the bench paused, as long as it may, is open, and made anew', async () => {
    const own = await device();
    const timed = (more = ''): CheckedProject =>
      kiln({
        'components/guard.yaml': timedGuard,
        'components/law.yaml': kilnDocuments['components/law.yaml']!.replace('period: 100 ms', 'period: 20 ms').replace('value: 2,', 'value: 12,'),
        'requirements/r.yaml':
          'section: Kiln\nrequirements:\n  - requirement: K1\n    text: The alarm sounds for 1.2 s.\n    criteria:\n      - { criterion: sounds, sentence: "when enters guard.wire.Broken, for 1.2 s guard.alarm", accepted: { by: me, on: 2026-12-01 } }\n',
        'benches/kiln.yaml': `${sheet}${more}controller: "127.0.0.1:${own.port}"\n`,
      });
    // By the controller's clock the alarm is over while the bench stands still: it comes out 0.4 s long.
    const stop: Stop = { who: 'the bench', seconds: 1.6, after: 25 };
    await expect
      .poll(async () => (await stopped(own, timed(), stop)).result, { timeout: 120_000 })
      .toMatchObject({
        verdict: 'inconclusive',
        bench: { undecided: 1 },
        results: [{ verdict: 'inconclusive', obligations: [{ reason: expect.stringContaining('which passes where nothing pauses') }] }],
      });
    const { result } = await stopped(own, timed('attempts: 9\n'), stop);
    expect([result.verdict, result.bench?.undecided]).toEqual(['pass', undefined]);
  });

  it('is let go when whoever asked for the run is killed, and left in its safe state', async () => {
    const folder = mkdtempSync(path.join(tmpdir(), 'ovrand-project-'));
    const documents = { ...kilnDocuments, 'benches/kiln.yaml': `${sheet}controller: "127.0.0.1:${port}"\n` };
    for (const [file, text] of Object.entries(documents)) {
      await mkdir(path.dirname(path.join(folder, file)), { recursive: true });
      await writeFile(path.join(folder, file), text);
    }
    for (let round = 0; round < rounds; round += 1) {
      const command = spawn(process.execPath, ['dist/cli.mjs', 'run', folder, '--stage', 'bench', '--case', 'Tuned'], { stdio: 'ignore' });
      started.push(command);
      await expect.poll(() => saidBy(port, said.state), { timeout: 60_000 }).toEqual([states.running]);
      command.kill('SIGKILL');
      await expect.poll(() => saidBy(port, said.state), { timeout: 60_000 }).toEqual([states.stopped]);
      await expect.poll(() => parametersOf(port), { timeout: 60_000 }).toEqual([500, 2]);
    }
    expect((await made(pool, at(port), 'Heat')).result.verdict).toBe('pass');
  });
});

describe('a device of one’s own', () => {
  it('of twenty lines, as docs/bench.md has it, runs the cases', async () => {
    const [program] = /```python\n([\s\S]+?)```/.exec(readFileSync('docs/bench.md', 'utf8'))!.slice(1);
    const folder = mkdtempSync(path.join(tmpdir(), 'ovrand-own-'));
    const file = path.join(folder, 'device.py');
    await writeFile(file, program!);
    const { port } = await server('python3', [file, '0']);
    const [, yaml] = /```yaml\n(bench: My device[\s\S]+?)```/.exec(readFileSync('docs/bench.md', 'utf8'))!;
    const own = kiln({
      'project.yaml': 'project: Kiln\ncontroller: { components: [Law] }\n',
      'components/law.yaml': kilnDocuments['components/law.yaml']!.replace(', on: { type: BOOL } }', ' }').replace(
        'SEL(on, 0.0, LIMIT(0.0, gain * (wanted - temperature), 100.0))',
        'SEL(temperature < wanted, 0.0, 100.0)',
      ),
      'loops/kiln.yaml': kilnDocuments['loops/kiln.yaml']!.replace('[law.on, tally.power]', '[tally.power]'),
      'cases/tuned.yaml': 'case: Tuned\nloop: kiln\n',
      'cases/broken.yaml': 'case: Broken\nloop: kiln\n',
      'benches/kiln.yaml': yaml!.replace('127.0.0.1:1502', `"127.0.0.1:${port}"`).replace('cycle: 100 ms', 'cycle: 100 ms\nlateness: 2 s'),
    });
    expect(own.faults).toEqual([]);
    const { result, trace } = await made(pool, own, 'Heat');
    expect(result.error).toBeUndefined();
    expect(result.bench?.build).toBeUndefined();
    expect([...new Set(column(trace, 'law.heating').data)].sort((a, b) => a - b)).toContain(100);
    expect(result.bench?.timing.controllerCycles).toBeGreaterThan(39);
  });
});

describe('a bench that is run by hand', () => {
  const key = 'kiln by hand';
  const project = kiln();
  const session = () => liveSession(key)!;
  const last = (): BenchMoment | undefined => session().status(0).moments.at(-1);
  const seen = (read: (moment: BenchMoment) => unknown) =>
    expect.poll(
      () => {
        const moment = last();
        return moment && read(moment);
      },
      { timeout: 60_000 },
    );

  const begin = async (): Promise<string | undefined> => {
    const bench = benchOf(project, 'kiln');
    if (typeof bench === 'string') throw new Error(bench);
    const { build } = await built(project, 'kiln');
    const order = liveOrder(project, bench, 'kiln', programOf(bench, build), { shadow: 'kiln' });
    if (typeof order === 'string') throw new Error(order);
    return startLive(key, order, 'a test');
  };

  beforeAll(async () => {
    expect(await begin()).toBeUndefined();
  });

  it('is made ready', async () => {
    await expect.poll(() => session().status(0).state, { timeout: 60_000 }).toBe('running');
  });
  afterEach(() => void session().act({ do: 'sound' }));
  afterAll(async () => {
    session().end('the test is over');
    await session().ended;
    expect(processes('bench-runner')).toEqual([]);
    expect(processes('device-process')).toEqual([]);
  });

  it('is nobody else’s meanwhile', async () => {
    const { order } = await orderAtStage(project, project.cases[0]!, 'bench');
    expect(await checkBench(order as never)).toBe('The bench is taken by a test. Try again once it is free.');
  });

  it('shows the answer of the model beside that of the controller', async () => {
    expect(session().act({ do: 'set', name: 'on', value: 1 })).toBeUndefined();
    await seen((moment) => moment.written[0]! > 20).toBe(true);
    await seen((moment) => Math.abs(moment.written[0]! - moment.answer[0]!) < 3).toBe(true);
  });

  it('has the plant beside it, which is the same here and so does the same', async () => {
    await seen((moment) => moment.shadow!.process[0] !== 480 && moment.shadow!.process[0] === moment.shadow!.model[0]).toBe(true);
    await expect
      .poll(() => session().status(0).agreement?.signals[0], { timeout: 60_000 })
      .toMatchObject({ name: 'chamber.temperature', agrees: true, largest: 0 });
  });

  it('takes parameters within their limits, and sets them back', async () => {
    expect(session().act({ do: 'tune', name: 'law.wanted', value: 5000 })).toBe('law.wanted lies between 0 and 1200 °C.');
    expect(session().act({ do: 'tune', name: 'law.want', value: 5 })).toBe('There is no "law.want" to be set on this bench.');
    expect(session().act({ do: 'tune', name: 'law.wanted', value: 900 })).toBeUndefined();
    await seen((moment) => [moment.parameters[0], moment.written[0]]).toEqual([900, 100]);
    expect(session().status(0).tuned).toEqual({ 'law.wanted': 900 });
    expect(session().act({ do: 'back' })).toBeUndefined();
    await seen((moment) => moment.parameters[0]).toBe(500);
    expect(session().status(0).tuned).toEqual({});
  });

  it('arms faults, and takes them all off', async () => {
    expect(session().act({ do: 'fault', fault: { channel: 'guard_temperature', broken: true } })).toBeUndefined();
    expect(session().act({ do: 'fault', fault: { channel: 'on', gain: 2 } })).toBe('On is BOOL; it can be stuck, dropped, broken, late or swapped.');
    await seen((moment) => moment.written[1]).toBe(1);
    expect(session().status(0).faults).toHaveLength(1);
    expect(session().act({ do: 'sound' })).toBeUndefined();
    await seen((moment) => moment.written[1]).toBe(0);
    expect(session().status(0).faults).toEqual([]);
  });

  it('finds a controller again that was killed', async () => {
    process.kill(await one('device-process'), 'SIGKILL');
    await expect
      .poll(
        () =>
          session()
            .status(0)
            .moments.some((moment) => !moment.isConnected),
        { timeout: 60_000 },
      )
      .toBe(true);
    await seen((moment) => moment.isConnected && moment.state === states.running).toBe(true);
    await seen((moment) => moment.problem).toBe('');
  });

  it('has the controller begin anew after its watchdog has run out', async () => {
    expect(session().act({ do: 'fault', fault: { bus: 'frozen' } })).toBeUndefined();
    await new Promise((resolve) => setTimeout(resolve, 6000));
    expect(session().act({ do: 'fault', fault: { bus: 'sound' } })).toBeUndefined();
    await seen((moment) => moment.state).toBe(states.running);
  });
});

it('a plant runs beside a recording, as fast as it was recorded, and is told where it can be trusted', async () => {
  const recording = path.join(mkdtempSync(path.join(tmpdir(), 'ovrand-recording-')), 'kiln.csv');
  const ovrand = (...args: string[]) => spawnSync(process.execPath, ['dist/cli.mjs', ...args], { encoding: 'utf8' });
  await writeFile(recording, ovrand('trace', 'tests/projects/kiln', '--case', 'Heat').stdout);
  const began = performance.now();
  const { status, stdout } = ovrand('shadow', 'tests/projects/kiln', '--loop', 'kiln', '--recording', recording, '--speed', '2');
  expect(performance.now() - began).toBeGreaterThan(1900);
  expect([status, stdout]).toEqual([0, expect.stringMatching(/4 s of 4 s: .*\n {2}chamber.temperature: trust from 480[\d.]* to [\d.]+ °C\n$/s)]);
  const other = ovrand('shadow', 'tests/projects/kiln', '--loop', 'kiln', '--recording', 'tests/projects/kiln/project.yaml');
  expect([other.status, other.stderr]).toEqual([3, expect.stringContaining('the first column must be "time[s]"')]);
});

it('the registers are those of the protocol', () => expect([holding.inputs, said.outputValues]).toEqual([1000, 1000]));
