import { describe, expect, it } from 'vitest';
import type { InputChange } from '@/core/plan';
import { type CheckedProject, checkProject } from '@/core/project';
import { type Experiment, LiveRun, simulate } from '@/core/simulate';
import { hashTrace, type Trace } from '@/core/trace';
import { readFolder } from '@/server/folder';

const demo = async (name: string): Promise<CheckedProject> => checkProject((await readFolder(`demo/${name}`)).files);
/** A small reproducible choice. */
function numbers(seed: number): () => number {
  let state = seed;
  return () => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    return state / 2 ** 32;
  };
}
const bare = (project: CheckedProject, index = 0): Experiment => ({ ...project.cases[index]!.experiment, stimuli: [], script: [], conditions: [] });

/** Goes through a run in pieces of all lengths, setting inputs on the way. */
function played(experiment: Experiment, seconds: number, seed: number): LiveRun {
  const random = numbers(seed);
  const live = new LiveRun(experiment);
  while (live.nowNs < seconds * 1e9 && !live.error) {
    if (random() < 0.3) {
      const input = Math.floor(random() * experiment.plan.inputs.length);
      const type = experiment.plan.slots[experiment.plan.inputs[input]!.slot]!.type;
      live.act({ k: 'set', input, value: type === 'BOOL' ? Math.round(random()) : random() * 3 });
    }
    if (random() < 0.2) live.hit();
    else live.goOn(Math.min(seconds * 1e9, live.nowNs + Math.floor(random() * 3e9)));
  }
  return live;
}

describe('a run in pieces', () => {
  it.each([
    ['tarn-lock', 300],
    ['quay-crane', 20],
    ['autoclave', 200],
  ])('%s makes the same bytes as the run in one go with the same stimuli', async (name, seconds) => {
    const experiment = { ...bare(await demo(name)), stopNs: seconds * 1e9 };
    for (const seed of [1, 2, 3]) {
      const live = played(experiment, seconds, seed);
      const stimuli = live.events.flatMap((event): InputChange[] =>
        event.k === 'set' ? [{ atNs: event.atNs, input: event.input, value: event.value, slope: 0 }] : [],
      );
      expect(stimuli.length).toBeGreaterThan(2);
      const { trace: whole, error } = simulate({ ...experiment, stimuli });
      expect(live.error).toEqual(error);
      expect(hashTrace(live.trace())).toBe(hashTrace(whole));
    }
  });

  it('comes back to a kept moment with all that was done until then', async () => {
    const experiment = bare(await demo('tarn-lock'));
    const live = played({ ...experiment, stopNs: 900e9 }, 120, 5);
    const [at, then] = [live.nowNs, hashTrace(live.trace())];
    // One after the other: runs of one plan do not go on side by side.
    live.goOn(900e9);
    const kept = new LiveRun({ ...experiment, stopNs: 900e9 }, live.events, at);
    expect(kept.nowNs).toBe(at);
    expect(hashTrace(kept.trace())).toBe(then);
    const early = new LiveRun(
      { ...experiment, stopNs: 900e9 },
      live.events.filter((event) => event.atNs <= 50e9),
      50e9,
    );
    expect(early.nowNs).toBe(50e9);
    early.goOn(live.events.find((event) => event.atNs > 50e9)!.atNs - 1);
    const same = (trace: Trace): number[] => trace.columns.map((column) => column.data[early.trace().bases[column.base]!.length - 1]!);
    expect(same(early.trace())).toEqual(same(live.trace()));
  });

  it('takes a change before the instant that is not dealt with yet, the latest of two', async () => {
    const live = new LiveRun({ ...bare(await demo('tarn-lock')), stopNs: 100e9 });
    live.goOn(1_000e6 + 34e6);
    // The last point of the grid of 10 ms; hits come every 80 ms.
    expect(live.nowNs).toBe(1_030e6);
    live.act({ k: 'set', input: 0, value: 0 });
    expect(live.act({ k: 'set', input: 0, value: 1 })).toBe(1_030e6);
    expect(live.events).toEqual([{ k: 'set', input: 0, value: 1, atNs: 1_030e6 }]);
    live.hit();
    expect(live.nowNs).toBe(1_040e6);
    // A hit has been dealt with: what is done now acts at the next point.
    expect(live.act({ k: 'set', input: 0, value: 0 })).toBe(1_050e6);
  });

  it('a press and its release are both seen, however quick they come', async () => {
    const live = new LiveRun({ ...bare(await demo('tarn-lock')), stopNs: 100e9 });
    live.goOn(1_034e6);
    const press = live.act({ k: 'set', input: 0, value: 1 }, true);
    const release = live.act({ k: 'set', input: 0, value: 0 }, true);
    // The supervisor has a hit every 80 ms.
    expect(release - press).toBe(80e6);
    expect(live.events.map((event) => event.atNs)).toEqual([press, release]);
  });

  it('a parameter gets another value while it runs', async () => {
    const project = await demo('tarn-lock');
    const experiment = { ...bare(project), stopNs: 100e9 };
    const entry = [...project.loops.values()][0]!.catalogue.findEntry('upper_reach.mean', ['parameter'])!;
    const level = [...project.loops.values()][0]!.catalogue.findEntry('upper_reach.level', ['output'])!;
    const live = new LiveRun(experiment);
    live.goOn(10e9);
    const before = live.value(level.slot);
    live.act({ k: 'tune', slot: entry.slot, value: 3.0 });
    live.goOn(20e9);
    expect(before - live.value(level.slot)).toBeCloseTo(0.9, 1);
  });

  it('a script that ends, ends the piece', async () => {
    const experiment = bare(await demo('tarn-lock'));
    const live = new LiveRun({ ...experiment, stopNs: 100e9, script: [{ k: 'hold', ns: 12.34e9 }] });
    live.goOn(50e9, true);
    expect(live.nowNs).toBe(12.34e9);
    live.goOn(50e9);
    expect(live.nowNs).toBe(50e9);
  });
});

describe('two runs of one plan in one thread', () => {
  it('never share their values in silence: the one begun first cannot go on', async () => {
    const experiment = { ...bare(await demo('tarn-lock')), stopNs: 100e9 };
    const first = new LiveRun(experiment);
    first.goOn(10e9);
    const second = new LiveRun(experiment);
    expect(() => first.goOn(20e9)).toThrow('another run of the same plan was begun in its place');
    second.goOn(20e9);
    expect(hashTrace(second.trace())).toBe(hashTrace(simulate({ ...experiment, stopNs: 20e9 }).trace));
  });
});
