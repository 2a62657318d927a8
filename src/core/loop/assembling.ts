import type { Instance } from '@/core/behaviour';
import type { LoopDocument, Project } from '@/core/documents';
import type { Faults } from '@/core/fault';
import type { PlanBuilder } from '@/core/formula';
import type { Catalogue } from './catalogue/catalogue';
import type { FaultyWires } from './faultyWires';

/** What the steps of an assembly share. */
export interface Assembling {
  readonly project: Project;
  readonly loop: LoopDocument;
  readonly builder: PlanBuilder;
  /** By the key of their name. */
  readonly instances: Map<string, Instance>;
  /** Filled at the end; what cannot be read is noted on the way. */
  readonly catalogue: Catalogue;
  readonly faults: Faults;
  /** Wires that may be faulty in a run. */
  readonly faulty?: FaultyWires | undefined;
}
