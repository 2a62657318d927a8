import type { RawBench, RawCampaign, RawComponent, RawDesk, RawLoop, RawPairing, RawParameterSet, RawRequirement, RawScene } from '@/core/shapes';
import type { ReadDocument } from '@/core/yaml';

/** One text file of a project, its path relative to the project folder. */
export interface SourceFile {
  readonly path: string;
  readonly text: string;
}

export interface ComponentDocument {
  readonly document: ReadDocument;
  readonly raw: RawComponent;
}
export interface LoopDocument {
  readonly document: ReadDocument;
  readonly raw: RawLoop;
  /** Of a loop that comes of a pairing: the components that are its controller, the loop they are from, and the documents it is made of. */
  readonly paired?: { readonly controller: readonly string[]; readonly from: string; readonly files: readonly string[] };
}
export interface PairingDocument {
  readonly document: ReadDocument;
  readonly raw: RawPairing;
}
export interface CampaignDocument {
  readonly document: ReadDocument;
  readonly raw: RawCampaign;
}
export interface ParameterSetDocument {
  readonly document: ReadDocument;
  readonly raw: RawParameterSet;
}
export interface DeskDocument {
  readonly document: ReadDocument;
  readonly raw: RawDesk;
}
export interface BenchDocument {
  readonly document: ReadDocument;
  readonly raw: RawBench;
}
export interface SceneDocument {
  readonly document: ReadDocument;
  readonly raw: RawScene;
}
export interface RequirementDocument {
  readonly document: ReadDocument;
  readonly path: readonly (string | number)[];
  readonly section: string;
  readonly raw: RawRequirement;
}
