import { asCircle, pointOnArc, sweepOf } from '../../geometry/arcs';
import type { Matrix } from '../../geometry/matrix';
import type { Outline } from '../../geometry/outline';
import { distance } from '../../geometry/point';
import type { DisplayEntry, DisplayList, DisplayStyle, TextEntry } from '../../projection/display-list';
import { encodeText } from '../bytes';
import { shortNumber } from '../numbers';
import type { OptionValues } from '../target';

const FAMILIES = {
  Commissioner: ['Commissioner, sans-serif', ''],
  'Commissioner Bold': ['Commissioner, sans-serif', ' font-weight="700"'],
  'Spline Sans Mono': ["'Spline Sans Mono', monospace", ''],
} as const;

const escape = (text: string): string =>
  // XML 1.0, 2.2: control characters other than tab and line ends can't stand in a document at all.

  text.replace(/[\u0000-\u0008\u000b\u000c\u000e-\u001f]/g, '').replace(/[&<>"]/g, (c) => ENTITIES[c]!);
const ENTITIES: Record<string, string> = { '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' };

/** SVG 1.1 bytes: user units are millimetres, y turned over, one group per layer run with its name as title. */
export function writeSvg(list: DisplayList, options: OptionValues, mark: string): Uint8Array {
  const digits = Number(options['precision'] ?? 3);
  const { width, height } = list.sheet ?? { width: 100, height: 100 };
  const n = (value: number) => shortNumber(value, digits);
  const out: string[] = [
    '<?xml version="1.0" encoding="UTF-8"?>',
    `<svg xmlns="http://www.w3.org/2000/svg" version="1.1" width="${n(width)}mm" height="${n(height)}mm" viewBox="0 0 ${n(width)} ${n(height)}">`,
    `<metadata>${escape(mark)}</metadata>`,
  ];
  if (list.background) out.push(`<rect id="board" width="100%" height="100%" fill="${list.background}"/>`);
  let layer: string | undefined;
  for (const entry of list.entries) {
    if (entry.layer !== layer) {
      if (layer !== undefined) out.push('</g>');
      layer = entry.layer;
      out.push(`<g><title>${escape(layer)}</title>`);
    }
    out.push(element(entry, height, n));
  }
  if (layer !== undefined) out.push('</g>');
  out.push('</svg>', '');
  return encodeText(out.join('\n'));
}

function styleText({ fill, fillRule, stroke, strokeWidth, opacity }: DisplayStyle, n: (value: number) => string): string {
  let text = ` fill="${fill ?? 'none'}"`;
  if (fill && fillRule === 'evenodd') text += ' fill-rule="evenodd"';
  if (stroke) text += ` stroke="${stroke}" stroke-width="${n(strokeWidth)}"`;
  if (opacity < 1) text += ` opacity="${shortNumber(opacity, 4)}"`;
  return text;
}

function element(entry: DisplayEntry, height: number, n: (value: number) => string): string {
  const style = styleText(entry.style, n);
  if (entry.kind === 'text') return textElement(entry, height, style, n);
  const circle = entry.outlines.length === 1 ? asCircle(entry.outlines[0]!) : undefined;
  if (circle) return `<circle cx="${n(circle.centre[0])}" cy="${n(height - circle.centre[1])}" r="${n(circle.radius)}"${style}/>`;
  let data = '';
  for (const outline of entry.outlines) data += pathData(outline, height, n);
  return `<path d="${data}"${style}/>`;
}

function pathData(outline: Outline, height: number, n: (value: number) => string): string {
  let data = `M${n(outline.start[0])} ${n(height - outline.start[1])}`;
  let from = outline.start;
  const point = (x: number, y: number) => `${n(x)} ${n(height - y)}`;
  for (const segment of outline.segments) {
    const { to } = segment;
    if (segment.kind === 'line') data += `L${n(to[0])} ${n(height - to[1])}`;
    else if (segment.kind === 'cubic') data += `C${point(...segment.c1)} ${point(...segment.c2)} ${point(...to)}`;
    else {
      // An arc is given by its ends and radius, and near half a turn the least rounding of those throws its middle far off:
      // parts of at most a third of a turn keep that below twice the rounding.
      const parts = Math.max(1, Math.ceil(Math.abs(sweepOf(from, segment)) / ((2 / 3) * Math.PI) - 1e-9));
      const radius = n(distance(from, segment.centre));
      // With y turned over, a clockwise arc has sweep-flag 1 (SVG 1.1, 8.3.8).
      for (let part = 1; part <= parts; part++)
        data += `A${radius} ${radius} 0 0 ${segment.clockwise ? 1 : 0} ${point(...(part === parts ? to : pointOnArc(from, segment, part / parts)))}`;
    }
    from = to;
  }
  return outline.closed ? `${data}Z` : data;
}

function textElement(entry: TextEntry, height: number, style: string, n: (value: number) => string): string {
  const [family, weight] = FAMILIES[entry.font];
  const [a, b, c, d, e, f] = entry.frame;
  const turned: Matrix = [a, -b, -c, d, e, height - f];
  const upright = Math.abs(a - 1) + Math.abs(b) + Math.abs(c) + Math.abs(d - 1) < 1e-9;
  const place = upright
    ? ` x="${n(e)}" y="${n(height - f)}"`
    : ` transform="matrix(${turned.map((value) => shortNumber(value, 6)).join(' ')})"`;
  const anchor = entry.align === 'start' ? '' : ` text-anchor="${entry.align}"`;
  return `<text xml:space="preserve"${place} font-family="${family}"${weight} font-size="${n(entry.size)}"${anchor}${style}>${escape(entry.text)}</text>`;
}
