import type { PathStore } from '../../base/geometry/paths';
import { capHeight } from '../../document/faces';
import { bulgeSegment, ellipseOutline, pointOnArc } from '../../base/geometry/arcs';
import { type Matrix, identity, meanScale, multiply, rotation, scaling, translation } from '../../base/geometry/matrix';
import type { Outline, Segment } from '../../base/geometry/outline';
import type { Point } from '../../base/geometry/point';
import type { Fonts } from '../../contracts/fonts';
import type { FontName } from '../../document/schema';
import { emitFace, emitSolid } from './faces';
import { emitHatch } from './emit-hatch';
import type { EmittingReader } from './telling';
import type { DxfRecord } from './records';
import { outlineOfSpline } from './spline';
import { throughPoints } from './fit-spline';
import { facing } from './planes';
import { emitMesh, emitMline, emitNet, emitPoint, emitWipeout } from './odd-entities';
import { type WideLine, emitWideLine, evenWidth, widthOnBoard } from './wide-lines';
import { unknownGroups } from './known';
import { plainMtext, plainText } from './text';

type Reader = (groups: DxfRecord, reader: EmittingReader, following: () => DxfRecord | undefined) => void;

const radians = (degrees: number) => (degrees * Math.PI) / 180;
const point = (groups: DxfRecord, code: number): Point => [groups.number(code, 0), groups.number(code + 10, 0)];
const pairs = (groups: DxfRecord, code: number): Point[] => {
  const ys = groups.all(code + 10);
  return groups.all(code).map((x, i) => [x, ys[i] ?? 0]);
};

/** Corners with bulges as an outline. */
function polyline(into: PathStore, points: readonly number[], bulges: readonly number[], closed: boolean): void {
  const count = points.length / 2;
  if (count < 2) return;
  into.move(points[0]!, points[1]!);
  const last = closed ? count : count - 1;
  for (let i = 0; i < last; i++) {
    const bulge = bulges[i] ?? 0;
    // The straight closing line is left to `closed`, so that the same outline reads the same however it was closed.
    if (i === count - 1 && !bulge) break;
    const k = 2 * ((i + 1) % count);
    const [x, y] = [points[k]!, points[k + 1]!];
    if (bulge) into.segment(bulgeSegment([points[2 * i]!, points[2 * i + 1]!], [x, y], bulge));
    else into.line(x, y);
  }
  into.end(closed);
}

/** Tells of outlines as the shape of an entity. */
function shape(groups: DxfRecord, reader: EmittingReader, outlines: readonly Outline[], at: Matrix | null = null): void {
  reader.paths.clear();
  for (const outline of outlines) reader.paths.add(outline);
  reader.shape(groups, at);
}

/** What a copy of ours never holds: it is drawn where a file becomes a master, and told where one is held against it. */
const kept =
  (emit: Reader): Reader =>
  (groups, reader, following) =>
    reader.keep ? emit(groups, reader, following) : reader.tally.add(`entity ${groups.type}`);

/** A polyline that is wide: a line of that width, or, where the width changes, the area that it covers. */
function wideLine(groups: DxfRecord, reader: EmittingReader, line: WideLine): void {
  const even = evenWidth(line);
  if (!reader.keep) reader.tally.add('polyline width');
  if (reader.keep && even === null) return emitWideLine(groups, reader, line, facing(groups));
  reader.paths.clear();
  polyline(reader.paths, line.points, line.bulges, line.closed);
  if (!reader.keep || !even) return reader.shape(groups, facing(groups));
  const { layer, look, at } = reader.placed(groups, facing(groups));
  reader.sink.path(reader.paths, at, layer, { ...look, strokeWidth: widthOnBoard(even, reader.scale) }, groups.type, 'polyline');
}

const insert: Reader = (groups, reader, following) => {
  const words: DxfRecord[] = [];
  if (groups.number(66, 0) === 1)
    for (let next = following(); next && next.type !== 'SEQEND'; next = following())
      if (next.type !== 'ATTRIB') reader.tally.add(`${next.type} of an insert`);
      else if (next.number(70, 0) & 1) reader.tally.addUnseen('hidden entity');
      else words.push(next);
  if (groups.anyNonZero([30])) reader.tally.add('height above the board');
  if (!reader.keep && groups.anyNonZero([210, 220])) reader.tally.add('entity in a tilted plane');
  const [columns, rows] = [Math.max(1, groups.number(70, 1)), Math.max(1, groups.number(71, 1))];
  if (columns * rows > 10_000) return reader.tally.add('insert of more than 10,000 copies');
  const turn = rotation(radians(groups.number(50, 0)));
  const scale = scaling(groups.number(41, 1), groups.number(42, 1));
  const mirror = facing(groups);
  const places: Matrix[] = [];
  for (let row = 0; row < rows; row++)
    for (let column = 0; column < columns; column++) {
      const cell = translation(column * groups.number(44, 0), row * groups.number(45, 0));
      const local = multiply(multiply(translation(...point(groups, 10)), turn), multiply(cell, scale));
      places.push(mirror ? multiply(mirror, local) : local);
    }
  reader.use(groups, groups.text(2)?.trim() ?? '', places);
  for (const attribute of words) text(attribute, reader, following);
};

function words(
  groups: DxfRecord,
  reader: EmittingReader,
  plain: string,
  at: Point,
  height: number,
  turn: number,
  align: 'start' | 'middle' | 'end',
  font: FontName,
  own: Matrix | null = null,
): void {
  if (!plain.trim() || !(height > 0)) return;
  const size = (height * meanScale(reader.scale)) / capHeight(font);
  const shown = reader.fonts?.missing(font, plain).includes('⌀') ? plain.replaceAll('⌀', 'Ø') : plain;
  reader.text(groups, { text: shown, size, font, align }, at, turn, own);
}

/** How far a line of a font runs, as its capitals are high. */
const runOf = (fonts: Fonts, font: FontName, plain: string, height: number): number =>
  fonts.advance(font, plain, height / capHeight(font));

/** How the letters of a text are pulled (DXF reference, TEXT, groups 41, 51, 71, 72). */
interface Pulled {
  /** What is done to them before they are turned; null where nothing is. */
  readonly own: Matrix | null;
  /** How much higher they are than they say. */
  readonly higher: number;
  /** Where they begin and how they are turned, where they run between two points. */
  readonly between: { readonly at: Point; readonly turn: number } | null;
}

/** As a file becomes a master. @param plain what is set */
function pulled(groups: DxfRecord, fonts: Fonts, font: FontName, plain: string): Pulled {
  const across = groups.number(72, 0);
  let [wide, higher] = [groups.number(41, 1), 1];
  let between: Pulled['between'] = null;
  if ((across === 3 || across === 5) && groups.has(11)) {
    const [[x, y], [toX, toY]] = [point(groups, 10), point(groups, 11)];
    const run = runOf(fonts, font, plain, groups.number(40, 0));
    const share = run > 0 ? Math.hypot(toX - x, toY - y) / run : 1;
    // Aligned letters grow with the distance, fitted ones only get wider.
    if (across === 3) [wide, higher] = [1, share];
    else wide = share;
    between = { at: [x, y], turn: Math.atan2(toY - y, toX - x) };
  }
  const flags = groups.number(71, 0);
  const slant = Math.tan(radians(groups.number(51, 0)));
  const [x, y] = [flags & 2 ? -wide : wide, flags & 4 ? -1 : 1];
  const isPlain = Math.abs(x - 1) < 1e-6 && y === 1 && Math.abs(slant) < 1e-6;
  return { own: isPlain ? null : [x, 0, slant * y, y, 0, 0], higher, between };
}

const text: Reader = (groups, reader) => {
  const font = reader.font(groups);
  const across = groups.number(72, 0);
  // In words of an insert that group is how many letters they may have (DXF reference, ATTRIB).
  const up = groups.number(groups.type === 'ATTRIB' ? 74 : 73, 0);
  const height = groups.number(40, 0);
  const second = groups.has(11) && (across !== 0 || up !== 0);
  const [x, y] = point(groups, second ? 11 : 10);
  const { fonts } = reader;
  if (!reader.keep || !fonts) {
    if (across === 3 || across === 5) reader.tally.add('text stretched between two points');
    if (Math.abs(groups.number(41, 1) - 1) > 1e-6) reader.tally.add('narrowed or widened text');
    if (Math.abs(groups.number(51, 0)) > 1e-6) reader.tally.add('slanted text');
    if (groups.number(71, 0) & 6) reader.tally.add('mirrored text');
  }
  if (!reader.keep && groups.number(230, 1) < 0) reader.tally.add('text seen from behind');
  if (/%%[uok]/i.test(groups.text(1) ?? '')) reader.tally.add('text with a line');
  const turn = radians(groups.number(50, 0));
  const lower = up === 3 ? -height : up === 2 ? -height / 2 : up === 1 ? height * 0.28 : across === 4 ? -height / 2 : 0;
  const at: Point = [x - lower * Math.sin(turn), y + lower * Math.cos(turn)];
  const plain = plainText(groups.text(1) ?? '');
  const align = across === 1 || across === 4 ? 'middle' : across === 2 ? 'end' : 'start';
  if (!reader.keep || !fonts) return words(groups, reader, plain, at, height, turn, align, font);
  const { own, higher, between } = pulled(groups, fonts, font, plain);
  // Mirrored letters run the other way from where they stand.
  const mirrored = own && own[0] < 0 && across === 0 && !between ? 'start' : align;
  if (between) words(groups, reader, plain, between.at, height * higher, between.turn, 'start', font, own);
  else words(groups, reader, plain, at, height, turn, mirrored, font, own);
};

/** Lines broken between words where they would not fit. */
function broken(text: string, fits: (line: string) => boolean): string {
  return text
    .split('\n')
    .flatMap((line) => {
      const lines = [''];
      for (const word of line.split(' ')) {
        const longer = lines.at(-1) ? `${lines.at(-1)} ${word}` : word;
        if (lines.at(-1) && !fits(longer)) lines.push(word);
        else lines[lines.length - 1] = longer;
      }
      return lines;
    })
    .join('\n');
}

/** How wide a letter is on the average, in heights of a capital. */
const WIDE = 0.85;

const mtext: Reader = (groups, reader) => {
  const parts: string[] = [];
  groups.each((code, _number, text) => {
    if (code === 3 || code === 1) parts.push(text());
  });
  const { text: stated, formatted } = plainMtext(parts.join(''));
  if (formatted) reader.tally.add('formatting inside MTEXT');
  const height = groups.number(40, 0);
  const place = groups.number(71, 1);
  const align = (['start', 'middle', 'end'] as const)[(place - 1) % 3] ?? 'start';
  const font = reader.font(groups);
  const width = groups.number(41, 0);
  const { fonts } = reader;
  const widest = stated.split('\n').reduce((most, { length }) => Math.max(most, length), 0) * height * WIDE;
  const plain = reader.keep && fonts && width > 0 ? broken(stated, (line) => runOf(fonts, font, line, height) <= width) : stated;
  if (!(reader.keep && fonts) && width > 0 && widest > width && /\S\s+\S/.test(plain))
    reader.tally.add('lines of MTEXT that its width breaks');
  const lines = plain.split('\n').length;
  if (lines > 1 && Math.abs(groups.number(44, 1) - 1) > 1e-3) reader.tally.add('MTEXT with lines closer or wider');
  const step = (height / capHeight(font)) * 1.25;
  const row = Math.floor((place - 1) / 3);
  const whole = height + (lines - 1) * step;
  const drop = row === 0 ? height : row === 1 ? height - whole / 2 : height - whole;
  const axis = groups.has(11) ? Math.atan2(groups.number(21, 0), groups.number(11, 1)) : radians(groups.number(50, 0));
  const [x, y] = point(groups, 10);
  words(groups, reader, plain, [x + drop * Math.sin(axis), y - drop * Math.cos(axis)], height, axis, align, font);
};

/** How each entity is told; what is not in this list is counted as not understood. */
export const ENTITIES: ReadonlyMap<string, Reader> = new Map(
  Object.entries<Reader>({
    LINE: (groups, reader) => {
      const { paths } = reader;
      paths.clear();
      paths.move(groups.number(10, 0), groups.number(20, 0));
      paths.line(groups.number(11, 0), groups.number(21, 0));
      paths.end(false);
      reader.shape(groups);
    },
    CIRCLE: (groups, reader) => {
      const radius = groups.number(40, 0);
      if (radius <= 0) return;
      reader.paths.clear();
      reader.paths.circle(groups.number(10, 0), groups.number(20, 0), radius);
      reader.shape(groups, facing(groups));
    },
    ARC: (groups, reader) => {
      const centre = point(groups, 10);
      const radius = groups.number(40, 0);
      if (radius <= 0) return;
      const at = (degrees: number): Point => [
        centre[0] + radius * Math.cos(radians(degrees)),
        centre[1] + radius * Math.sin(radians(degrees)),
      ];
      const [start, to] = [at(groups.number(50, 0)), at(groups.number(51, 360))];
      const arc: Segment = { kind: 'arc', to, centre, clockwise: false };
      const whole = Math.abs(groups.number(51, 360) - groups.number(50, 0)) >= 360;
      const segments: Segment[] = whole ? [{ ...arc, to: pointOnArc(start, arc, 0.5) }, arc] : [arc];
      shape(groups, reader, [{ start, segments, closed: whole }], facing(groups));
    },
    ELLIPSE: (groups, reader) => {
      const [cx, cy] = point(groups, 10);
      const [mx, my] = point(groups, 11);
      const ratio = groups.number(40, 1) * (groups.number(230, 1) < 0 ? -1 : 1);
      const start = groups.number(41, 0);
      let sweep = groups.number(42, 2 * Math.PI) - start;
      if (sweep <= 0) sweep += 2 * Math.PI;
      const frame: Matrix = [mx, my, -my * ratio, mx * ratio, cx, cy];
      shape(groups, reader, [ellipseOutline(frame, start, Math.min(sweep, 2 * Math.PI))]);
    },
    LWPOLYLINE: (groups, reader) => {
      const points: number[] = [];
      const bulges: number[] = [];
      groups.numbers((code, value) => {
        if (code === 10) points.push(value, 0);
        else if (code === 20 && points.length) points[points.length - 1] = value;
        else if (code === 42 && points.length) bulges[points.length / 2 - 1] = value;
      });
      if (groups.anyNonZero([40, 41, 43])) {
        const even = groups.number(43, 0);
        const widths: [number, number][] = [];
        groups.numbers((code, value) => {
          if (code === 10) widths.push([even, even]);
          else if (code === 40 && widths.length) widths.at(-1)![0] = value;
          else if (code === 41 && widths.length) widths.at(-1)![1] = value;
        });
        return wideLine(groups, reader, { points, bulges, widths, closed: (groups.number(70, 0) & 1) === 1 });
      }
      reader.paths.clear();
      polyline(reader.paths, points, bulges, (groups.number(70, 0) & 1) === 1);
      reader.shape(groups, facing(groups));
    },
    POLYLINE: (groups, reader, following) => {
      const flags = groups.number(70, 0);
      const points: number[] = [];
      const bulges: number[] = [];
      let wide = groups.anyNonZero([40, 41]);
      const widths: [number, number][] = [];
      const vertices: DxfRecord[] = [];
      const isNet = reader.keep && (flags & (16 | 64)) !== 0;
      for (let next = following(); next && next.type !== 'SEQEND'; next = following()) {
        if (next.type !== 'VERTEX') continue;
        if (isNet) {
          vertices.push(next);
          continue;
        }
        // Frame points of a fitted curve (16) are not on it.
        if (next.number(70, 0) & 16) continue;
        for (const words of unknownGroups(next)) reader.tally.add(words);
        if (next.anyNonZero([30])) reader.tally.add('height above the board');
        wide ||= next.anyNonZero([40, 41]);
        widths.push([next.number(40, groups.number(40, 0)), next.number(41, groups.number(41, 0))]);
        bulges[points.length / 2] = next.number(42, 0);
        points.push(next.number(10, 0), next.number(20, 0));
      }
      if (isNet) return emitNet(groups, reader, vertices);
      if (flags & (16 | 64)) return reader.tally.add('polygon mesh');
      if (wide) return wideLine(groups, reader, { points, bulges, widths, closed: (flags & 1) === 1 });
      reader.paths.clear();
      polyline(reader.paths, points, bulges, (flags & 1) === 1);
      reader.shape(groups, facing(groups));
    },
    SPLINE: (groups, reader) => {
      const points = pairs(groups, 10);
      const spline = { degree: groups.number(71, 3), knots: groups.all(40), points, weights: groups.all(41) };
      const found = outlineOfSpline(spline, (groups.number(70, 0) & 1) === 1);
      if (!found) {
        const ends = [12, 13].map((code) => (groups.has(code) ? point(groups, code) : null));
        const through = points.length ? null : throughPoints(pairs(groups, 11), (groups.number(70, 0) & 1) === 1, ends);
        if (through && reader.keep) return shape(groups, reader, [through]);
        return reader.tally.add(points.length ? 'SPLINE whose knots do not fit its points' : 'SPLINE by fit points only');
      }
      if (!found.exact) reader.tally.add('SPLINE with weights or of a high degree, taken as short lines');
      shape(groups, reader, [found.outline]);
    },
    IMAGE: (groups, reader) => reader.image(groups),
    HATCH: (groups, reader) => emitHatch(groups, reader, facing(groups)),
    SOLID: (groups, reader) => emitSolid(groups, reader, facing(groups)),
    TRACE: (groups, reader) => emitSolid(groups, reader, facing(groups)),
    '3DFACE': emitFace,
    // What it measures is drawn in a block of its own, in place.
    DIMENSION: (groups, reader) => reader.use(groups, groups.text(2)?.trim() ?? '', [identity]),
    LEADER: (groups, reader) => {
      if (groups.number(72, 0) === 1) return reader.tally.add('LEADER along a curve');
      if (groups.number(71, 1) === 1) reader.tally.add('arrow of a LEADER');
      reader.paths.clear();
      polyline(reader.paths, pairs(groups, 10).flat(), [], false);
      reader.shape(groups);
    },
    POINT: (groups, reader, following) => {
      // What dimensions were hung on is never plotted.
      if (groups.text(8)?.trim().toUpperCase() === 'DEFPOINTS') reader.tally.addUnseen('point of a dimension');
      else kept(emitPoint)(groups, reader, following);
    },
    // It says how words of an insert begin; those stand at the insert.
    ATTDEF: kept((_groups, reader) => reader.tally.addUnseen('pattern for the words of an insert')),
    MLINE: kept(emitMline),
    MESH: kept(emitMesh),
    WIPEOUT: kept(emitWipeout),
    TEXT: text,
    MTEXT: mtext,
    INSERT: insert,
  }),
);
