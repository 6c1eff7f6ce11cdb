import * as z from 'zod';
import type { Declaration } from '../../contracts/declaration';
import { SOLID_TOLERANCE, finenessOptions, triangleCarries, unitOption, upOption } from '../solids/options';

/** Bytes of a binary file before its triangles, and of each of them. */
export const [HEAD, FACET] = [84, 50];

const textIn = (head: Uint8Array): string => new TextDecoder().decode(head.subarray(0, 1024));

/** A binary file says nothing of itself but a count: its first triangle tells whether it can be one. */
function canBeBinary(head: Uint8Array): boolean {
  // Behind eighty blanks stands the count, which is no letter whatever it looks like.
  if (head.length < HEAD || /^\s*(solid|<|\{|%|#)/i.test(textIn(head.subarray(0, 80)))) return false;
  const view = new DataView(head.buffer, head.byteOffset, head.byteLength);
  const count = view.getUint32(80, true);
  if (!count) return head.length === HEAD;
  if (count > 400_000_000 || head.length < HEAD + FACET) return false;
  const [x, y, z] = [0, 4, 8].map((at) => view.getFloat32(HEAD + at, true)) as [number, number, number];
  const corners = Array.from({ length: 9 }, (_, k) => view.getFloat32(HEAD + 12 + 4 * k, true));
  const length = Math.hypot(x, y, z);
  const printable = head.subarray(0, 80).every((byte) => byte === 0 || byte === 9 || byte >= 32);
  if (!printable) return false;
  // A small file that is as long as its count says is one, whatever its numbers are.
  if (head.length < 4096 && head.length === HEAD + FACET * count) return true;
  const sound = corners.every((value) => Math.abs(value) < 1e7) && corners.some((value) => Math.abs(value) > 1e-9);
  return sound && (length < 1e-6 || Math.abs(length - 1) < 1e-2);
}

/** Triangles alone, for machines that build in layers. */
export const stlDeclaration: Declaration = {
  id: 'stl',
  label: 'Triangles (STL)',
  offered: 160,
  standard: 'STL, binary or text',
  mediaType: 'model/stl',
  writer: '1',
  options: z.strictObject({
    encoding: z.enum(['binary', 'text']).default('binary').describe('Text is five times as large, and can be read by eye'),
    ...finenessOptions,
    ...unitOption,
    ...upOption,
  }),
  versions: null,
  use: () => 'machine',
  extension: () => 'stl',
  carries: (options) => triangleCarries(options, { colours: 'left out', names: 'left out' }),
  tolerance: { mesh: SOLID_TOLERANCE },
  holds: { leaves: 'one', files: () => 'many', mark: 'sidecar' },
  limits: {},
  recognise: {
    structure: (head) => /^\s*solid\b/i.test(textIn(head)) && /\bfacet\b/i.test(textIn(head)),
    shape: canBeBinary,
  },
};
