/** Encodings that are told apart or can be chosen, by their names in the Encoding Standard. */
export const ENCODINGS = [
  'utf-8',
  'utf-16le',
  'utf-16be',
  'windows-1252',
  'windows-1250',
  'windows-1251',
  'windows-1253',
  'windows-1254',
  'windows-1255',
  'windows-1256',
  'iso-8859-2',
  'iso-8859-15',
  'koi8-r',
  'macintosh',
  'shift_jis',
  'euc-jp',
  'euc-kr',
  'gb18030',
  'big5',
] as const;
export type Encoding = (typeof ENCODINGS)[number];
