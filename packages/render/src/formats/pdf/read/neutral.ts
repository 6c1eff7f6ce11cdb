/** Instructions that change nothing that shows on a screen. */
export const NEUTRAL = new Set([
  'dependency',
  'setRenderingIntent',
  'setFlatness',
  'markPoint',
  'markPointProps',
  'beginCompat',
  'endCompat',
]);
/** Instructions of a letter that say how wide it is: its font says so, too. */
export const OF_LETTERS = new Set(['setCharWidth', 'setCharWidthAndBounds']);
/** Parameters of a graphics state that change nothing here. */
export const NEUTRAL_STATE = new Set([
  'OP',
  'op',
  'OPM',
  'SA',
  'AIS',
  'TK',
  'RI',
  'FL',
  'SM',
  'HT',
  'Type',
  'TR',
  'TR2',
  'BG',
  'BG2',
  'UCR',
  'UCR2',
]);
