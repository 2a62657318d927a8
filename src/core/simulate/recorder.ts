import type { ShortLog } from '@/core/emit/js';
import { SpareBuffers } from '@/core/memory';
import { columnOwners, ownColumns, type Plan, type SlotNumber, type TaskGroup } from '@/core/plan';
import type { Column, Trace } from '@/core/trace';
import { figure } from '@/core/wording';

/** Columns of `room` rows side by side, time first, and the rows they hold. */
interface Log {
  readonly slots: readonly SlotNumber[];
  columns: Float64Array;
  room: number;
  rows: number;
}

/** Columns that grow while a run goes on: log 0 for everything continuous and the free inputs, one more for each task group. They have room for one block more than the rows, since short columns are copied whole. */
export class Recorder {
  private readonly logs: readonly Log[];
  private readonly markTime: number[] = [];
  private readonly markState: number[] = [];
  private readonly markEntered: number[] = [];

  constructor(
    private readonly plan: Plan,
    groups: readonly TaskGroup[],
    stopNs: number,
    short: readonly ShortLog[],
    private readonly mostNumbers = mostTraceNumbers,
  ) {
    const log = (slots: readonly SlotNumber[], expected: number, base: number): Log => {
      const atFirst = Math.floor(mostNumbers / 8 / (slots.length + 1));
      const room = Math.min(expected, atFirst) + (short[base]?.rows ?? 0);
      return { slots, columns: makeColumns(slots.length + 1, room), room, rows: 0 };
    };
    const hits = groups.map(({ periodNs, offsetNs, tasks }, group) => {
      const slots = tasks.flatMap((task) => plan.tasks[task]?.logged ?? []);
      return log(slots, stopNs < offsetNs ? 0 : Math.floor((stopNs - offsetNs) / periodNs) + 1, group + 1);
    });
    this.logs = [log(ownColumns(plan), expectedRows(plan, groups, stopNs), 0), ...hits];
  }

  /** Rows of the continuous log. */
  get rows(): number {
    return this.logs[0]?.rows ?? 0;
  }

  /** True when the last row of the continuous log is that of this instant. */
  endsAt(seconds: number): boolean {
    const [log] = this.logs;
    return log !== undefined && log.rows > 0 && log.columns[log.rows - 1] === seconds;
  }

  /**
   * Takes over the first rows of short columns. They are copied whole, since a view of a part costs more than the numbers in it: what is too much is written over by the next.
   * @param base 0 for the continuous log, from 1 on the task groups
   */
  take(base: number, short: ShortLog, rows: number): void {
    const log = this.logs[base];
    if (!log || rows === 0) return;
    if (log.rows + short.rows > log.room) {
      const room = this.roomFor(log, log.rows + short.rows, 2 * log.room + short.rows);
      log.columns = grown(log.columns, log.slots.length + 1, log.room, log.rows, room);
      log.room = room;
    }
    for (let column = 0; column <= log.slots.length; column += 1)
      log.columns.set(short.columns[column] as Float64Array, column * log.room + log.rows);
    log.rows += rows;
  }

  /** Rows a log may have room for: as many as are wanted, or as memory allows. @throws RangeError where not even what is needed fits */
  private roomFor(log: Log, needed: number, wanted: number): number {
    const others = this.logs.reduce((sum, one) => sum + (one === log ? 0 : one.columns.length), 0);
    const room = Math.min(wanted, Math.floor((this.mostNumbers - others) / (log.slots.length + 1)));
    if (room < needed)
      throw new RangeError(
        `the trace needs more than ${figure((this.mostNumbers * 8) / 1e9)} GB: record less often (record_every, or a longer step or period), or stop earlier`,
      );
    return room;
  }

  /**
   * Lets the rows before an instant go, but for the last of each log: its values are still held, and what happens at that very instant is seen to.
   * @returns them, in memory of their own
   */
  letGo(seconds: number): Trace {
    const counts = this.logs.map((log) => {
      let rows = 0;
      while (rows + 1 < log.rows && (log.columns[rows + 1] as number) < seconds) rows += 1;
      return rows;
    });
    const whole = this.trace(false);
    const gone: Trace = {
      ...whole,
      bases: whole.bases.map((time, base) => time.slice(0, counts[base])),
      columns: whole.columns.map((column) => ({ ...column, data: column.data.slice(0, counts[column.base]) })),
      until: whole.bases[0]?.[Math.max(0, (counts[0] ?? 0) - 1)] ?? whole.from,
    };
    this.logs.forEach((log, base) => {
      const count = counts[base] ?? 0;
      for (let column = 0; column <= log.slots.length; column += 1)
        log.columns.copyWithin(column * log.room, column * log.room + count, column * log.room + log.rows);
      log.rows -= count;
    });
    const marks = this.markTime.findIndex((time) => time >= seconds);
    for (const list of [this.markTime, this.markState, this.markEntered]) list.splice(0, marks < 0 ? list.length : marks);
    return gone;
  }

  mark(seconds: number, state: number, entered: boolean): void {
    this.markTime.push(seconds);
    this.markState.push(state);
    this.markEntered.push(entered ? 1 : 0);
  }

  /** @param own in memory of its own, or a view of the log that is good until the next rows are taken */
  trace(own = true): Trace {
    const { plan } = this;
    const free = new Set(plan.inputs.map((input) => input.slot));
    const labels = new Map(plan.regions.map((region) => [region.slot, ['', ...region.states.map((state) => state.name)]]));
    // A little room left over costs less than a copy.
    const cut = (data: Float64Array, rows: number): Float64Array => (!own || rows > 0.8 * data.length ? data.subarray(0, rows) : data.slice(0, rows));
    const column = (slot: number, base: number, data: Float64Array): Column => {
      const info = plan.slots[slot];
      if (!info) throw new RangeError(`no slot ${slot}`);
      const { name, type, unit, min, max, enumeration } = info;
      const straight = base === 0 && (type === 'LREAL' || type === 'REAL');
      const states = labels.get(slot) ?? enumeration?.values;
      return {
        name,
        slot,
        base,
        between: straight ? 'straight' : 'held',
        type,
        unit,
        data,
        ...(min === undefined ? {} : { min }),
        ...(max === undefined ? {} : { max }),
        ...(states ? { labels: states } : {}),
      };
    };
    const of = ({ columns, room, rows }: Log, index: number): Float64Array => cut(columns.subarray(index * room, (index + 1) * room), rows);
    const bases = this.logs.map((log) => of(log, 0));
    const owners = columnOwners(plan);
    const columns = this.logs.flatMap((log, base) => {
      const data = new Map(log.slots.map((slot, index) => [slot, of(log, index + 1)]));
      const shown = base === 0 ? plan.logged : log.slots;
      return shown.map((slot) => column(slot, base, data.get(owners.get(slot) ?? slot) as Float64Array));
    });
    columns.sort((a, b) => Number(free.has(b.slot)) - Number(free.has(a.slot)));
    const marks = { time: Float64Array.from(this.markTime), mark: Int32Array.from(this.markState), entered: Uint8Array.from(this.markEntered) };
    return { bases, columns, marks, from: bases[0]?.[0] ?? 0, until: bases[0]?.at(-1) ?? 0 };
  }
}

/** A trace of a run has at most so many numbers: 2 GB. */
const mostTraceNumbers = 250_000_000;

/** Buffers of traces nobody looks at any more: at most 128 MB. */
const spare = new SpareBuffers(16_000_000);

/** Columns side by side in one buffer: one allocation, and one thing to hand over to another thread. */
function makeColumns(count: number, rows: number): Float64Array {
  return spare.take(count * rows);
}

/** The same columns with more room. */
function grown(columns: Float64Array, count: number, room: number, rows: number, more: number): Float64Array {
  const wider = makeColumns(count, more);
  for (let index = 0; index < count; index += 1) wider.set(columns.subarray(index * room, index * room + rows), index * more);
  return wider;
}

/** Gives a trace's memory to the next run. The caller must not look at the trace again. */
export function recycleTrace(trace: Trace): void {
  for (const { buffer } of trace.bases) if (buffer instanceof ArrayBuffer) spare.give(buffer);
}

/** Rows a run will about need: with a fixed step one a step and one more for what jumps; a variable step grows as it goes. */
function expectedRows(plan: Plan, groups: readonly TaskGroup[], stopNs: number): number {
  const { method, stepNs } = plan.solver;
  if (method !== 'runge-kutta-4') return 1024;
  const hits = groups.reduce((sum, group) => sum + stopNs / group.periodNs, 0);
  return Math.min(1_000_000, Math.ceil(stopNs / stepNs) + Math.min(Math.ceil(hits), 1000));
}
