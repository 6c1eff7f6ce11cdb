import type { MachineProfile } from '../../base/machines';

/** How a machine is to do what its profile and the master leave open. */
export interface PlanSettings {
  readonly machine: MachineProfile;
  /** Arcs stay arcs; else they become lines that are so near, mm. */
  readonly arcs: true | number;
  /** With the turning edge against the feed (conventional) or along it (climb). */
  readonly direction: 'climb' | 'conventional';
  /** Down along the outline, or straight. */
  readonly entry: 'ramp' | 'plunge';
  /** Radius of the arc by which a closed outline is entered and left, mm; 0 for none. */
  readonly lead: number;
  /** Bridges in each part that is cut out, where the master says nothing; their length and height, mm. */
  readonly tabs: number;
  readonly tabLength: number;
  readonly tabHeight: number;
  /** What is left for a last round all the way down, mm. */
  readonly finish: number;
  /** The shortest way between objects, or as the master has them; what lies in a part comes before it all the same. */
  readonly sequence: 'short way' | 'as drawn';
  /** How far the tip of a knife is behind its axis, and how far it cuts past where it began, mm. */
  readonly blade: number;
  readonly overcut: number;
  /** A frame around all that is cut, so far from it, mm; 0 for none. */
  readonly frame: number;
  /** How many of the part, how far apart, mm, and whether some may be turned. */
  readonly count: number;
  readonly spacing: number;
  readonly turns: 'none' | 'quarter turns';
  /** Marks to lay the sheet down by again, and how far outside of all that is worked, mm. */
  readonly marks: 'none' | 'drawn' | 'drilled';
  readonly markAt: number;
  /** What engraving does with what is closed, and how pockets are cleared. */
  readonly engraving: 'outlines' | 'filled' | 'filled and outlined';
  readonly clearing: 'rings' | 'lines';
  /** How far apart lines of an engraved area are, mm; 0 for as wide as the tool. */
  readonly hatchStep: number;
  /** At which angle lines lie, degrees. */
  readonly hatchAngle: number;
  readonly place: 'as drawn' | 'at the origin' | 'in the middle';
  /** Seen from the back. */
  readonly mirrored: boolean;
  /** What the tool can't reach in corners: to be decided, left round, or opened by a cut into the corner. */
  readonly corners: 'asked' | 'rounded' | 'opened';
  /** What has no inside, where something is to be cut out. */
  readonly open: 'asked' | 'as they are';
  readonly crossings: 'asked' | 'united';
  readonly doubles: 'asked' | 'once' | 'twice';
  /** Ends nearer than this are one, mm. */
  readonly joins: number;
  /** What is smaller than this is left out, mm. */
  readonly specks: number;
  /** Objects that are left out, by id. */
  readonly leftOut: readonly string[];
}

/** Half the length of the arms of a drawn mark, mm. */
export const ARM = 4;

/** How far marks go beyond what is worked, mm. */
export const marginOfMarks = ({ marks, markAt }: Pick<PlanSettings, 'marks' | 'markAt'>): number =>
  marks === 'none' ? 0 : markAt + ARM;
