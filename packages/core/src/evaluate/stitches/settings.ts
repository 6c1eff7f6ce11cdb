import type { MachineProfile } from '../../base/machines';
import type { Work } from '../../document/schema-parts';
import type { PlanSettings } from '../machines/settings';

/** How a needle is to do what its machine and the master leave open. Lengths mm. */
export interface StitchSettings extends Pick<PlanSettings, 'place' | 'mirrored' | 'leftOut'> {
  readonly machine: MachineProfile;
  /** The longest stitch along a line, or along a row of an area. */
  readonly length: number;
  /** How far apart rows of an area are, and pairs of stitches of satin. */
  readonly density: number;
  /** How much wider everything is sewn than it is, for the pull of the threads. */
  readonly pull: number;
  readonly under: NonNullable<NonNullable<Work['stitch']>['under']>;
  /** A gap that is wider is not sewn over: the thread is cut. */
  readonly trimOver: number;
  /** Columns that are too narrow for satin: to be decided, or sewn along. */
  readonly narrow: 'asked' | 'along';
  readonly letters: 'of the needle' | 'as drawn';
  readonly order: 'few threads' | 'as drawn';
}
