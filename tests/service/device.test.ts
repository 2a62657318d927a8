import { type ChildProcess, spawn } from 'node:child_process';
import { mkdtempSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import ModbusRTU from 'modbus-serial';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Memory } from '@/bench/device/memory';
import { answers, blockBytes, commands, hashOf, holding, packed, registerCount, said, states } from '@/bench/protocol';
import { type Channel, countOf, fromCount, headerOf, type PackageHeader, resolution } from '@/core/bench';
import { buildOf, libraryOf } from '../support/code';
import { projectOf } from '../support/project';

const project = projectOf({
  'components/law.yaml': `component: Law
inputs: { reading: { type: LREAL, unit: Cel, min: 0, max: 200 }, on: { type: BOOL }, step: { type: INT, min: -10, max: 10 } }
outputs: { heat: { type: LREAL, unit: "%", min: 0, max: 100 }, warm: { type: BOOL }, count: { type: INT } }
parameters: { wanted: { value: 80, min: 0, max: 150 }, gain: { value: 2 } }
behaviour: { kind: routine, period: 10 ms, body: "heat := LIMIT(0.0, gain * (wanted - reading), 100.0); warm := on AND reading > wanted; count := count + step;" }
`,
  'loops/l.yaml':
    'loop: l\ncomponents: { law: { use: Law } }\ninputs: { reading: { to: law.reading }, on: { to: law.on }, step: { to: law.step } }\nunused: [law.heat, law.warm, law.count]\nsolver: { method: runge-kutta-4, step: 10 ms }\nstop: 1 s\n',
  'cases/c.yaml': 'case: only\nloop: l\n',
});
const planned = buildOf(project, 'l');
const machine = `${process.platform} ${process.arch}`;

/** A controller as a process of its own, and a client of another make. */
class Bench {
  process!: ChildProcess;
  bus = new ModbusRTU();
  private port = 0;

  constructor(readonly folder = mkdtempSync(path.join(tmpdir(), 'ovrand-device-'))) {}

  async start(): Promise<void> {
    this.process = spawn(process.execPath, ['dist/cli.mjs', 'device', '--port', String(this.port), '--folder', this.folder], {
      stdio: ['ignore', 'pipe', 'inherit'],
    });
    this.port = await new Promise<number>((resolve, reject) => {
      this.process.once('exit', () => reject(new Error('the device ended')));
      this.process.stdout!.on('data', (text) => {
        const port = /:(\d+);/.exec(String(text))?.[1];
        if (port) resolve(Number(port));
      });
    });
    this.bus = new ModbusRTU();
    await this.bus.connectTCP('127.0.0.1', { port: this.port });
    this.bus.setTimeout(60_000);
  }

  async kill(): Promise<void> {
    const ended = new Promise((resolve) => this.process.once('exit', resolve));
    this.process.kill('SIGKILL');
    await ended;
    // Where the other end has gone, the library never tells that it has closed.
    this.bus.close(() => undefined);
  }

  async said(at: number, count = 1): Promise<number[]> {
    return (await this.bus.readInputRegisters(at, count)).data;
  }

  async state(): Promise<number> {
    return (await this.said(said.state))[0]!;
  }

  async command(command: number): Promise<number> {
    await this.bus.writeRegister(holding.command, command);
    return (await this.said(said.answer))[0]!;
  }

  async load(bytes: Buffer, hash = hashOf(bytes)): Promise<number> {
    await this.bus.writeRegisters(holding.uploadBytes, [bytes.length >> 16, bytes.length & 0xffff, ...words(hash)]);
    for (let block = 0; block * blockBytes < bytes.length; block += 1)
      await this.bus.writeRegisters(holding.block, [block, ...words(bytes.subarray(block * blockBytes, (block + 1) * blockBytes))]);
    return this.command(commands.load);
  }

  async cycles(): Promise<number> {
    const [high = 0, low = 0] = await this.said(said.cycles, 2);
    return high * 65_536 + low;
  }

  /** Until the controller has done some more cycles. */
  async later(cycles = 3): Promise<void> {
    const until = (await this.cycles()) + cycles;
    await expect.poll(() => this.cycles()).toBeGreaterThanOrEqual(until);
  }
}

function words(bytes: Buffer): number[] {
  return Array.from({ length: Math.ceil(bytes.length / 2) }, (_, index) => ((bytes[2 * index] ?? 0) << 8) | (bytes[2 * index + 1] ?? 0));
}

function number(value: number): number[] {
  const bytes = Buffer.alloc(8);
  bytes.writeDoubleBE(value);
  return words(bytes);
}

describe('a channel', () => {
  const level: Channel = { name: 'level', type: 'LREAL', unit: 'm', low: -1, high: 7, bits: 12, filterMs: 0 };
  it.each([12, 16] as const)('of %i bits gives back a value to half a count, ends exactly, and what lies outside as an end', (bits) => {
    const channel = { ...level, bits };
    for (let value = -1; value <= 7; value += 0.0137)
      expect(Math.abs(fromCount(channel, countOf(channel, value)) - value)).toBeLessThanOrEqual(resolution(channel) * 1.000001);
    expect([fromCount(channel, countOf(channel, -1)), fromCount(channel, countOf(channel, 7)), countOf(channel, 9), countOf(channel, -9)]).toEqual([
      -1,
      7,
      2 ** bits - 1,
      0,
    ]);
    expect(countOf(channel, Number.NaN)).toBe(0);
  });
  it('takes TRUE and whole numbers as they are', () => {
    for (const value of [-32_768, -1, 0, 5, 32_767])
      expect(fromCount({ ...level, type: 'INT' }, countOf({ ...level, type: 'INT' }, value))).toBe(value);
    expect(fromCount({ ...level, type: 'UINT' }, countOf({ ...level, type: 'UINT' }, 65_535))).toBe(65_535);
    expect(fromCount({ ...level, type: 'BOOL' }, countOf({ ...level, type: 'BOOL' }, 1))).toBe(1);
  });
});

it('inputs that come just as it is looked how old they are are new', () => {
  const memory = new Memory();
  memory.noteInputs();
  // As another thread may write it between the two readings of the clock.
  const noted = new Int32Array(memory.buffer, 4 * registerCount, 4);
  noted[3] = ((noted[3] ?? 0) + 60_000) & 0x7fffffff;
  expect(memory.sinceInputs).toBe(0);
});

describe('a controller that stands in', () => {
  const bench = new Bench();
  let bytes: Buffer;
  let header: PackageHeader;
  const input = (name: string): number => holding.inputs + header.inputs.findIndex((one) => one.name === name);
  const output = async (name: string): Promise<number> => {
    const index = header.outputs.findIndex((one) => one.name === name);
    return fromCount(header.outputs[index]!, (await bench.said(said.outputValues + index))[0]!);
  };
  const give = (name: string, value: number): Promise<unknown> =>
    bench.bus.writeRegister(input(name), countOf(header.inputs.find((one) => one.name === name)!, value));

  beforeAll(async () => {
    header = headerOf(planned, '2026-12-01T06:00:00.000Z', machine, new Map([['reading', { bits: 12 as const }]]));
    bytes = packed(header, readFileSync(await libraryOf(planned)));
    await bench.start();
  });
  afterAll(() => bench.kill());

  it('is empty at first, and refuses what is damaged, cut short, or for another machine', async () => {
    expect(await bench.said(said.version, 2)).toEqual([1, states.empty]);
    expect(await bench.command(commands.run)).toBe(answers['not now']);
    const damaged = Buffer.from(bytes);
    damaged[bytes.length - 10]! ^= 1;
    expect(await bench.load(damaged, hashOf(bytes))).toBe(answers.damaged);
    expect(await bench.load(bytes.subarray(0, 3))).toBe(answers.damaged);
    expect(await bench.load(packed({ ...header, machine: 'other' }, Buffer.from('x')))).toBe(answers['not for this controller']);
    expect(await bench.state()).toBe(states.empty);
    expect(await bench.command(99)).toBe(answers.unknown);
  });

  it('takes a build, says which, and runs it by its own clock', async () => {
    expect(await bench.load(bytes)).toBe(answers.done);
    expect(
      Buffer.from(Uint16Array.from(await bench.said(said.fingerprint, 16)).buffer)
        .swap16()
        .toString('hex'),
    ).toBe(planned.fingerprint);
    expect(await bench.said(said.inputs, 3)).toEqual([3, 3, 2]);
    expect(await bench.state()).toBe(states.stopped);
    await give('reading', 50);
    expect(await bench.command(commands.run)).toBe(answers.done);
    await bench.later();
    expect(await bench.state()).toBe(states.running);
    expect(await bench.said(said.cycleUs, 2)).toEqual([0, 10_000]);
    const seen = fromCount(header.inputs[0]!, countOf(header.inputs[0]!, 50));
    expect(Math.abs((await output('law.heat')) - 2 * (80 - seen))).toBeLessThan(0.001);
    await give('reading', 120);
    await give('on', 1);
    await give('step', -3);
    await bench.later(4);
    expect(await output('law.heat')).toBe(0);
    expect(await output('law.warm')).toBe(1);
    expect(await output('law.count')).toBeLessThan(0);
    // What it sees of its inputs, and all that it says as holding registers.
    expect((await bench.said(said.inputsSeen, 3)).slice(1)).toEqual([1, 0xfffd]);
    expect((await bench.bus.readHoldingRegisters(said.asHolding + said.state, 1)).data).toEqual([states.running]);
  });

  it('takes parameters within their limits, keeps them without power, and goes back to the designed ones', async () => {
    await bench.bus.writeRegisters(holding.parameters, number(100));
    await expect(bench.bus.writeRegisters(holding.parameters, number(151))).rejects.toThrow(/exception 3/i);
    await expect(bench.bus.writeRegisters(holding.parameters + 1, number(5))).rejects.toThrow(/exception 3/i);
    await expect(bench.bus.writeRegisters(holding.parameters, number(Number.NaN))).rejects.toThrow(/exception 3/i);
    await give('reading', 90);
    await bench.later(4);
    expect(await output('law.heat')).toBeGreaterThan(15);
    await bench.kill();
    await bench.start();
    expect(await bench.state()).toBe(states.stopped);
    expect((await bench.bus.readHoldingRegisters(holding.parameters, 4)).data).toEqual(number(100));
    expect(await bench.command(commands.designed)).toBe(answers.done);
    expect(await bench.said(said.parameterValues, 4)).toEqual(number(80));
  });

  it('stops, and its outputs are safe; what it had counted begins anew', async () => {
    await give('reading', 20);
    await give('step', 1);
    await bench.command(commands.run);
    await bench.later(5);
    expect(await output('law.heat')).toBe(100);
    expect(await bench.command(commands.load)).toBe(answers['not now']);
    expect(await bench.command(commands.stop)).toBe(answers.done);
    await expect.poll(() => bench.state()).toBe(states.stopped);
    expect(await output('law.heat')).toBe(0);
    await bench.command(commands.run);
    await bench.later(1);
    expect(await output('law.count')).toBeLessThan(200);
  });

  it('notices that nobody writes its inputs any more', async () => {
    await bench.bus.writeRegister(holding.watchdogMs, 50);
    await expect.poll(() => bench.state()).toBe(states.watchdog);
    await expect.poll(() => output('law.heat')).toBe(0);
    expect(await bench.command(commands.run)).toBe(answers['not now']);
    expect(await bench.command(commands.clear)).toBe(answers.done);
    expect(await bench.state()).toBe(states.stopped);
    await bench.bus.writeRegister(holding.watchdogMs, 0);
  });

  it('is back after each of ten sudden ends, with its build and parameters, its outputs safe', async () => {
    await bench.bus.writeRegisters(holding.parameters, number(120));
    await give('reading', 50);
    for (let end = 0; end < 10; end += 1) {
      expect(await bench.command(commands.run)).toBe(answers.done);
      await bench.later(1 + (end % 3));
      expect(await output('law.heat')).toBe(100);
      await bench.kill();
      await bench.start();
      expect(await bench.state()).toBe(states.stopped);
      expect(await output('law.heat')).toBe(0);
      expect(await bench.said(said.parameterValues, 4)).toEqual(number(120));
      await give('reading', 50);
    }
    await bench.command(commands.designed);
  });

  it('stops with a fault where its code has a run-time error, and says where', async () => {
    // What is told to stop before it has begun does not begin.
    expect(await bench.command(commands.run)).toBe(answers.done);
    expect(await bench.command(commands.stop)).toBe(answers.done);
    const faulty = projectOf({
      'components/law.yaml':
        'component: Law\ninputs: { x: { type: INT } }\noutputs: { y: { type: INT } }\nbehaviour: { kind: routine, period: 10 ms, body: "y := 100 / x;" }\n',
      'loops/l.yaml':
        'loop: l\ncomponents: { law: { use: Law } }\ninputs: { x: { to: law.x, start: 1 } }\nunused: [law.y]\nsolver: { method: runge-kutta-4, step: 10 ms }\nstop: 1 s\n',
      'cases/c.yaml': 'case: only\nloop: l\n',
    });
    const own = buildOf(faulty, 'l');
    await expect.poll(() => bench.state()).toBe(states.stopped);
    expect(await bench.load(packed(headerOf(own, '2026-12-01T06:00:00.000Z', machine, new Map()), readFileSync(await libraryOf(own))))).toBe(
      answers.done,
    );
    await bench.bus.writeRegister(holding.inputs, 4);
    await bench.command(commands.run);
    await bench.later();
    expect((await bench.said(said.outputValues))[0]).toBe(25);
    await bench.bus.writeRegister(holding.inputs, 0);
    await expect.poll(() => bench.state()).toBe(states.fault);
    const [site = 0] = await bench.said(said.faultSite);
    expect(own.plan.sites[site - 1]?.text).toBe('100 / x');
    expect((await bench.said(said.outputValues))[0]).toBe(0);
    expect(await bench.command(commands.restart)).toBe(answers.done);
    expect(await bench.state()).toBe(states.stopped);
  });
});
