import type { CheckedProject } from '@/core/project';
import { projectOf } from './project';

/** A kiln on a bench: a law with parameters, a counter with an inner variable, a chart that watches its thermometer, a plant, and cases of a few seconds. */
export const kilnDocuments: Readonly<Record<string, string>> = {
  'project.yaml': 'project: Kiln\nstages: [model, bench]\n',
  'components/law.yaml': `component: Law
inputs: { temperature: { type: LREAL, unit: Cel, min: -100, max: 1400 }, on: { type: BOOL } }
outputs: { heating: { type: LREAL, unit: "%", min: 0, max: 100 } }
parameters: { wanted: { value: 500, unit: Cel, min: 0, max: 1200 }, gain: { value: 2, min: 0.1, max: 50 } }
behaviour: { kind: routine, period: 100 ms, body: "heating := SEL(on, 0.0, LIMIT(0.0, gain * (wanted - temperature), 100.0));" }
`,
  'components/tally.st': `{period: 100 ms, about: how long the kiln has been on}
FUNCTION_BLOCK Tally
VAR_INPUT
  power : BOOL;
END_VAR
VAR_OUTPUT
  long : BOOL;
END_VAR
VAR
  sum : LREAL;
END_VAR
IF power THEN sum := sum + 0.1; END_IF;
long := sum > 2.0;
END_FUNCTION_BLOCK
`,
  'components/guard.yaml': `component: Guard
inputs: { temperature: { type: LREAL, unit: Cel, min: -100, max: 1400 } }
outputs: { alarm: { type: BOOL } }
behaviour: { kind: chart, period: 100 ms, regions: { wire: { initial: Sound, states: { Sound: { entry: "alarm := FALSE;", go: [{ to: Broken, when: temperature < -50 }] }, Broken: { entry: "alarm := TRUE;", go: [{ to: Sound, when: temperature >= -50 }] } } } } }
`,
  'components/kiln.yaml':
    'component: Kiln\ninputs: { heating: { type: LREAL, unit: "%" } }\noutputs: { temperature: { type: LREAL, unit: Cel, min: -20, max: 1300 } }\nbehaviour: { kind: equations, states: { t: { start: 480, unit: Cel } }, derivatives: { t: "heating * 0.6 - (t - 20) * 0.04" }, outputs: { temperature: t } }\n',
  'loops/kiln.yaml': `loop: kiln
components: { law: { use: Law }, guard: { use: Guard }, tally: { use: Tally }, chamber: { use: Kiln } }
inputs: { on: { to: [law.on, tally.power] } }
wires: [{ from: law.heating, to: chamber.heating }, { from: chamber.temperature, to: [law.temperature, guard.temperature] }]
unused: [guard.alarm, tally.long]
solver: { method: runge-kutta-4, step: 20 ms }
stop: 4 s
`,
  'cases/heat.yaml': 'case: Heat\nloop: kiln\nstop: 4 s\nstimuli: { on: [{ hold: TRUE }] }\n',
  'cases/tuned.yaml':
    'case: Tuned\nloop: kiln\nstop: 4 s\nparameters: { law.wanted: 490 }\nstimuli: { on: [{ hold: TRUE }] }\nscript:\n  - hold: 2 s\n  - change: { law.wanted: 600 }\n',
  'cases/broken.yaml':
    'case: Broken\nloop: kiln\nstop: 4 s\nstimuli: { on: [{ hold: TRUE }] }\nscript:\n  - hold: 1 s\n  - bench: { channel: guard_temperature, broken: true }\n  - expect: { holds: guard.alarm, within: 1 s }\n  - bench: { channel: guard_temperature, over: true }\n  - expect: { holds: NOT guard.alarm, within: 1 s }\n',
  'requirements/r.yaml': `section: Kiln
requirements:
  - requirement: K1
    text: It never gets hotter than 600 degrees.
    criteria:
      - { criterion: never hot, sentence: "always chamber.temperature <= 600 Cel", accepted: { by: me, on: 2026-12-01 } }
  - requirement: K2
    text: The sum stays small.
    criteria:
      - { criterion: small, sentence: "always tally.sum <= 100", accepted: { by: me, on: 2026-12-01 } }
  - requirement: K3
    text: A broken wire is told within half a second.
    criteria:
      - { criterion: told, sentence: "when enters guard.wire.Broken, within 0.5 s guard.alarm", accepted: { by: me, on: 2026-12-01 } }
`,
  // Far slower than the machine needs, so that a busy one keeps the time.
  'benches/kiln.yaml': `bench: Kiln bench
loop: kiln
cycle: 100 ms
lateness: 2 s
watchdog: 5 s
inputs:
  law_temperature: { low: -20, high: 1300, bits: 12, counts: [819, 4095] }
  guard_temperature: { signal: chamber.temperature, low: -20, high: 1300, bits: 12, counts: [819, 4095] }
  on: {}
  power: { signal: on }
outputs: { law.heating: {}, guard.alarm: {}, tally.long: {} }
`,
};

/** @param more documents over these */
export function kilnProject(more: Readonly<Record<string, string>> = {}): CheckedProject {
  return projectOf({ ...kilnDocuments, ...more });
}
