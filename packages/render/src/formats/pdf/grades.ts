import type { PdfVersion } from '@inkwell-twin/core';
import type { PdfGrade } from './file';

const plain = (version: PdfGrade['version']): PdfGrade => ({ version, keeping: null });
const keeping = (part: 2 | 3): PdfGrade => ({ version: '1.7', keeping: { part, level: 'B' } });

/** What each version that can be asked for is written as. */
export const GRADES: Readonly<Record<PdfVersion, PdfGrade>> = {
  '1.4': plain('1.4'),
  '1.7': plain('1.7'),
  '2.0': plain('2.0'),
  'A-2b': keeping(2),
  'A-3b': keeping(3),
};
