import { boardOf, resolveBoard } from '../../master/resolve';
import type { Target } from '../target';
import { carries, options } from './carries';
import { listOfResolved } from '../list-of-resolved';
import { bringInSvg } from './bring-in';
import { writeSvg } from './write';

export const svg: Target = {
  id: 'svg',
  label: 'SVG drawing',
  extension: 'svg',
  mediaType: 'image/svg+xml',
  standard: 'SVG 1.1 (Second Edition)',
  options,
  versions: [],
  purpose: () => 'delivery',
  version: () => '',
  carries,
  tolerance: 0.01,
  write: writeSvg,
  read: (bytes) => {
    const { master, mark, notUnderstood } = bringInSvg(bytes, 'copy');
    return { list: listOfResolved(resolveBoard(master, boardOf(master)), true), mark, notUnderstood };
  },
  bringIn: bringInSvg,
  recognise: (start) => /<svg[\s>]/.test(start) || /^\s*<\?xml[\s\S]*<(!DOCTYPE\s+)?svg/.test(start),
};
