import type { Project } from '@/core/documents';
import type { Faults } from '@/core/fault';
import type { PlanBuilder } from '@/core/formula';
import { addChart } from './chart';
import { addDecisionTable } from './decisionTable';
import { addEquations } from './equations';
import type { Instance } from './instance';
import { addRecording } from './recording';
import { addRoutine } from './routine';
import { addUnit } from './unit';

/** Adds what an instance does to the plan, by the kind of its behaviour. */
export function addBehaviour(
  instance: Instance,
  project: Pick<Project, 'library' | 'recordings' | 'units'>,
  builder: PlanBuilder,
  faults: Faults,
): void {
  const { behaviour } = instance.component.raw;
  switch (behaviour.kind) {
    case 'equations':
      addEquations(instance, behaviour, builder, faults);
      break;
    case 'chart':
      addChart(instance, behaviour, builder, faults);
      break;
    case 'routine':
      addRoutine(instance, behaviour, project.library, builder, faults);
      break;
    case 'decision table':
      addDecisionTable(instance, behaviour, builder, faults);
      break;
    case 'recording':
      addRecording(instance, behaviour, project.recordings, builder, faults);
      break;
    case 'unit':
      addUnit(instance, behaviour, project.units, builder, faults);
      break;
    case 'network':
      // Its parts are instances of their own and bring their work along.
      break;
  }
}
