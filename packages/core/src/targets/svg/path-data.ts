import { Failure } from '../../failure/failure';
import { endpointArc } from '../../geometry/arcs';
import type { Outline, Segment } from '../../geometry/outline';
import type { Point } from '../../geometry/point';

const ARGUMENTS: Record<string, number> = { M: 2, L: 2, H: 1, V: 1, C: 6, S: 4, Q: 4, T: 2, A: 7, Z: 0 };
const NUMBER = /[+-]?(?:\d+\.?\d*|\.\d+)(?:[eE][+-]?\d+)?/y;
const BLANK = /[\s,]*/y;

/**
 * Path data (SVG 1.1, 8.3) as outlines in the path's own axes, y downwards as written.
 * @throws Failure `svg-path` that says at which character; what stands before an error is not drawn either, because half
 *   an outline is worse than a clear word
 */
export function parsePathData(data: string): Outline[] {
  const outlines: Outline[] = [];
  let i = 0;
  const bad = (why: string) => new Failure('svg-path', `Path data, character ${i + 1}: ${why}.`);
  const skip = () => {
    BLANK.lastIndex = i;
    BLANK.exec(data);
    i = BLANK.lastIndex;
  };
  const number = (): number => {
    skip();
    NUMBER.lastIndex = i;
    const match = NUMBER.exec(data);
    if (!match) throw bad(i >= data.length ? 'a number is missing at the end' : `“${data.slice(i, i + 8)}” is not a number`);
    i = NUMBER.lastIndex;
    const value = Number(match[0]);
    if (!Number.isFinite(value)) throw bad(`${match[0]} is too large`);
    return value;
  };
  const flag = (): boolean => {
    skip();
    const char = data[i];
    if (char !== '0' && char !== '1') throw bad('an arc flag must be 0 or 1');
    i++;
    return char === '1';
  };

  let at: Point = [0, 0];
  let start: Point = [0, 0];
  let segments: Segment[] = [];
  let open = false;
  let handle: { kind: 'C' | 'Q'; at: Point } | undefined;
  const finish = (closed: boolean) => {
    if (open && (segments.length || closed)) outlines.push({ start, segments, closed });
    segments = [];
    open = false;
  };
  const begin = () => {
    if (!open) [start, segments, open] = [at, [], true];
  };
  const mirrored = (kind: 'C' | 'Q'): Point =>
    handle?.kind === kind ? [2 * at[0] - handle.at[0], 2 * at[1] - handle.at[1]] : at;
  const cubic = (c1: Point, c2: Point, to: Point) => {
    begin();
    segments.push({ kind: 'cubic', c1, c2, to });
    handle = { kind: 'C', at: c2 };
    at = to;
  };
  const quadratic = (q: Point, to: Point) => {
    const towards = (from: Point): Point => [from[0] + (2 / 3) * (q[0] - from[0]), from[1] + (2 / 3) * (q[1] - from[1])];
    const from = at;
    cubic(towards(from), towards(to), to);
    handle = { kind: 'Q', at: q };
  };
  const line = (to: Point) => {
    begin();
    segments.push({ kind: 'line', to });
    at = to;
  };

  let command = '';
  for (skip(); i < data.length; skip()) {
    const char = data[i]!;
    if (/[a-zA-Z]/.test(char)) {
      if (!(char.toUpperCase() in ARGUMENTS)) throw bad(`“${char}” is not a path command`);
      if (!command && char.toUpperCase() !== 'M') throw bad('a path starts with M');
      command = char;
      i++;
    } else if (!command || ARGUMENTS[command.toUpperCase()] === 0) throw bad(`“${char}” stands where a command should`);
    const relative = command === command.toLowerCase();
    const point = (): Point => {
      const [x, y] = [number(), number()];
      return relative ? [at[0] + x, at[1] + y] : [x, y];
    };
    const before = handle;
    const kind = command.toUpperCase();
    if (kind !== 'S' && kind !== 'T') handle = undefined;
    else handle = before;
    switch (kind) {
      case 'M': {
        finish(false);
        at = point();
        [start, open] = [at, true];
        // Further pairs after a move are lines (8.3.2).
        command = relative ? 'l' : 'L';
        break;
      }
      case 'L':
        line(point());
        break;
      case 'H': {
        const x = number();
        line([relative ? at[0] + x : x, at[1]]);
        break;
      }
      case 'V': {
        const y = number();
        line([at[0], relative ? at[1] + y : y]);
        break;
      }
      case 'C':
        cubic(point(), point(), point());
        break;
      case 'S': {
        const c1 = mirrored('C');
        cubic(c1, point(), point());
        break;
      }
      case 'Q':
        quadratic(point(), point());
        break;
      case 'T':
        quadratic(mirrored('Q'), point());
        break;
      case 'A': {
        const [rx, ry, turn] = [number(), number(), number()];
        const [large, sweep] = [flag(), flag()];
        const to = point();
        begin();
        segments.push(...endpointArc(at, [rx, ry], (turn * Math.PI) / 180, large, sweep, to));
        at = to;
        break;
      }
      case 'Z':
        at = start;
        finish(true);
        break;
    }
  }
  finish(false);
  return outlines;
}
