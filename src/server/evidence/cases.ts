import { drawnCourse } from '@/core/cases';
import type { CaseView, ScriptLine, StimulusCourse } from '@/core/evidence';
import { nameKey, printDuration } from '@/core/language';
import { todayOf } from '@/core/project';
import type { Database } from '@/server/database';
import { openRevision, type ProjectHead } from '@/server/projects';
import { newestRuns } from './ledger';

/** The cases of a project with what their newest run found. */
export async function readCases(db: Database, head: ProjectHead): Promise<CaseView[]> {
  const project = await openRevision(db, head.revisionId);
  const runs = await newestRuns(db, head.id);
  const today = todayOf(project);
  return project.cases.map(({ experiment, document }) => {
    const { raw } = document;
    const { plan } = experiment;
    const run = runs.find((one) => nameKey(one.caseName) === nameKey(experiment.case));
    const stopSeconds = experiment.stopNs / 1e9;
    const courses = plan.inputs.flatMap((input, index): StimulusCourse[] => {
      const points = drawnCourse(experiment, index);
      const slot = plan.slots[input.slot];
      if (points.length === 0 || !slot) return [];
      return [{ name: input.name, type: slot.type, unit: slot.unit, points }];
    });
    return {
      name: experiment.case,
      about: raw.about ?? '',
      stopSeconds,
      courses,
      script: experiment.script.map((step): ScriptLine => {
        if (step.k === 'hold') return { kind: 'hold', text: `hold ${printDuration(step.ns)}`, seconds: step.ns / 1e9 };
        if (step.k === 'wait') return { kind: 'wait', text: `wait until ${step.text}`, seconds: step.giveUpNs / 1e9 };
        if (step.k === 'send') return { kind: 'send', text: `send ${plan.messages[step.message]?.name ?? ''}` };
        return {
          kind: 'set',
          text: step.changes
            .map(({ input, value }) => setText(plan.inputs[input]?.name ?? '', plan.slots[plan.inputs[input]?.slot ?? 0]?.type ?? '', value))
            .join(', '),
        };
      }),
      changes: [...Object.entries(raw.parameters ?? {}), ...Object.entries(raw.initial ?? {})].map(([name, value]) => `${name} = ${String(value)}`),
      meantFor: raw.meant_for ?? [],
      ...(run
        ? {
            run: {
              id: run.id,
              verdict: run.verdict ?? 'none',
              isCurrent: today.fits(run),
              elapsedMs: run.elapsedMs ?? 0,
              ...(run.discounted ? { discounted: run.discounted } : {}),
            },
          }
        : {}),
    };
  });
}

/** How long the newest run of each case took (ms), by its name. */
export async function readPaces(db: Database, projectId: number): Promise<Readonly<Record<string, number>>> {
  const runs = await newestRuns(db, projectId);
  return Object.fromEntries(runs.flatMap((run) => (run.elapsedMs === null ? [] : [[run.caseName, run.elapsedMs] as const])));
}

function setText(name: string, type: string, value: number): string {
  return `${name} := ${type === 'BOOL' ? (value !== 0 ? 'TRUE' : 'FALSE') : value}`;
}
