import { CAP_HEIGHT } from '../../fonts/font-book';
import { bulgeSegment, circleOutline, ellipseOutline, pointOnArc } from '../../geometry/arcs';
import { type Matrix, identity, meanScale, multiply, rotation, scaling, translation } from '../../geometry/matrix';
import { type Outline, type Segment, fromPoints, transformOutline } from '../../geometry/outline';
import type { Point } from '../../geometry/point';
import type { FontName, Item } from '../../master/schema';
import type { DxfReader } from './reader';
import type { DxfRecord } from './records';
import { outlineOfSpline } from './spline';
import { plainMtext, plainText } from './text';

type Reader = (groups: DxfRecord, reader: DxfReader, following: () => DxfRecord | undefined) => Item[];

const radians = (degrees: number) => (degrees * Math.PI) / 180;
const point = (groups: DxfRecord, code: number): Point => [groups.number(code, 0), groups.number(code + 10, 0)];
const pairs = (groups: DxfRecord, code: number): Point[] => {
  const ys = groups.all(code + 10);
  return groups.all(code).map((x, i) => [x, ys[i] ?? 0]);
};

function polyline(points: readonly Point[], bulges: readonly number[], closed: boolean): Outline[] {
  if (points.length < 2) return [];
  const segments: Segment[] = [];
  const last = closed ? points.length : points.length - 1;
  for (let i = 0; i < last; i++) {
    const to = points[(i + 1) % points.length]!;
    // The straight closing line is left to `closed`, so that the same outline reads the same however it was closed.
    if (i === points.length - 1 && !bulges[i]) break;
    segments.push(bulgeSegment(points[i]!, to, bulges[i] ?? 0));
  }
  return [{ start: points[0]!, segments, closed }];
}

/** Coordinates of planar entities are seen from their extrusion direction; a downward one mirrors them (arbitrary axis algorithm). */
const facing = (groups: DxfRecord): Matrix => (groups.number(230, 1) < 0 ? scaling(-1, 1) : identity);
const faced = (groups: DxfRecord, outlines: Outline[]) => {
  const matrix = facing(groups);
  return matrix === identity ? outlines : outlines.map((outline) => transformOutline(outline, matrix));
};

const insert: Reader = (groups, reader, following) => {
  const words: Item[] = [];
  if (groups.number(66, 0) === 1)
    for (let next = following(); next && next.type !== 'SEQEND'; next = following()) {
      const attribute = next;
      if (next.type !== 'ATTRIB') reader.tally.add(`${next.type} of an insert`);
      else if (attribute.number(70, 0) & 1) reader.tally.addUnseen('hidden entity');
      else words.push(...text(attribute, reader, following));
    }
  const symbol = reader.symbol(groups.text(2)?.trim() ?? '');
  if (!symbol) return words;
  const [columns, rows] = [Math.max(1, groups.number(70, 1)), Math.max(1, groups.number(71, 1))];
  if (columns * rows > 10_000) {
    reader.tally.add('insert of more than 10,000 copies');
    return [];
  }
  const items: Item[] = [];
  const turn = rotation(radians(groups.number(50, 0)));
  const scale = scaling(groups.number(41, 1), groups.number(42, 1));
  for (let row = 0; row < rows; row++)
    for (let column = 0; column < columns; column++) {
      const cell = translation(column * groups.number(44, 0), row * groups.number(45, 0));
      const local = multiply(multiply(translation(...point(groups, 10)), turn), multiply(cell, scale));
      const matrix = multiply(facing(groups), local);
      items.push({
        kind: 'use',
        ...reader.base(groups),
        name: symbol.name,
        transform: reader.fromSymbol(matrix),
        symbol: symbol.id,
      });
    }
  return [...items, ...words];
};

function textItem(
  groups: DxfRecord,
  reader: DxfReader,
  text: string,
  at: Point,
  height: number,
  turn: number,
  align: 'start' | 'middle' | 'end',
  font: FontName,
): Item[] {
  if (!text.trim() || !(height > 0)) return [];
  const scale = meanScale(reader.scale);
  const [x, y] = reader.place(at);
  const placed = multiply(translation(x, y), rotation(turn));
  const common = {
    kind: 'text' as const,
    ...reader.base(groups),
    style: reader.textStyle(groups),
    text,
    size: (height * scale) / CAP_HEIGHT[font],
    font,
    align,
  };
  return [turn ? { ...common, transform: placed, x: 0, y: 0 } : { ...common, x, y }];
}

const text: Reader = (groups, reader) => {
  const font = reader.font(groups);
  const across = groups.number(72, 0);
  const up = groups.number(73, 0);
  const height = groups.number(40, 0);
  const second = groups.has(11) && (across !== 0 || up !== 0);
  const [x, y] = point(groups, second ? 11 : 10);
  if (across === 3 || across === 5) reader.tally.add('text stretched between two points');
  if (Math.abs(groups.number(41, 1) - 1) > 1e-6) reader.tally.add('narrowed or widened text');
  if (Math.abs(groups.number(51, 0)) > 1e-6) reader.tally.add('slanted text');
  if (groups.number(71, 0) & 6) reader.tally.add('mirrored text');
  if (groups.number(230, 1) < 0) reader.tally.add('text seen from behind');
  const turn = radians(groups.number(50, 0));
  const lower = up === 3 ? -height : up === 2 ? -height / 2 : up === 1 ? height * 0.28 : across === 4 ? -height / 2 : 0;
  const at: Point = [x - lower * Math.sin(turn), y + lower * Math.cos(turn)];
  return textItem(
    groups,
    reader,
    plainText(groups.text(1) ?? ''),
    at,
    height,
    turn,
    across === 1 || across === 4 ? 'middle' : across === 2 ? 'end' : 'start',
    font,
  );
};

const mtext: Reader = (groups, reader) => {
  const parts: string[] = [];
  groups.each((code, _number, text) => {
    if (code === 3 || code === 1) parts.push(text());
  });
  const { text: plain, formatted } = plainMtext(parts.join(''));
  if (formatted) reader.tally.add('formatting inside MTEXT');
  const height = groups.number(40, 0);
  const place = groups.number(71, 1);
  const align = (['start', 'middle', 'end'] as const)[(place - 1) % 3] ?? 'start';
  const lines = plain.split('\n').length;
  const font = reader.font(groups);
  const step = (height / CAP_HEIGHT[font]) * 1.25;
  const row = Math.floor((place - 1) / 3);
  const whole = height + (lines - 1) * step;
  const drop = row === 0 ? height : row === 1 ? height - whole / 2 : height - whole;
  const axis = groups.has(11) ? Math.atan2(groups.number(21, 0), groups.number(11, 1)) : radians(groups.number(50, 0));
  const [x, y] = point(groups, 10);
  return textItem(groups, reader, plain, [x + drop * Math.sin(axis), y - drop * Math.cos(axis)], height, axis, align, font);
};

/** How each entity becomes items; what is not in this list is counted as not understood. */
export const ENTITIES: Readonly<Record<string, Reader>> = {
  LINE: (groups, reader) => reader.shape(groups, [fromPoints([point(groups, 10), point(groups, 11)], false)]),
  CIRCLE: (groups, reader) => {
    const radius = groups.number(40, 0);
    return radius > 0 ? reader.shape(groups, faced(groups, [circleOutline(point(groups, 10), radius)])) : [];
  },
  ARC: (groups, reader) => {
    const centre = point(groups, 10);
    const radius = groups.number(40, 0);
    if (radius <= 0) return [];
    const at = (degrees: number): Point => [
      centre[0] + radius * Math.cos(radians(degrees)),
      centre[1] + radius * Math.sin(radians(degrees)),
    ];
    const [start, to] = [at(groups.number(50, 0)), at(groups.number(51, 360))];
    const arc: Segment = { kind: 'arc', to, centre, clockwise: false };
    const whole = Math.abs(groups.number(51, 360) - groups.number(50, 0)) >= 360;
    const segments: Segment[] = whole ? [{ ...arc, to: pointOnArc(start, arc, 0.5) }, arc] : [arc];
    return reader.shape(groups, faced(groups, [{ start, segments, closed: whole }]));
  },
  ELLIPSE: (groups, reader) => {
    const [cx, cy] = point(groups, 10);
    const [mx, my] = point(groups, 11);
    const ratio = groups.number(40, 1) * (groups.number(230, 1) < 0 ? -1 : 1);
    const start = groups.number(41, 0);
    let sweep = groups.number(42, 2 * Math.PI) - start;
    if (sweep <= 0) sweep += 2 * Math.PI;
    return reader.shape(groups, [ellipseOutline([mx, my, -my * ratio, mx * ratio, cx, cy], start, Math.min(sweep, 2 * Math.PI))]);
  },
  LWPOLYLINE: (groups, reader) => {
    const points: Point[] = [];
    const bulges: number[] = [];
    groups.each((code, number) => {
      if (code === 10) points.push([number(), 0]);
      else if (code === 20 && points.length) points[points.length - 1] = [points.at(-1)![0], number()];
      else if (code === 42 && points.length) bulges[points.length - 1] = number();
    });
    if (groups.number(43, 0) > 0 || groups.has(40)) reader.tally.add('polyline width');
    return reader.shape(groups, faced(groups, polyline(points, bulges, (groups.number(70, 0) & 1) === 1)));
  },
  POLYLINE: (groups, reader, following) => {
    const flags = groups.number(70, 0);
    const points: Point[] = [];
    const bulges: number[] = [];
    for (let next = following(); next && next.type !== 'SEQEND'; next = following()) {
      if (next.type !== 'VERTEX') continue;
      const vertex = next;
      // Frame points of a fitted curve (16) are not on it.
      if (vertex.number(70, 0) & 16) continue;
      if (vertex.number(30, 0) !== 0) reader.tally.add('height above the board');
      bulges[points.length] = vertex.number(42, 0);
      points.push(point(vertex, 10));
    }
    if (flags & (16 | 64)) {
      reader.tally.add('polygon mesh');
      return [];
    }
    return reader.shape(groups, faced(groups, polyline(points, bulges, (flags & 1) === 1)));
  },
  SPLINE: (groups, reader) => {
    const points = pairs(groups, 10);
    const spline = { degree: groups.number(71, 3), knots: groups.all(40), points, weights: groups.all(41) };
    const found = outlineOfSpline(spline, (groups.number(70, 0) & 1) === 1);
    if (!found) {
      reader.tally.add(points.length ? 'SPLINE whose knots do not fit its points' : 'SPLINE by fit points only');
      return [];
    }
    if (!found.exact) reader.tally.add('SPLINE with weights or of a high degree, taken as short lines');
    return reader.shape(groups, [found.outline]);
  },
  TEXT: text,
  MTEXT: mtext,
  INSERT: insert,
};
