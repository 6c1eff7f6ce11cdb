import { toBase64 } from '../../base/bytes/base64';
import { shortNumber } from '../../base/bytes/numbers';
import type { Drawing } from '../../contracts/drawing';
import { apply, invert, type Matrix, multiply } from '../../base/geometry/matrix';
import type { Point } from '../../base/geometry/point';
import type { PlacedPicture } from '../../document/paint';

const SHARE_DIGITS = 6;

/**
 * A picture as an `image`; where only a part of it is shown, in a viewport that cuts it off (SVG 1.1, 14.3.3).
 * @param down from the board to the axes of the sheet
 * @param corners of the frame on the board
 */
export function imageText(
  { picture, at }: PlacedPicture,
  corners: readonly Point[],
  opacity: number,
  { pictures }: Pick<Drawing, 'pictures'>,
  down: Matrix,
  digits: number,
): string {
  const { mediaType, bytes } = pictures[picture]!;
  const data = `xlink:href="data:${mediaType};base64,${toBase64(bytes)}"`;
  // The frame in shares of the picture, running down as rows do.
  const shares = corners.map((corner) => apply(invert(at)!, corner));
  const [xs, ys] = [shares.map(([x]) => x), shares.map(([, y]) => 1 - y)];
  const near = (value: number) => (Math.abs(value - Math.round(value)) < 1e-9 ? Math.round(value) : value);
  const [left, right, top, bottom] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)].map(near) as [
    number,
    number,
    number,
    number,
  ];
  const whole = multiply(down, multiply(at, [1, 0, 0, -1, 0, 1]));
  const frame = multiply(whole, [right - left, 0, 0, bottom - top, left, top]);
  const upright = Math.abs(frame[1]) + Math.abs(frame[2]) < 1e-9 && frame[0] > 0 && frame[3] > 0;
  const through = opacity < 1 ? ` opacity="${shortNumber(opacity, 4)}"` : '';
  const n = (value: number) => shortNumber(value, digits);
  const m = (value: number) => shortNumber(value, SHARE_DIGITS);
  const place = upright
    ? `x="${n(frame[4])}" y="${n(frame[5])}" width="${n(frame[0])}" height="${n(frame[3])}"`
    : 'width="1" height="1"';
  const turned = upright ? '' : ` transform="matrix(${frame.map(m).join(' ')})"`;
  if (left === 0 && top === 0 && right === 1 && bottom === 1)
    return `<image ${place}${turned} preserveAspectRatio="none"${through} ${data}/>\n`;
  const box = [left, top, right - left, bottom - top].map(m).join(' ');
  const inner = `<image width="1" height="1" preserveAspectRatio="none"${through} ${data}/>`;
  const cut = `<svg ${place} viewBox="${box}" preserveAspectRatio="none">${inner}</svg>`;
  return upright ? `${cut}\n` : `<g${turned}>${cut}</g>\n`;
}
