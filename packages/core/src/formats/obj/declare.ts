import * as z from 'zod';
import type { Declaration } from '../../contracts/declaration';
import { SOLID_TOLERANCE, finenessOptions, triangleCarries, unitOption, upOption } from '../solids/options';

/** Triangles that share their corners, as text. */
export const objDeclaration: Declaration = {
  id: 'obj',
  label: 'Shared triangles (OBJ)',
  offered: 180,
  standard: 'OBJ, polygonal part',
  mediaType: 'model/obj',
  writer: '1',
  options: z.strictObject({ ...finenessOptions, ...unitOption, ...upOption }),
  versions: null,
  use: () => 'delivery',
  extension: () => 'obj',
  carries: (options) => triangleCarries(options, { colours: 'left out', names: 'kept' }),
  tolerance: { mesh: SOLID_TOLERANCE },
  holds: { leaves: 'many', files: () => 'one', mark: 'inside' },
  limits: {},
  recognise: {
    structure: (head) => {
      const text = new TextDecoder().decode(head);
      if (text.includes('\0')) return false;
      const lines = text.split(/\r\n|\n|\r/).filter((line) => line.trim() && !line.startsWith('#'));
      const whole = head.length < 4096 ? lines : lines.slice(0, -1);
      return (
        whole.some((line) => /^v\s+[-+.\d]/.test(line)) &&
        whole.every((line) => /^\s*(v|vn|vt|vp|f|o|g|s|l|p|mtllib|usemtl)(\s|$)/.test(line))
      );
    },
  },
};
