/** What readers of a version know, from the published description of its interchange files. */
export interface Age {
  readonly name: string;
  /** The number in the file's header that they know at most. */
  readonly number: number;
  /** Entities that they draw. */
  readonly draws: ReadonlySet<string>;
  /** Whether they give a file up over what they don't know, or skip it. */
  readonly stops: boolean;
  /** Whether objects carry the names of their classes and a handle each. */
  readonly classes: boolean;
  /** Whether colours may be stated as red, green and blue. */
  readonly trueColour: boolean;
  /** Whether letters are UTF-8. */
  readonly unicode: boolean;
  /** Entities that are texts. */
  readonly texts: ReadonlySet<string>;
}

const LINES = ['LINE', 'POINT', 'CIRCLE', 'ARC', 'TRACE', 'SOLID', '3DFACE', 'POLYLINE'];
const TEXTS = ['TEXT', 'ATTRIB', 'ATTDEF'];
const FIRST = [...LINES, ...TEXTS, 'INSERT', 'DIMENSION', 'SHAPE', 'VIEWPORT'];
const LATER = [...FIRST, 'LWPOLYLINE', 'ELLIPSE', 'SPLINE', 'MTEXT', 'HATCH', 'IMAGE', 'LEADER', 'RAY', 'XLINE'];

const age = (name: string, number: number, more: Partial<Age> = {}): Age => ({
  name,
  number,
  draws: new Set(LATER),
  stops: false,
  classes: true,
  trueColour: number >= 1018,
  unicode: number >= 1021,
  texts: new Set([...TEXTS, 'MTEXT']),
  ...more,
});

/** Oldest first. */
export const AGES: readonly Age[] = [
  age('R12', 1009, { draws: new Set(FIRST), stops: true, classes: false }),
  age('2000', 1015),
  age('2004', 1018),
  age('2007', 1021),
  age('2010', 1024),
  age('2013', 1027),
  age('2018', 1032),
];
