/** One glyph for each letter, so that what is read back is what was written. */
export const PLAIN_LETTERS = { liga: false, clig: false, dlig: false, calt: false, rlig: false };
