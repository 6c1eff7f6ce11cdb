import type { Target } from '../target';
import { carries, options } from './carries';
import { readHpgl } from './read';
import { writeHpgl } from './write';

export const hpgl: Target = {
  id: 'hpgl',
  label: 'Cut file (HP-GL)',
  extension: 'plt',
  mediaType: 'application/vnd.hp-hpgl',
  standard: 'HP-GL',
  options,
  versions: [],
  purpose: () => 'machine',
  version: () => '',
  carries,
  tolerance: 0.05,
  write: writeHpgl,
  read: readHpgl,
  recognise: (start) => /^\s*(IN|DF|SP\d*|PU|PA|CO\s*"[^"]*")[\d\s,-]*;/.test(start),
};
