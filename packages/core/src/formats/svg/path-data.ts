import type { PathStore } from '../../base/geometry/paths';
import { Failure } from '../../base/failure/failure';
import { endpointArc } from '../../base/geometry/arcs';

/** How many numbers each command takes, by its capital letter. */
const ARGUMENTS: Readonly<Record<string, number>> = { M: 2, L: 2, H: 1, V: 1, C: 6, S: 4, Q: 4, T: 2, A: 7, Z: 0 };
const NUMBER = /[+-]?(?:\d+\.?\d*|\.\d+)(?:[eE][+-]?\d+)?/y;
const POWERS = Array.from({ length: 16 }, (_, i) => 10 ** i);

/** Walks the characters of path data. */
class Characters {
  at = 0;

  constructor(readonly data: string) {}

  bad(why: string): Failure {
    return new Failure('svg-path', `Path data, character ${this.at + 1}: ${why}.`);
  }

  get ended(): boolean {
    return this.at >= this.data.length;
  }

  /** Passes blanks and commas. */
  skip(): void {
    const { data } = this;
    for (;;) {
      const code = data.charCodeAt(this.at);
      if (code === 32 || code === 44 || (code >= 9 && code <= 13)) this.at++;
      else return;
    }
  }

  /** A number: plain ones are taken from the characters as they are passed, others are left to the language. */
  number(): number {
    this.skip();
    const { data } = this;
    let i = this.at;
    const negative = data.charCodeAt(i) === 45;
    if (negative) i++;
    let [mantissa, decimals, digits] = [0, -1, 0];
    for (; ; i++) {
      const code = data.charCodeAt(i);
      if (code >= 48 && code <= 57) {
        mantissa = mantissa * 10 + code - 48;
        digits++;
        if (decimals >= 0) decimals++;
      } else if (code === 46 && decimals < 0) decimals = 0;
      else {
        // An exponent, too many digits for one division, or nothing that is a number.
        if (digits === 0 || digits > 15 || code === 101 || code === 69) break;
        this.at = i;
        const value = decimals > 0 ? mantissa / POWERS[decimals]! : mantissa;
        return negative ? -value : value;
      }
    }
    return this.anyNumber();
  }

  private anyNumber(): number {
    NUMBER.lastIndex = this.at;
    const match = NUMBER.exec(this.data);
    if (!match)
      throw this.bad(
        this.ended ? 'a number is missing at the end' : `“${this.data.slice(this.at, this.at + 8)}” is not a number`,
      );
    const value = Number(match[0]);
    this.at = NUMBER.lastIndex;
    if (!Number.isFinite(value)) throw this.bad(`${match[0]} is too large`);
    return value;
  }

  flag(): boolean {
    this.skip();
    const char = this.data[this.at];
    if (char !== '0' && char !== '1') throw this.bad('an arc flag must be 0 or 1');
    this.at++;
    return char === '1';
  }
}

/** An arc of a circle, which most are, without the detour over general ellipses. @returns false where it is none of these */
function circularArc(
  into: PathStore,
  x: number,
  y: number,
  rx: number,
  ry: number,
  large: boolean,
  sweep: boolean,
  toX: number,
  toY: number,
): boolean {
  const [hx, hy] = [(x - toX) / 2, (y - toY) / 2];
  const half = hx * hx + hy * hy;
  if (rx !== ry || !(rx > 1e-12) || half < 1e-24) return false;
  // F.6.5 with equal radii; radii too small are grown to half the distance (F.6.6).
  const root = (large === sweep ? -1 : 1) * Math.sqrt(Math.max(0, (rx * rx - half) / half));
  into.arc(root * hy + (x + toX) / 2, -root * hx + (y + toY) / 2, toX, toY, !sweep);
  return true;
}

/**
 * Path data (SVG 1.1, 8.3) as outlines in the path's own axes, y downwards as written. Up to the command that holds an error it
 * is drawn (8.3.1, F.2), as browsers do.
 * @param into takes the outlines
 * @returns what is wrong and at which character; null where nothing is
 */
export function parsePathData(data: string, into: PathStore): string | null {
  const characters = new Characters(data);
  let [x, y, startX, startY] = [0, 0, 0, 0];
  let open = false;
  // The handle that a smooth curve goes on from, and of which sort.
  let handle = '' as '' | 'C' | 'Q';
  let [handleX, handleY] = [0, 0];

  const finish = (closed: boolean) => {
    if (!open) return;
    if (into.begun || closed) into.end(closed);
    else into.drop();
    open = false;
  };
  const begin = () => {
    if (open) return;
    [startX, startY, open] = [x, y, true];
    into.move(x, y);
  };
  const lineTo = (toX: number, toY: number) => {
    begin();
    into.line(toX, toY);
    [x, y] = [toX, toY];
  };
  const cubicTo = (x1: number, y1: number, x2: number, y2: number, toX: number, toY: number) => {
    begin();
    into.cubic(x1, y1, x2, y2, toX, toY);
    handle = 'C';
    [handleX, handleY] = [x2, y2];
    [x, y] = [toX, toY];
  };
  const quadraticTo = (qx: number, qy: number, toX: number, toY: number) => {
    // A quadratic is a cubic with handles two thirds along.
    const [x1, y1] = [x + (2 / 3) * (qx - x), y + (2 / 3) * (qy - y)];
    cubicTo(x1, y1, toX + (2 / 3) * (qx - toX), toY + (2 / 3) * (qy - toY), toX, toY);
    handle = 'Q';
    [handleX, handleY] = [qx, qy];
  };

  let command = 0;
  const next = (): void => {
    for (characters.skip(); !characters.ended; characters.skip()) {
      const code = data.charCodeAt(characters.at);
      const isLetter = (code >= 65 && code <= 90) || (code >= 97 && code <= 122);
      if (isLetter) {
        const letter = data[characters.at]!.toUpperCase();
        if (!(letter in ARGUMENTS)) throw characters.bad(`“${data[characters.at]}” is not a path command`);
        if (!command && letter !== 'M') throw characters.bad('a path starts with M');
        command = code;
        characters.at++;
      } else if (!command || command === 90 || command === 122)
        throw characters.bad(`“${data[characters.at]}” stands where a command should`);
      const relative = command >= 97;
      const [ox, oy] = relative ? [x, y] : [0, 0];
      const kind = relative ? command - 32 : command;
      if (kind !== 83 && kind !== 84) handle = '';
      switch (kind) {
        case 77: {
          finish(false);
          [x, y] = [ox + characters.number(), oy + characters.number()];
          begin();
          // Further pairs after a move are lines (8.3.2).
          command = relative ? 108 : 76;
          break;
        }
        case 76:
          lineTo(ox + characters.number(), oy + characters.number());
          break;
        case 72:
          lineTo(ox + characters.number(), y);
          break;
        case 86:
          lineTo(x, oy + characters.number());
          break;
        case 67: {
          const [x1, y1] = [ox + characters.number(), oy + characters.number()];
          const [x2, y2] = [ox + characters.number(), oy + characters.number()];
          cubicTo(x1, y1, x2, y2, ox + characters.number(), oy + characters.number());
          break;
        }
        case 83: {
          const [x1, y1] = handle === 'C' ? [2 * x - handleX, 2 * y - handleY] : [x, y];
          const [x2, y2] = [ox + characters.number(), oy + characters.number()];
          cubicTo(x1, y1, x2, y2, ox + characters.number(), oy + characters.number());
          break;
        }
        case 81: {
          const [qx, qy] = [ox + characters.number(), oy + characters.number()];
          quadraticTo(qx, qy, ox + characters.number(), oy + characters.number());
          break;
        }
        case 84: {
          const [qx, qy] = handle === 'Q' ? [2 * x - handleX, 2 * y - handleY] : [x, y];
          quadraticTo(qx, qy, ox + characters.number(), oy + characters.number());
          break;
        }
        case 65: {
          const [rx, ry, turn] = [characters.number(), characters.number(), characters.number()];
          const [large, sweep] = [characters.flag(), characters.flag()];
          const [toX, toY] = [ox + characters.number(), oy + characters.number()];
          begin();
          if (!circularArc(into, x, y, rx, ry, large, sweep, toX, toY))
            for (const segment of endpointArc([x, y], [rx, ry], (turn * Math.PI) / 180, large, sweep, [toX, toY]))
              into.segment(segment);
          [x, y] = [toX, toY];
          break;
        }
        default:
          [x, y] = [startX, startY];
          finish(true);
      }
    }
  };
  try {
    next();
  } catch (error) {
    if (!(error instanceof Failure) || error.code !== 'svg-path') throw error;
    finish(false);
    return error.message;
  }
  finish(false);
  return null;
}
