import { type DisplayStyle, type LineForm, PLAIN_LINE } from '../../contracts/display-list';
import type { Box } from '../../base/geometry/measure';
import type { Pen } from '../../base/geometry/pen';
import type { DifferenceKind } from '../../contracts/difference';
import { isPicture } from '../../document/paint';
import { type Sameness, paintInWords, paintsInWords, pictureDrift, samePaint } from './paints';

interface Looking {
  readonly layer: string;
  readonly style: DisplayStyle;
}

/** A difference of look between two things that have the same shape and place. */
export interface LookDifference {
  readonly kind: DifferenceKind;
  readonly master: string;
  readonly copy: string;
  readonly amount: number | null;
}

/** Widths closer than this are the same, mm: what three decimals leave over. */
const WIDTH = 0.002;
const SHARE = 0.005;
/** Points of a pen that differ by more than this share of the width. */
const SHAPE = 0.01;

/**
 * In what two looks differ; empty where they are the same.
 * @param box where they are, mm: gradients are compared by what they show there
 */
export function lookDifferences(a: Looking, b: Looking, box: () => Box, within: Sameness): LookDifference[] {
  const found: LookDifference[] = [];
  const add = (kind: DifferenceKind, master: string, copy: string, amount: number | null = null) =>
    found.push({ kind, master, copy, amount });
  const [x, y] = [a.style, b.style];
  if (a.layer !== b.layer) add('re-layered', a.layer, b.layer);
  const pictures = isPicture(x.fill) && isPicture(y.fill);
  if (pictures && x.fill.picture !== y.fill.picture) add('picture changed', paintInWords(x.fill), paintInWords(y.fill));
  if (isPicture(x.fill) && isPicture(y.fill)) {
    const drift = pictureDrift(x.fill, y.fill);
    if (drift > 2 * within.tolerance) add('cropped otherwise', 'its part', 'another part', drift);
  } else if (!samePaint(x.fill, y.fill, box, within)) add('recoloured', ...paintsInWords('fill', x.fill, y.fill));
  if (!samePaint(x.stroke, y.stroke, box, within)) add('recoloured', ...paintsInWords('line', x.stroke, y.stroke));
  const lines = x.stroke && y.stroke;
  const width = Math.abs(x.strokeWidth - y.strokeWidth);
  if (lines && width > WIDTH)
    add('restyled', `line ${x.strokeWidth.toFixed(3)} mm`, `line ${y.strokeWidth.toFixed(3)} mm`, width);
  if (lines)
    for (const [name, one, other] of formDifferences(x.line ?? PLAIN_LINE, y.line ?? PLAIN_LINE))
      add('restyled', `${name} ${one}`, `${name} ${other}`);
  const shares = [
    ['opacity', x.opacity, y.opacity],
    ...(x.fill && y.fill ? [['opacity of the fill', x.fillOpacity ?? 1, y.fillOpacity ?? 1] as const] : []),
    ...(lines ? [['opacity of the line', x.strokeOpacity ?? 1, y.strokeOpacity ?? 1] as const] : []),
  ] as const;
  for (const [name, one, other] of shares)
    if (Math.abs(one - other) > SHARE) add('restyled', `${name} ${one.toFixed(2)}`, `${name} ${other.toFixed(2)}`);
  return found;
}

function formDifferences(a: LineForm, b: LineForm): (readonly [name: string, master: string, copy: string])[] {
  const far = (one: readonly number[], other: readonly number[], within: number) =>
    one.length !== other.length || one.some((value, i) => Math.abs(value - other[i]!) > within);
  const dashes = ({ dash, dashOffset }: LineForm) =>
    dash.length ? `${dash.map((length) => length.toFixed(3)).join(' ')} from ${dashOffset.toFixed(3)}` : 'none';
  const pen = ({ pen: shape }: LineForm) => (shape ? shape.map((value) => value.toFixed(2)).join(' ') : 'round');
  const found: (readonly [string, string, string])[] = [];
  if (far([...a.dash, a.dashOffset], [...b.dash, b.dashOffset], WIDTH)) found.push(['dashes', dashes(a), dashes(b)]);
  if (a.cap !== b.cap) found.push(['line ends', a.cap, b.cap]);
  if (a.join !== b.join) found.push(['corners', a.join, b.join]);
  if (a.join === 'miter' && b.join === 'miter' && Math.abs(a.miterLimit - b.miterLimit) > SHAPE)
    found.push(['miter limit', String(a.miterLimit), String(b.miterLimit)]);
  if (far(a.pen ?? ROUND, b.pen ?? ROUND, SHAPE)) found.push(['pen', pen(a), pen(b)]);
  return found;
}
const ROUND: Pen = [1, 0, 1];
