/** Encodings that are told apart or can be chosen, by their names in the Encoding Standard. */
export const ENCODINGS = [
  'utf-8',
  'utf-16le',
  'utf-16be',
  'windows-1252',
  'windows-1250',
  'windows-1251',
  'iso-8859-2',
  'iso-8859-15',
  'macintosh',
  'shift_jis',
  'gb18030',
] as const;
export type Encoding = (typeof ENCODINGS)[number];
