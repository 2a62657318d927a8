import { readdirSync, readFileSync, statSync } from 'node:fs';
import path from 'node:path';
import type { CheckedProject } from '@/core/project';
import { projectOf } from './project';

const folder = 'tests/projects/kiln';

/** A kiln on a bench: a law with parameters, a chart that watches its thermometer, a counter with an inner variable, a plant, and cases of a few seconds. */
export const kilnDocuments: Readonly<Record<string, string>> = Object.fromEntries(
  readdirSync(folder, { recursive: true, encoding: 'utf8' })
    .filter((file) => statSync(path.join(folder, file)).isFile())
    .map((file) => [file, readFileSync(path.join(folder, file), 'utf8')]),
);

/** @param more documents over these */
export function kilnProject(more: Readonly<Record<string, string>> = {}): CheckedProject {
  return projectOf({ ...kilnDocuments, ...more });
}

/** A guard that sounds its alarm for 1.4 s once the kiln is hot. */
export const timedGuard = `component: Guard
inputs: { temperature: { type: LREAL, unit: Cel, min: -100, max: 1400 } }
outputs: { alarm: { type: BOOL } }
behaviour:
  {
    kind: chart,
    period: 20 ms,
    regions:
      {
        wire:
          {
            initial: Sound,
            states:
              {
                Sound: { entry: "alarm := FALSE;", go: [{ to: Broken, when: temperature > 486 }] },
                Broken: { entry: "alarm := TRUE;", go: [{ to: Over, after: 1.42 s }] },
                Over: { entry: "alarm := FALSE;", go: [{ to: Sound, when: temperature < 470 }] },
              },
          },
      },
  }
`;
