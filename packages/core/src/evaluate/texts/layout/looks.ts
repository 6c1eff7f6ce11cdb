import { FACES, type FontName, faceOf } from '../../../document/faces';
import type { Emphasis, Role } from '../../../document/texts/schema';

/** How words of a role are set; lengths in ems of the text's own letters. */
export interface RoleLook {
  /** Of its letters, as a multiple of the text's own. */
  readonly size: number;
  readonly font: 'text' | 'heading';
  readonly italic: boolean;
  readonly before: number;
  readonly after: number;
  readonly indent: number;
}
const text: RoleLook = { size: 1, font: 'text', italic: false, before: 0, after: 0.65, indent: 0 };
const heading = (size: number, before: number): RoleLook => ({
  size,
  font: 'heading',
  italic: false,
  before,
  after: 0.5,
  indent: 0,
});
const item: RoleLook = { ...text, after: 0.3 };

export const LOOKS: Readonly<Record<Role | 'caption' | 'note', RoleLook>> = {
  body: text,
  'heading 1': heading(2, 1.6),
  'heading 2': heading(1.5, 1.4),
  'heading 3': heading(1.2, 1.2),
  'heading 4': heading(1.05, 1),
  'heading 5': heading(1, 0.9),
  'heading 6': heading(0.9, 0.9),
  quote: { ...text, italic: true, indent: 1.8 },
  bullet: item,
  numbered: item,
  continued: item,
  caption: { ...text, size: 0.85, after: 1.1 },
  note: { ...text, size: 0.85, after: 0.35 },
};
/** How much deeper each level of a list stands, ems, and how far before its words a sign. */
export const [STEP, HANG] = [1.6, 1.2];
/** Baselines apart, ems of the letters. */
export const LEADING = 1.4;
/** What is raised or lowered: how large, and how far up. */
export const SHIFTED = { size: 0.65, raised: 0.34, lowered: -0.14 } as const;

/** How a text is set: its letters, mm, and its fonts. */
export interface TypeSetting {
  readonly size: number;
  readonly text: FontName;
  readonly heading: FontName;
  readonly code: FontName;
  readonly colour: string;
}
export const SETTING: TypeSetting = {
  size: 3.7,
  text: 'Source Serif 4',
  heading: 'Work Sans Bold',
  code: 'Cousine',
  colour: '#14213a',
};

/** The face of a font's family that is bold or slanted as words ask for; upright where the family has no slant. */
export function faceFor(font: FontName, marks: readonly Emphasis[], italic: boolean): FontName {
  const own = faceOf(font);
  const bold = own.bold || marks.includes('bold');
  // Words that stand out in what is slanted stand upright.
  const slanted = marks.includes('italic') !== italic;
  const found =
    FACES.find((face) => face.family === own.family && face.bold === bold && face.italic === slanted) ??
    FACES.find((face) => face.family === own.family && face.bold === bold);
  return found?.name ?? font;
}
