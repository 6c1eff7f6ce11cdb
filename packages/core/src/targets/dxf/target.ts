import type { Target } from '../target';
import { VERSIONS, carries, options } from './carries';
import { bringInDxf } from './bring-in';
import { readDxf } from './read';
import { writeDxf } from './write';

export const dxf: Target = {
  id: 'dxf',
  label: 'Drawing interchange (DXF)',
  extension: 'dxf',
  mediaType: 'image/vnd.dxf',
  standard: 'DXF, text; AC1009 or AC1015',
  options,
  versions: VERSIONS,
  purpose: () => 'older',
  version: (values) => String(values['version']),
  carries,
  tolerance: 0.01,
  write: writeDxf,
  read: readDxf,
  bringIn: bringInDxf,
  recognise: (start) => /^(\s*999\r?\n[^\n]*\r?\n)*\s*0\s*\r?\n\s*SECTION\b/.test(start),
};
