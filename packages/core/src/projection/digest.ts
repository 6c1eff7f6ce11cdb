import { digest } from '../master/hash';
import type { Outline } from '../geometry/outline';
import type { DisplayList } from './display-list';

const round = (value: number): number => Math.round(value * 1000) / 1000 + 0;

const outlineText = ({ start, segments, closed }: Outline): string =>
  `${start.map(round)}${segments
    .map((s) =>
      s.kind === 'line'
        ? `L${s.to.map(round)}`
        : s.kind === 'arc'
          ? `${s.clockwise ? 'R' : 'A'}${s.to.map(round)} ${s.centre.map(round)}`
          : `C${[...s.c1, ...s.c2, ...s.to].map(round)}`,
    )
    .join('')}${closed ? 'Z' : ''}`;

/** A short name for what a projection says: equal projections, to a thousandth of a millimetre, have equal digests. */
export function digestOf(list: DisplayList): string {
  const lines = list.entries.map((entry) => {
    const { fill, fillRule, stroke, strokeWidth, opacity } = entry.style;
    const look = `${entry.layer}|${fill}|${fill ? fillRule : ''}|${stroke}|${round(strokeWidth)}|${round(opacity)}`;
    return entry.kind === 'path'
      ? `p|${look}|${entry.outlines.map(outlineText).join(' ')}`
      : `t|${look}|${entry.frame.map(round)}|${round(entry.size)}|${entry.font}|${entry.align}|${entry.text}`;
  });
  const sheet = list.sheet ? `${round(list.sheet.width)}x${round(list.sheet.height)}` : '';
  return digest([sheet, String(list.background), ...lines].join('\n')).slice(0, 32);
}
