import type { BuildRecord } from '@/core/build';
import type { ControllerFace } from './controllerFace';

/** The build of a loop as a screen shows it. */
export interface BuildView {
  readonly loop: string;
  readonly key: string;
  /** Why there can be none. */
  readonly because?: string;
  readonly face?: ControllerFace;
  readonly made?: {
    readonly record: BuildRecord;
    readonly by: string;
    /** It is made of the model of today. */
    readonly isCurrent: boolean;
    /** Documents that have changed since, where it is not. */
    readonly changed: readonly string[];
  };
}
