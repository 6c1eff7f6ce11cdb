import type { Properties } from './properties';

export const isItalic = ({ 'font-style': style = 'normal' }: Properties): boolean => /^(italic|oblique)/.test(style);
export const isBold = ({ 'font-weight': weight = '400' }: Properties): boolean =>
  weight === 'bold' || weight === 'bolder' || Number(weight) >= 600;
/** The families of a list, as they are wanted one after the other. */
export const fontFamilies = (list = ''): string[] => list.split(',').map((one) => one.trim().replace(/^['"]|['"]$/g, ''));
