import { decodeMarkup } from '../../base/bytes/text';

/** Decimals that a copy may be written with. */
const [FEWEST, MOST] = [2, 6];
/** Attributes that hold coordinates (SVG 1.1, 8, 9 and 7.6). */
const COORDINATES = /\s(?:d|points|transform|x|y|x1|y1|x2|y2|cx|cy|r|rx|ry|width|height)\s*=\s*(?:"([^"]*)"|'([^']*)')/g;

/**
 * How an SVG without a mark was made, as far as it shows: decimals of its coordinates, whether letters are text, and whether
 * symbols are used.
 */
export function statedInSvg(bytes: Uint8Array): Readonly<Record<string, string>> {
  const text = decodeMarkup(bytes);
  let decimals = FEWEST;
  for (const [, one, other] of text.matchAll(COORDINATES))
    for (const [, digits] of (one ?? other)!.matchAll(/\.(\d+)/g)) decimals = Math.max(decimals, digits!.length);
  return {
    precision: String(Math.min(decimals, MOST)),
    text: /<(?:\w+:)?text[\s>]/.test(text) ? 'text' : 'outlines',
    symbols: /<(?:\w+:)?use[\s/>]/.test(text) ? 'used' : 'opened',
  };
}
