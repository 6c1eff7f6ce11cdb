import {
  type Box,
  type DisplayStyle,
  type Matrix,
  PLAIN_LINE,
  type PlacedGradient,
  type PlacedPaint,
  type PlacedPicture,
  type PlacedPattern,
  apply,
  endsOfLinear,
  invert,
  inversePen,
  isGradient,
  isPattern,
  isPicture,
  isPlain,
  isSimilarity,
  multiply,
  penMatrix,
} from '@inkwell-twin/core/web';
import { shownPicture } from './pictures';
import { type Scene, paintScene } from './scene';

type Context = CanvasRenderingContext2D;
type Ink = string | CanvasGradient | CanvasPattern;
/** Finds what a pattern repeats. */
export type Cells = (name: string) => Scene;
export const NO_CELLS: Cells = () => ({ count: 0, spans: [], paint: () => undefined, cell: NO_CELLS });

/** Pixels across that a cell is painted on at most. */
const LARGEST = 2048;

/** How often a gradient that repeats may do so across what it paints. */
const TURNS = 200;

const rgba = (colour: string, opacity = 1): string =>
  opacity >= 1
    ? colour
    : `${colour}${Math.round(opacity * 255)
        .toString(16)
        .padStart(2, '0')}`;

/** The stops of a gradient laid out over whole turns from `first` to `last`, as shares of that stretch. */
function addStops(into: CanvasGradient, { stops, spread }: PlacedGradient, first: number, last: number): void {
  const turns = last - first;
  for (let turn = first; turn < last; turn++) {
    const mirrored = spread === 'reflect' && turn % 2 !== 0;
    const own = mirrored ? [...stops].reverse().map((stop) => ({ ...stop, offset: 1 - stop.offset })) : stops;
    for (const { offset, colour, opacity } of own) into.addColorStop((turn - first + offset) / turns, rgba(colour, opacity));
  }
}

/** From which whole turn to which a gradient must be laid out to cover a box; 0 to 1 where its ends go on for ever. */
function turnsOver({ kind, at, spread }: PlacedGradient, box: Box): [first: number, last: number] {
  const inverse = spread && spread !== 'pad' ? invert(at) : undefined;
  if (!inverse) return [0, 1];
  const corners = [box.minX, box.maxX].flatMap((x) => [box.minY, box.maxY].map((y) => apply(inverse, [x, y])));
  if (kind === 'radial')
    return [0, Math.min(TURNS, Math.max(1, Math.ceil(Math.max(...corners.map(([x, y]) => Math.hypot(x, y))))))];
  const across = corners.map(([x]) => x);
  const first = Math.max(-TURNS, Math.floor(Math.min(...across)));
  return [first, Math.max(first + 1, Math.min(TURNS, Math.ceil(Math.max(...across))))];
}

/**
 * A gradient as ink of a canvas.
 * @param at where its plane lies in the axes that are painted in; a radial one must lie there unslanted
 */
function inkOf(context: Context, gradient: PlacedGradient, at: Matrix, box: Box): CanvasGradient {
  const [first, last] = turnsOver(gradient, box);
  let made: CanvasGradient;
  if (gradient.kind === 'linear') {
    const { from, to } = endsOfLinear({ at });
    const [dx, dy] = [to[0] - from[0], to[1] - from[1]];
    made = context.createLinearGradient(from[0] + dx * first, from[1] + dy * first, from[0] + dx * last, from[1] + dy * last);
  } else {
    const [fx, fy] = apply(at, gradient.focus ?? [0, 0]);
    made = context.createRadialGradient(fx, fy, 0, at[4], at[5], Math.hypot(at[0], at[1]) * last);
  }
  addStops(made, gradient, first, last);
  return made;
}

/**
 * A pattern as ink: its cell painted once at the size of the screen, and repeated by the canvas.
 * @param at where its plane lies in the axes that are painted in
 */
function tiled(context: Context, { cell, width, height }: PlacedPattern, at: Matrix, cells: Cells): Ink {
  const { a, b, c, d } = context.getTransform();
  const screen = Math.sqrt(Math.abs(a * d - b * c) * Math.abs(at[0] * at[3] - at[1] * at[2]));
  const pixels = (length: number) => Math.min(LARGEST, Math.max(1, Math.ceil(length * screen)));
  const canvas = document.createElement('canvas');
  [canvas.width, canvas.height] = [pixels(width), pixels(height)];
  const own = canvas.getContext('2d')!;
  own.setTransform(canvas.width / width, 0, 0, -canvas.height / height, 0, canvas.height);
  paintScene(own, cells(cell));
  const made = context.createPattern(canvas, 'repeat')!;
  const placed = multiply(at, [width / canvas.width, 0, 0, -height / canvas.height, 0, height]);
  made.setTransform(new DOMMatrix([...placed]));
  return made;
}

/** Any paint as ink. @param toUser from the board to the axes that are painted in */
function inkFor(
  context: Context,
  paint: Exclude<PlacedPaint, PlacedPicture>,
  toUser: Matrix | null,
  box: () => Box,
  cells: Cells,
): Ink {
  if (isPlain(paint)) return paint;
  const at = toUser ? multiply(toUser, paint.at) : paint.at;
  return isPattern(paint) ? tiled(context, paint, at, cells) : inkOf(context, paint, at, box());
}

function mapped(path: Path2D, [a, b, c, d, e, f]: Matrix): Path2D {
  const made = new Path2D();
  made.addPath(path, new DOMMatrix([a, b, c, d, e, f]));
  return made;
}

/**
 * Puts ink on through axes in which it lies as a canvas can hold it.
 * @param axes from those to the board; null where they are the board's
 */
function through(context: Context, axes: Matrix | null, path: Path2D, put: (path: Path2D) => void): void {
  if (!axes) return put(path);
  const inverse = invert(axes);
  if (!inverse) return;
  context.save();
  context.transform(...axes);
  put(mapped(path, inverse));
  context.restore();
}

/** Where a picture is not there yet. */
const WAITING = '#d9dfe2';

/** Shows a picture inside a path. */
function fillWithPicture(context: Context, path: Path2D, { picture, at }: PlacedPicture): void {
  const shown = shownPicture(picture);
  if (!shown) {
    context.fillStyle = WAITING;
    return context.fill(path);
  }
  const { width, height } = shown;
  context.save();
  context.clip(path);
  // Rows run down, the board's axes up.
  context.transform(...multiply(at, [1 / width, 0, 0, -1 / height, 0, 1]));
  context.imageSmoothingQuality = 'high';
  context.drawImage(shown, 0, 0);
  context.restore();
}

/** Fills a path on the board with a paint. */
export function fillPath(
  context: Context,
  path: Path2D,
  paint: PlacedPaint,
  rule: CanvasFillRule,
  box: () => Box,
  cells: Cells,
): void {
  if (isPicture(paint)) return fillWithPicture(context, path, paint);
  const slanted = isGradient(paint) && paint.kind === 'radial' && !isSimilarity(paint.at, 1e-4) ? paint.at : null;
  through(context, slanted, path, (own) => {
    context.fillStyle = inkFor(context, paint, slanted && (invert(slanted) ?? null), box, cells);
    context.fill(own, rule);
  });
}

/** Draws the line of a path on the board. @param least a line is never thinner than this, mm */
export function strokePath(
  context: Context,
  path: Path2D,
  style: DisplayStyle,
  least: number,
  box: () => Box,
  cells: Cells,
): void {
  const { stroke: paint, strokeWidth, line = PLAIN_LINE } = style;
  if (!paint || isPicture(paint)) return;
  const { dash, dashOffset, cap, join, miterLimit, pen } = line;
  context.lineWidth = Math.max(strokeWidth, least);
  context.lineCap = cap;
  context.lineJoin = join;
  context.miterLimit = miterLimit;
  if (dash.length) {
    context.setLineDash(dash as number[]);
    context.lineDashOffset = dashOffset;
  }
  // In the axes of a pen that is not round, what it is dipped in lies the other way about.
  through(context, pen && penMatrix(pen), path, (own) => {
    context.strokeStyle = inkFor(context, paint, pen && inversePen(pen), box, cells);
    context.stroke(own);
  });
  if (dash.length) context.setLineDash([]);
}

/** A paint as ink for letters, which are painted in axes of their own. @param toBoard from those to the board */
export function inkForWords(context: Context, paint: PlacedPaint, toBoard: Matrix, box: () => Box, cells: Cells): Ink {
  // Letters are never made of pictures.
  if (isPicture(paint)) return WAITING;
  const inverse = isPlain(paint) ? null : invert(toBoard);
  return inkFor(context, paint, inverse ?? null, box, cells);
}
