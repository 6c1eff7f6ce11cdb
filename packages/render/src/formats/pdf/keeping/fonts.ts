import { type Clause, dictOf, entry, has, listOf, nameOf, ofType } from './clause';
import { operationsIn } from './contents';

/** Tables of codes that every reader has (ISO 32000-1, table 118), as far as they need no language of its own. */
const IDENTITY = new Set(['Identity-H', 'Identity-V']);

/** Fonts (ISO 19005-2, 6.2.11). */
export const FONTS: readonly Clause[] = [
  {
    number: '6.2.11.2',
    words: 'Fonts are of kinds that the standard names',
    *broken(file) {
      const KINDS = new Set(['Type0', 'Type1', 'MMType1', 'Type3', 'TrueType', 'CIDFontType0', 'CIDFontType2']);
      for (const { dict, where } of ofType(file, 'Font')) {
        const kind = nameOf(file, dict, 'Subtype');
        if (!KINDS.has(kind)) yield `${where} is a font of kind ${kind || 'none'}`;
        if (kind !== 'Type3' && !nameOf(file, dict, 'BaseFont')) yield `${where} is a font without a name`;
      }
    },
  },
  {
    number: '6.2.11.3',
    words: 'Fonts of many letters say which letter each code is',
    *broken(file) {
      for (const { dict, where } of ofType(file, 'Font')) {
        const kind = nameOf(file, dict, 'Subtype');
        if (kind === 'CIDFontType2') {
          const map = entry(file, dict, 'CIDToGIDMap');
          if (!(map instanceof file.lib.PDFStream) && nameOf(file, dict, 'CIDToGIDMap') !== 'Identity')
            yield `${where} does not say which letter a code is`;
        }
        if (kind === 'Type0') {
          const codes = entry(file, dict, 'Encoding');
          if (!(codes instanceof file.lib.PDFStream) && !IDENTITY.has(nameOf(file, dict, 'Encoding')))
            yield `${where} has a table of codes that is not inside`;
          if (!listOf(file, dict, 'DescendantFonts').length) yield `${where} has no letters`;
        }
      }
    },
  },
  {
    number: '6.2.11.4',
    words: 'The letters of each font are inside',
    *broken(file) {
      for (const { dict, where } of ofType(file, 'Font')) {
        if (['Type0', 'Type3'].includes(nameOf(file, dict, 'Subtype'))) continue;
        const descriptor = dictOf(file, dict, 'FontDescriptor');
        const inside = descriptor && ['FontFile', 'FontFile2', 'FontFile3'].some((key) => has(file, descriptor, key));
        if (!inside) yield `${where}, ${nameOf(file, dict, 'BaseFont')}, is not inside`;
      }
    },
  },
  {
    number: '6.2.11.8',
    words: 'No text shows the letter that stands for a missing one',
    *broken(file) {
      const wide = new Set(ofType(file, 'Font').flatMap(({ dict }) => (nameOf(file, dict, 'Subtype') === 'Type0' ? [dict] : [])));
      for (const { content, where, dict } of file.drawings) {
        const fonts = dictOf(file, dictOf(file, dict, 'Resources'), 'Font');
        let inWide = false;
        for (const { operator, operands } of operationsIn(content)) {
          if (operator === 'Tf') {
            const font = dictOf(file, fonts, operands.at(-2)?.slice(1) ?? '');
            inWide = font !== undefined && wide.has(font);
          }
          if (!inWide || (operator !== 'TJ' && operator !== 'Tj')) continue;
          for (const shown of operands) {
            if (!shown.startsWith('<')) continue;
            const codes = [...shown.replace(/[<>\s]/g, '').matchAll(/.{1,4}/g)].map(([code]) => code);
            if (codes.includes('0000')) yield `${where} shows a letter that its font does not have`;
          }
        }
      }
    },
  },
];
