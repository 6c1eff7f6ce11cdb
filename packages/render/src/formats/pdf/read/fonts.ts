import { FACES, type FontName, nearestFace } from '@inkwell-twin/core';

const STYLES = { false: { false: 'Regular', true: 'Italic' }, true: { false: 'Bold', true: 'BoldItalic' } } as const;
/** Shipped fonts by what their files call themselves. */
const byFile = new Map(
  FACES.map(({ name, family, bold, italic }) => [`${family.replaceAll(' ', '')}-${STYLES[`${bold}`][`${italic}`]}`, name]),
);

/** What the library says of a font's letters. */
export interface Letters {
  readonly isSerifFont?: boolean;
  readonly isMonospace?: boolean;
  readonly bold?: boolean;
  readonly italic?: boolean;
}

/** The shipped font that a font of a file is, or the nearest one. @param name "ABCDEF+WorkSans-Bold" */
export function fontCalled(name: string, letters: Letters = {}): { readonly font: FontName; readonly exact: boolean } {
  const bare = name.replace(/^[A-Z]{6}\+/, '');
  const own = byFile.get(bare);
  if (own) return { font: own, exact: true };
  const [family = '', style = ''] = bare.split(/[-,]/);
  const spaced = family.replace(/([a-z])([A-Z])/g, '$1 $2');
  // Not every file says that its letters have serifs; their names mostly do.
  const serif = letters.isSerifFont || (!/sans/i.test(bare) && /serif|rom(an)?|times|^cm[a-z]*\d/i.test(bare));
  const generic = letters.isMonospace ? 'monospace' : serif ? 'serif' : 'sans-serif';
  const bold = letters.bold || /bold|black|heavy|medi$/i.test(style);
  const { font } = nearestFace([spaced, generic], bold, letters.italic || /ital|oblique/i.test(style));
  return { font, exact: false };
}
