import fc from 'fast-check';
import { beforeAll, describe, expect, it } from 'vitest';
import { parse } from 'yaml';
import { buttonSteps, caseOf, composeDesk, conditionOf, DeskSession, deskDocument, formsOf, sequenceSvg, takeOf } from '@/core/desk';
import { type CheckedProject, checkProject, type DeskInUse, openDesk, orderRun, performRun } from '@/core/project';
import { hashTrace } from '@/core/trace';
import { readFolder } from '@/server/folder';
import { demoFiles, projectOf } from '../support/project';

let project: CheckedProject;
let files: Awaited<ReturnType<typeof demoFiles>>;
beforeAll(async () => {
  files = await demoFiles();
  project = checkProject(files);
});

function opened(choice: Parameters<typeof openDesk>[1] = {}, of = project): DeskInUse {
  const desk = openDesk(of, choice);
  if (typeof desk === 'string') throw new Error(desk);
  return desk;
}

/** A session whose clock goes on by what is asked: each tick takes no time of its own. */
function session(desk: DeskInUse): { session: DeskSession; pass: (ms: number) => boolean } {
  let now = 0;
  const made = new DeskSession(desk.order, () => now);
  return {
    session: made,
    pass: (ms) => {
      now += ms;
      return made.tick();
    },
  };
}

const input = (desk: DeskInUse, name: string): number => desk.order.experiment.plan.inputs.findIndex((one) => one.name === name);

describe('a desk', () => {
  it('opens as it was kept, with full names, its scene and its criteria', () => {
    const { view } = opened({ desk: 'hand board' });
    expect(view.items.find((item) => item.as === 'dial')?.signal).toBe('fill_paddle.opening');
    expect(view.scene?.moves.length).toBeGreaterThan(20);
    expect(view.criteria.map((one) => one.requirement)).toContain('TL-021');
    expect(view.signals.find((one) => one.name === 'request_up')).toMatchObject({
      access: 'set',
      from: 'people',
      readers: ['supervisor.request_up'],
    });
    expect(view.signals.find((one) => one.name === 'chamber.level')).toMatchObject({ access: 'read', from: 'chamber', unit: 'm' });
  });

  it('composes itself from requirements: their inputs, their signals, what fits each', () => {
    const { view } = opened({ loop: 'lock', requirements: ['TL-021', 'TL-001'] });
    expect(view.items.filter((item) => item.as === 'switch').map((item) => item.signal)).toContain('request_up');
    expect(view.items.find((item) => item.signal === 'chamber.rate')?.as).toBe('lane');
    expect(view.requirements).toEqual(['TL-001', 'TL-021']);
    for (const item of view.items) expect(formsOf(view.signals.find((one) => one.name === item.signal)!)).toContain(item.as);
  });

  it('opens one component alone, whose inputs may all be set', () => {
    const desk = opened({ component: 'Paddle' });
    expect(desk.view.signals.filter((one) => one.input !== undefined).map((one) => one.name)).toEqual(['command']);
    const { session: run } = session(desk);
    run.act({ k: 'set', input: 0, value: 50 });
    run.play();
    run.hit();
    for (let i = 0; i < 100; i += 1) run.hit();
    expect(run.values([desk.view.signals.find((one) => one.name === 'Paddle.opening')!.slot])[0]).toBeGreaterThan(30);
  });

  it('shows of one component alone its parameters between limits as sliders, and of some requirements those that their criteria name', () => {
    const sliders = (view: DeskInUse['view']) => view.items.filter((item) => item.as === 'slider').map((item) => item.signal);
    const alone = opened({ component: 'PaddleLaw' }).view;
    expect(sliders(alone)).toEqual(expect.arrayContaining(['PaddleLaw.level_speed', 'PaddleLaw.approach', 'chamber_level']));
    const bounded = alone.signals.filter((one) => one.role === 'parameter' && one.access === 'set' && one.min !== undefined && one.max !== undefined);
    for (const one of bounded) expect(formsOf(one)[0]).toBe('slider');
    expect(sliders(opened({ loop: 'lock', requirements: ['TL-021'] }).view)).toEqual([]);
  });

  it('offers the messages that nobody in the loop sends, with the unit of their value', () => {
    const scale =
      'component: Scale\noutputs: { busy: { type: BOOL } }\nmessages: { in: { weigh: { type: LREAL, unit: kg, about: what to weigh }, tare: null }, out: { weighed: null } }\nbehaviour: { kind: routine, period: 500 ms, body: "busy := weigh; IF weigh THEN SEND(weighed); END_IF;" }\n';
    const reader =
      'component: Reader\noutputs: { got: { type: BOOL } }\nmessages: { in: { result: null } }\nbehaviour: { kind: routine, period: 500 ms, body: "got := result;" }\n';
    const loop =
      'loop: skid\ncomponents: { scale: { use: Scale }, reader: { use: Reader } }\nwires: [{ from: scale.weighed, to: reader.result }]\nunused: [scale.busy, reader.got]\nsolver: { method: euler, step: 100 ms }\nstop: 10 s\n';
    const desk = 'desk: Kept\nloop: skid\nitems: []\nbuttons: [{ button: Tare, do: [{ send: scale.tare }] }]\n';
    const texts = {
      'project.yaml': 'project: Skid\n',
      'components/scale.yaml': scale,
      'components/reader.yaml': reader,
      'loops/skid.yaml': loop,
      'desks/kept.yaml': desk,
    };
    const made = checkProject(Object.entries(texts).map(([path, text]) => ({ path, text })));
    expect(made.faults).toEqual([]);
    const weigh = { name: 'scale.weigh', about: 'what to weigh', unit: 'kg' };
    expect(opened({ loop: 'skid', requirements: [] }, made).view.messages).toEqual([weigh, { name: 'scale.tare', about: '' }]);
    // What a button sends already is not offered again.
    expect(opened({ desk: 'Kept' }, made).view.messages).toEqual([weigh]);
    // Alone, whatever it takes comes from people.
    expect(opened({ component: 'Reader' }, made).view.messages).toEqual([{ name: 'Reader.result', about: '' }]);
  });

  it('says in words what cannot be opened', () => {
    expect(openDesk(project, { desk: 'nothing' })).toBe('There is no desk "nothing" in this project, or its document has faults.');
    expect(openDesk(project, { loop: 'lock', requirements: [], startFrom: 'nothing' })).toBe('There is no case "nothing" of the loop lock.');
    expect(openDesk(projectOf({}), {})).toBe('This project has no loop yet. Add one under loops/ in the Model place.');
  });

  it('begins as a case does', () => {
    const desk = opened({ loop: 'lock', requirements: [], startFrom: 'Upward transit, low lift' });
    const level = desk.view.signals.find((one) => one.name === 'upper_reach.level')!;
    expect(session(desk).session.values([level.slot])[0]).toBe(2.2);
  });

  it('is kept as a document that opens the same again', () => {
    const { view } = opened({ loop: 'lock', requirements: ['TL-021'] });
    const file = deskDocument(view, view.items);
    const again = checkProject([...files, file]);
    expect(again.faults).toEqual([]);
    expect(opened({ desk: 'Desk for TL-021' }, again).view.items).toEqual(view.items);
  });

  it('tells all faults of its document at once', () => {
    const desk =
      'desk: Bad\nloop: lock\nstart_from: nobody\nrequirements: [TL-999]\nitems:\n  - { signal: chamber.levl, as: lane }\n  - { signal: chamber.level, as: slider }\n  - { signal: request_up, as: switch, start: 3 }\n  - { signal: chamber.rate, as: x-y }\nbuttons:\n  - { button: b, do: [{ set: { request_upp: TRUE } }] }\n';
    const told = checkProject([...files, { path: 'desks/bad.yaml', text: desk }]).faults.map(
      (fault) => `${fault.place.line}: ${fault.message} ${fault.fix}`,
    );
    expect(told).toEqual([
      expect.stringMatching(/^3: There is no case "nobody"/),
      expect.stringMatching(/^4: There is no requirement "TL-999". There is: TL-001, TL-002/),
      expect.stringMatching(/^6: There is no signal "chamber\.levl"\. Did you mean "chamber\.level"\?/),
      expect.stringMatching(/^7: chamber\.level is only read and of type LREAL; it cannot be a slider\. Forms that fit: figure, lane/),
      expect.stringMatching(/^8: request_up is BOOL/),
      '9: An x-y display needs a second signal. Add with: and the signal along the other axis.',
      expect.stringMatching(/^11: There is no free input "request_upp"\. Did you mean "request_up"\?/),
    ]);
  });

  it('tells the faults of a scene', () => {
    const scene =
      'scene: S\nloop: lock\npicture: lock.svg\nmoves:\n  - { part: nothing, by: chamber.level, set: y, to: [0, 1] }\n  - { part: barge, by: chamber.rate, set: up, to: [0, 1] }\n';
    const told = checkProject([...files, { path: 'scenes/s.yaml', text: scene }]).faults.map((fault) => fault.message);
    expect(told).toEqual(['There is no part with this id "nothing".', 'chamber.rate has no limits; the movement cannot be scaled by them.']);
    const lost = checkProject([...files, { path: 'scenes/s.yaml', text: scene.replace('lock.svg', 'dock.svg') }]).faults[0]!;
    expect(`${lost.message} ${lost.fix}`).toBe('There is no picture "dock.svg". Did you mean "lock.svg"?');
  });

  it('composes nothing for a loop without signals to be seen', () => {
    expect(composeDesk([], [])).toEqual([]);
  });
});

describe('a session at the desk', () => {
  it('goes with the wall, faster or slower, hit by hit, and stops where it is told', () => {
    const desk = opened();
    const { session: run, pass } = session(desk);
    run.play();
    pass(1000);
    expect(run.nowNs).toBe(1e9);
    run.speed = 20;
    pass(500);
    expect(run.nowNs).toBe(11e9);
    run.speed = 0.1;
    pass(300);
    expect(run.nowNs).toBe(11_030e6);
    run.hit();
    expect(run.isRunning).toBe(false);
    expect(run.nowNs).toBe(11_040e6);
    pass(1000);
    expect(run.nowNs).toBe(11_040e6);
    run.back();
    expect(run.nowNs).toBe(0);
  });

  it('stands still when a condition comes true, and can be armed again', () => {
    const desk = opened();
    const { session: run, pass } = session(desk);
    const condition = conditionOf('chamber.level > 1.5', desk.assembled);
    if (typeof condition === 'string') throw new Error(condition);
    run.press(buttonSteps([{ set: { request_up: true } }, { hold: '1 s' }, { set: { request_up: false } }], desk.assembled));
    run.pauseWhen(condition);
    run.play();
    let came = false;
    for (let i = 0; i < 300 && !came; i += 1) came = pass(1000);
    const level = desk.view.signals.find((one) => one.name === 'chamber.level')!.slot;
    expect(came).toBe(true);
    expect(run.isRunning).toBe(false);
    expect(run.values([level])[0]).toBeCloseTo(1.5, 2);
    expect(run.events).toHaveLength(2);
    // It is true already: only coming true again counts.
    run.play();
    expect(pass(5000)).toBe(false);
    expect(run.values([level])[0]).toBeGreaterThan(1.5);
    expect(conditionOf('chamber.levl > 2', desk.assembled)).toMatch(/levl/);
    expect(conditionOf('chamber.level + 2', desk.assembled)).toMatch(/BOOL/);
  });

  it('stands still at the first hit at which a condition is true, however the clock goes and whatever the speed', async () => {
    const tank = checkProject((await readFolder('tests/projects/tank')).files);
    fc.assert(
      fc.property(
        fc.double({ min: 0.2, max: 1.9, noNaN: true }),
        fc.integer({ min: 10, max: 100 }),
        fc.constantFrom(1, 5, 20, Number.POSITIVE_INFINITY),
        fc.array(fc.double({ min: 1, max: 20, noNaN: true }), { minLength: 1, maxLength: 30 }),
        (level, valve, speed, gaps) => {
          const desk = opened({ loop: 'tank' }, tank);
          const condition = conditionOf(`tank.level > ${level}`, desk.assembled);
          if (typeof condition === 'string') throw new Error(condition);
          let [now, asked, ticks, came] = [0, 0, 0, false];
          const run = new DeskSession(desk.order, () => {
            asked += 1;
            now += gaps[asked % gaps.length]!;
            return now;
          });
          run.act({ k: 'set', input: input(desk, 'valve'), value: valve });
          run.speed = speed;
          run.pauseWhen(condition);
          run.play();
          for (; !came && ticks < 100_000; ticks += 1) came = run.tick();
          const slot = desk.view.signals.find((one) => one.name === 'tank.level')!.slot;
          // It rises by no more than 0.5 m/s · 50 ms between two hits, and the hit before it was not true.
          expect(run.nowNs % 50e6).toBe(0);
          expect(run.values([slot])[0]).toBeGreaterThan(level);
          expect(run.values([slot])[0]! - (0.5 * valve * 0.05) / 100).toBeLessThanOrEqual(level + 1e-9);
        },
      ),
      { numRuns: 60 },
    );
  });

  it('tells when a condition came true, and shows the lanes about that instant', () => {
    const desk = opened();
    const { session: run, pass } = session(desk);
    const condition = conditionOf('chamber.level > 1.5', desk.assembled);
    if (typeof condition === 'string') throw new Error(condition);
    run.press(buttonSteps([{ set: { request_up: true } }, { hold: '1 s' }, { set: { request_up: false } }], desk.assembled));
    run.play();
    pass(200_000);
    const [at, ...more] = run.risings(condition);
    expect(more).toEqual([]);
    const level = desk.view.signals.find((one) => one.name === 'chamber.level')!.slot;
    const lanes = run.lanes([level], 20, at! + 15);
    const { base, data } = lanes.columns[0]!;
    const time = lanes.bases[base]!;
    expect([lanes.from, lanes.until]).toEqual([at! - 5, at! + 15]);
    // One row more at either end, so that the curve reaches to the edge.
    expect(time[0]!).toBeLessThanOrEqual(at! - 5);
    expect(time[1]!).toBeGreaterThan(at! - 5.1);
    expect(time.at(-1)!).toBeGreaterThan(at! + 15 - 0.001);
    expect(time.at(-1)!).toBeLessThan(at! + 15.2);
    const row = time.findIndex((t) => t > at!);
    expect(data[row - 1]!).toBeLessThanOrEqual(1.5);
    expect(data[row]!).toBeGreaterThan(1.5);
    expect(time[row]! - time[row - 1]!).toBeLessThan(0.02);
  });

  it('returns to a moment and goes another way from there', () => {
    const desk = opened();
    const { session: run, pass } = session(desk);
    run.play();
    pass(5000);
    run.act({ k: 'set', input: input(desk, 'request_up'), value: 1 });
    pass(60_000);
    const level = desk.view.signals.find((one) => one.name === 'fill_paddle.opening')!.slot;
    expect(run.values([level])[0]).toBeGreaterThan(0);
    run.goTo(4e9);
    expect(run.nowNs).toBe(4e9);
    expect(run.events).toEqual([]);
    run.play();
    pass(61_000);
    expect(run.values([level])[0]).toBe(0);
  });

  it('judges the watched criteria as a campaign would', () => {
    const desk = opened({ loop: 'lock', requirements: project.criteria.map((one) => one.requirement) });
    const { session: run, pass } = session(desk);
    run.press(buttonSteps([{ hold: '5 s' }, { set: { request_up: true } }, { hold: '1 s' }, { set: { request_up: false } }], desk.assembled));
    run.play();
    pass(400_000);
    const standings = run.standings();
    const { text } = caseOf(takeOf(run.trace(), desk.order.experiment.plan, desk.loop, run.events), desk.order.experiment.plan, run.events, {
      name: 'T',
      loop: 'lock',
    });
    const again = checkProject([...files, { path: 'cases/t.yaml', text }]);
    const { result } = performRun(orderRun(again, again.cases.find((one) => one.experiment.case === 'T')!));
    for (const [index, { requirement, name }] of desk.order.watched.entries()) {
      const own = result.results.find((one) => one.requirement === requirement && one.name === name)!;
      const count = (outcome: string): number => own.obligations.filter((one) => one.outcome === outcome).length;
      expect([requirement, standings[index]!.met, standings[index]!.broken, standings[index]!.open]).toEqual([
        requirement,
        count('met'),
        count('broken'),
        count('open'),
      ]);
    }
  });
});

describe('a take', () => {
  /** A transit upward by hand, stopped while filling. */
  function played(): { desk: DeskInUse; run: DeskSession } {
    const desk = opened();
    const { session: run, pass } = session(desk);
    const set = (name: string, value: number): void => void run.act({ k: 'set', input: input(desk, name), value }, true);
    run.play();
    pass(3210);
    set('request_up', 1);
    pass(700);
    set('request_up', 0);
    pass(90_000);
    set('stop_button', 1);
    pass(333);
    set('stop_button', 0);
    pass(30_000);
    run.pause();
    return { desk, run };
  }

  it('shows who did what, states with how long they lasted, and what went between components', () => {
    const { desk, run } = played();
    const take = takeOf(run.trace(), desk.order.experiment.plan, desk.loop, run.events);
    expect(take.parties.map(({ name, kind }) => `${name} ${kind}`)).toEqual([
      'people people',
      'supervisor controller',
      'law controller',
      'lower_drive plant',
    ]);
    expect(take.arrows.filter((arrow) => arrow.from === 'people').map((arrow) => `${arrow.at} ${arrow.to} ${arrow.what}`)).toEqual([
      '3.21 supervisor request_up := TRUE',
      '3.91 supervisor request_up := FALSE',
      '93.91 supervisor stop_button := TRUE',
      '94.25 supervisor stop_button := FALSE',
    ]);
    expect(take.arrows).toContainEqual(expect.objectContaining({ from: 'supervisor', to: 'law', what: 'filling := TRUE', kind: 'change' }));
    const warning = take.states.find((state) => state.state === 'Warning')!;
    expect(warning.until - warning.from).toBeCloseTo(2.4, 9);
    const svg = sequenceSvg(take, 'Stop <while> filling');
    expect(svg).toContain('supervisor : controller');
    expect(svg).toContain('filling := TRUE');
    expect(svg).toContain('Stop &lt;while&gt; filling');
  });

  it.each(['state', 'time'] as const)('becomes a case by %s that gives the same bytes', (by) => {
    const { desk, run } = played();
    const { plan } = desk.order.experiment;
    const take = takeOf(run.trace(), plan, desk.loop, run.events);
    const { text, notes } = caseOf(take, plan, run.events, { name: 'By hand', loop: 'lock', meantFor: ['TL-031'] }, by);
    expect(notes).toEqual([]);
    const waits = (parse(text) as { script: object[] }).script.filter((step) => 'wait' in step);
    expect(waits.length > 0).toBe(by === 'state');
    const again = checkProject([...files, { path: 'cases/by-hand.yaml', text }]);
    expect(again.faults).toEqual([]);
    const { result, trace } = performRun(orderRun(again, again.cases.find((one) => one.experiment.case === 'By hand')!));
    expect(result.gaveUp).toBeUndefined();
    // The marks of a trace are part of its hash: the order of events is the same.
    expect(hashTrace(trace)).toBe(hashTrace(run.trace()));
  });

  it('waits for the state in a controller that is slower', () => {
    const { desk, run } = played();
    const { plan } = desk.order.experiment;
    const take = takeOf(run.trace(), plan, desk.loop, run.events);
    const slower = files.map((file) =>
      file.path === 'components/lock-supervisor.yaml' ? { ...file, text: file.text.replaceAll('after: 2.4 s', 'after: 12 s') } : file,
    );
    const transit = (): string[] => {
      const { text } = caseOf(take, plan, run.events, { name: 'By hand', loop: 'lock' });
      const again = checkProject([...slower, { path: 'cases/by-hand.yaml', text: text.replace(/^stop: .*$/m, 'stop: 200 s') }]);
      const test = again.cases.find((one) => one.experiment.case === 'By hand')!;
      const { trace } = performRun(orderRun(again, test));
      return takeOf(trace, test.experiment.plan, desk.loop, []).states.flatMap((one) =>
        one.region === 'supervisor.transit.Upward' ? [one.state] : [],
      );
    };
    expect(transit()).toEqual(['Warning', 'ClosingLower', 'Filling']);
    expect(transit()).toEqual(take.states.flatMap((one) => (one.region === 'supervisor.transit.Upward' ? [one.state] : [])));
  });

  it('says what a case cannot take over: a parameter changed while running', () => {
    const desk = opened();
    const { session: run, pass } = session(desk);
    const mean = desk.view.signals.find((one) => one.name === 'upper_reach.mean')!.slot;
    run.act({ k: 'tune', slot: mean, value: 3.5 });
    run.play();
    pass(5000);
    run.act({ k: 'tune', slot: mean, value: 3.1 });
    pass(5000);
    const { plan } = desk.order.experiment;
    const { text, notes } = caseOf(takeOf(run.trace(), plan, desk.loop, run.events), plan, run.events, { name: 'Tuned', loop: 'lock' });
    expect((parse(text) as { parameters: object }).parameters).toEqual({ 'upper_reach.mean': 3.5 });
    expect(notes).toEqual([
      'upper_reach.mean was changed at 5 s while running; a case keeps its parameters, so this one has the value of the start.',
    ]);
  });
});
