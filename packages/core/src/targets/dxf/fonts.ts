import type { FontName } from '../../master/schema';

/** Text styles of the STYLE table and the font files they name. */
export const STYLE_OF_FONT: Record<FontName, { style: string; file: string }> = {
  Commissioner: { style: 'COMMISSIONER', file: 'Commissioner-Regular.ttf' },
  'Commissioner Bold': { style: 'COMMISSIONER_BOLD', file: 'Commissioner-Bold.ttf' },
  'Spline Sans Mono': { style: 'SPLINE_SANS_MONO', file: 'SplineSansMono-Regular.ttf' },
};

/** The shipped font for a style's font file; `exact` says whether it is that font. */
export function fontOfFile(file: string): { font: FontName; exact: boolean } {
  const exact = (Object.keys(STYLE_OF_FONT) as FontName[]).find(
    (font) => STYLE_OF_FONT[font].file.toLowerCase() === file.toLowerCase(),
  );
  if (exact) return { font: exact, exact: true };
  if (/mono|cour/i.test(file)) return { font: 'Spline Sans Mono', exact: false };
  return { font: /bold|bd\./i.test(file) ? 'Commissioner Bold' : 'Commissioner', exact: false };
}
