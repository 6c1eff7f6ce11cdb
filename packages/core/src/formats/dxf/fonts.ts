import { FACES, type Face, type FontName, faceOf, nearestFace } from '../../document/faces';

/** The text style of the STYLE table that stands for a font. */
export const styleOfFont = (font: FontName): string => font.toUpperCase().replaceAll(' ', '_');

const fileOf = ({ family, bold, italic }: Face): string =>
  `${family.replaceAll(' ', '')}-${bold ? 'Bold' : ''}${italic ? 'Italic' : ''}${bold || italic ? '' : 'Regular'}.ttf`;

/** The font file that a style names. */
export const fileOfFont = (font: FontName): string => fileOf(faceOf(font));

const byFile = new Map(FACES.map((face) => [fileOf(face).toLowerCase(), face.name]));

/** The shipped font for a style's font file; `exact` says whether it is that font. */
export function fontOfFile(file: string): { font: FontName; exact: boolean } {
  const exact = byFile.get(file.toLowerCase());
  if (exact) return { font: exact, exact: true };
  const name = file.replace(/\.[a-z]+$/i, '').replace(/[-_]/g, ' ');
  const plain = name.replace(/\s*(bold|bd|italic|oblique|regular)\b/gi, '');
  return { ...nearestFace([plain || 'unknown'], /bold|bd\./i.test(file), /italic|oblique/i.test(file)), exact: false };
}
