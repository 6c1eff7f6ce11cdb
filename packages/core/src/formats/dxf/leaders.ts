import type { Point } from '../../base/geometry/point';
import { filledAs } from './emit-hatch';
import { type Reader, setLines } from './lettering';
import type { DxfRecord } from './records';
import type { EmittingReader } from './telling';

/** How long an arrow is for its width. */
const SLENDER = 3;

/** An arrow at the beginning of a line, no longer than half of its first stretch. @param size drawing units */
function arrow(groups: DxfRecord, reader: EmittingReader, [tip, next]: readonly Point[], size: number): void {
  if (!tip || !next || !(size > 0)) return;
  const [dx, dy] = [next[0] - tip[0], next[1] - tip[1]];
  const run = Math.hypot(dx, dy);
  // One that would not fit is left away, as programs do that draw them.
  if (!(run > 2 * size)) return;
  const [ux, uy] = [(dx / run) * size, (dy / run) * size];
  const half = 1 / (2 * SLENDER);
  const { paths } = reader;
  paths.clear();
  paths.move(tip[0], tip[1]);
  paths.line(tip[0] + ux - uy * half, tip[1] + uy + ux * half);
  paths.line(tip[0] + ux + uy * half, tip[1] + uy - ux * half);
  paths.end(true);
  const { layer, look, at } = reader.placed(groups, null);
  reader.sink.path(paths, at, layer, filledAs(look), groups.type, 'arrow');
}

function line(groups: DxfRecord, reader: EmittingReader, points: readonly Point[]): void {
  const { paths } = reader;
  paths.clear();
  points.forEach(([x, y], i) => (i ? paths.line(x, y) : paths.move(x, y)));
  if (points.length < 2) return;
  paths.end(false);
  reader.shape(groups);
}

/** A line that leads to a note, with an arrow (DXF reference, LEADER). */
export const emitLeader: Reader = (groups, reader) => {
  if (groups.number(72, 0) === 1) return reader.tally.add('LEADER along a curve');
  const ys = groups.all(20);
  const points = groups.all(10).map((x, i): Point => [x, ys[i] ?? 0]);
  const hasArrow = groups.number(71, 1) === 1;
  if (hasArrow && !reader.keep) reader.tally.add('arrow of a LEADER');
  line(groups, reader, points);
  if (hasArrow && reader.keep) arrow(groups, reader, points, reader.arrow);
};

/** A line of a note with several lines, being read: where it was drawn and where it ends. */
interface Branch {
  end: [number, number];
  way: [number, number];
  landing: number;
  lines: [number, number][][];
}

/** A note with any number of lines that lead to it (DXF reference, MULTILEADER): its parts stand one in another, with words for brackets. */
export const emitMultileader: Reader = (groups, reader) => {
  let within = 'note';
  let [words, hasWords, hasBlock, height, width, turn, size, column] = ['', false, false, 0, 0, 0, 0, 1];
  let place: [number, number] = [0, 0];
  const branches: Branch[] = [];
  groups.each((code, number, text) => {
    const branch = branches.at(-1);
    if (code === 300 && within === 'note') within = 'context';
    else if (code === 302 && within === 'context') {
      within = 'branch';
      branches.push({ end: [NaN, NaN], way: [0, 0], landing: 0, lines: [] });
    } else if (code === 304 && within === 'branch') {
      within = 'line';
      branch!.lines.push([]);
    } else if (code === 305 && within === 'line') within = 'branch';
    else if (code === 303 && within === 'branch') within = 'context';
    else if (code === 301 && within === 'context') within = 'behind';
    else if (within === 'context') {
      if (code === 304) words = text();
      else if (code === 41) height = number();
      else if (code === 43) width = number();
      else if (code === 42) turn = number();
      else if (code === 140) size = number();
      else if (code === 171) column = number();
      else if (code === 290) hasWords = number() === 1;
      else if (code === 296) hasBlock = number() === 1;
      else if (code === 12) place = [number(), place[1]];
      else if (code === 22) place = [place[0], number()];
    } else if (within === 'branch') {
      if (code === 10) branch!.end[0] = number();
      else if (code === 20) branch!.end[1] = number();
      else if (code === 11) branch!.way[0] = number();
      else if (code === 21) branch!.way[1] = number();
      else if (code === 40) branch!.landing = number();
    } else if (within === 'line') {
      const points = branch!.lines.at(-1)!;
      if (code === 10) points.push([number(), 0]);
      else if (code === 20 && points.length) points.at(-1)![1] = number();
    }
  });
  for (const { end, way, landing, lines } of branches) {
    const last: Point[] = Number.isFinite(end[0]) ? [end, [end[0] + way[0] * landing, end[1] + way[1] * landing]] : [];
    for (const points of lines) {
      const whole = [...points, ...last];
      line(groups, reader, whole);
      arrow(groups, reader, whole, size);
    }
  }
  if (hasBlock) reader.tally.add('symbol of a MULTILEADER');
  if (!hasWords || !words) return;
  const align = (['start', 'middle', 'end'] as const)[column - 1] ?? 'start';
  setLines(groups, reader, words, { at: place, height, width, align, row: 0, axis: turn });
};
