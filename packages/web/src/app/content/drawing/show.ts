import {
  ARC_CLOCKWISE,
  type Box,
  CUBIC,
  type Drawing,
  LINE,
  type Paths,
  boxOfOutlines,
  outlineAt,
  sweepOf,
} from '@inkwell-twin/core/web';
import { boxOfWords, isOnPath, paintPath, paintWords } from '../../master/stage/paint';
import { takePictures } from '../../master/stage/pictures';
import type { Scene } from '../../master/stage/scene';
import { CLOSE } from '../../master/stage/view';
import { type Shown, sceneOf } from '../shown';

/** Adds outline `o` to a path, in board millimetres. */
function addOutline(path: Path2D, { firstVerb, firstCoord, closed, verbs, coords }: Paths, o: number): void {
  let at = firstCoord[o]!;
  path.moveTo(coords[at]!, coords[at + 1]!);
  at += 2;
  for (let v = firstVerb[o]!; v < firstVerb[o + 1]!; v++) {
    const verb = verbs[v]!;
    if (verb === LINE) {
      path.lineTo(coords[at]!, coords[at + 1]!);
      at += 2;
    } else if (verb === CUBIC) {
      path.bezierCurveTo(coords[at]!, coords[at + 1]!, coords[at + 2]!, coords[at + 3]!, coords[at + 4]!, coords[at + 5]!);
      at += 6;
    } else {
      const [fromX, fromY, cx, cy] = [coords[at - 2]!, coords[at - 1]!, coords[at]!, coords[at + 1]!];
      const to = [coords[at + 2]!, coords[at + 3]!] as const;
      const sweep = sweepOf([fromX, fromY], { kind: 'arc', centre: [cx, cy], to, clockwise: verb === ARC_CLOCKWISE });
      const angle = Math.atan2(fromY - cy, fromX - cx);
      path.arc(cx, cy, Math.hypot(fromX - cx, fromY - cy), angle, angle + sweep, sweep < 0);
      at += 4;
    }
  }
  if (closed[o]) path.closePath();
}

/** A drawing, its paths made when they are first looked at. */
export function showDrawing(drawing: Drawing): Shown {
  takePictures(drawing.pictures);
  const paths: Path2D[] = [];
  const boxes: Box[] = [];
  const look = (entry: number) => drawing.looks[drawing.look[entry]!]!;
  const words = (entry: number) => drawing.texts[drawing.text[entry]!];
  const pathOf = (entry: number): Path2D => {
    let path = paths[entry];
    if (!path) {
      paths[entry] = path = new Path2D();
      for (let o = drawing.firstOutline[entry]!; o < drawing.firstOutline[entry + 1]!; o++) addOutline(path, drawing.paths, o);
    }
    return path;
  };
  const boxOf = (entry: number): Box => {
    const text = words(entry);
    return (boxes[entry] ??= text
      ? boxOfWords(text)
      : boxOfOutlines(
          Array.from({ length: drawing.firstOutline[entry + 1]! - drawing.firstOutline[entry]! }, (_, k) =>
            outlineAt(drawing.paths, drawing.firstOutline[entry]! + k),
          ),
        ));
  };
  const shown = new Map<string, Scene>();
  const cell = (name: string): Scene => {
    let scene = shown.get(name);
    if (!scene) {
      const inner = showDrawing(drawing.cells[name]!);
      shown.set(name, (scene = sceneOf(inner, CLOSE)));
    }
    return scene;
  };
  return {
    spans: drawing.spans,
    cell,
    fonts: drawing.texts.map(({ font }) => font),
    sheet: drawing.sheet,
    background: drawing.background,
    count: drawing.count,
    paint: (context, entry, view, manner) => {
      const text = words(entry);
      if (text) paintWords(context, text, look(entry), manner, cell);
      else paintPath(context, pathOf(entry), look(entry), view, () => boxOf(entry), manner, cell);
    },
    boxOf,
    *corners(entry) {
      for (let o = drawing.firstOutline[entry]!; o < drawing.firstOutline[entry + 1]!; o++) {
        const { start, segments } = outlineAt(drawing.paths, o);
        yield start;
        for (const { to } of segments) yield to;
      }
    },
    isHit: (entry, x, y, reach) => {
      const box = boxOf(entry);
      if (x < box.minX - reach || x > box.maxX + reach || y < box.minY - reach || y > box.maxY + reach) return false;
      return words(entry) !== undefined || isOnPath(pathOf(entry), look(entry), x, y, reach);
    },
  };
}
