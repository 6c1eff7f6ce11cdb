import { type ResolvedPart, type Span, spansInOrder } from '@inkwell-twin/core/web';
import type { Cells } from './brush';
import { paintEntry } from './paint';
import type { Scene } from './scene';
import { CLOSE } from './view';

const spans = new WeakMap<ResolvedPart, readonly Span[]>();
const scenes = new WeakMap<ResolvedPart, Scene>();

/** What of an opened part is laid down as one. */
export function spansOf(part: ResolvedPart): readonly Span[] {
  let found = spans.get(part);
  if (!found) spans.set(part, (found = spansInOrder(part.spans).map(({ first, end, look }): Span => ({ ...look, first, end }))));
  return found;
}

/** What an opened part is painted with. */
export const cellsOf =
  (part: ResolvedPart): Cells =>
  (name) =>
    sceneOf(part.cells.get(name)!);

function sceneOf(part: ResolvedPart): Scene {
  let scene = scenes.get(part);
  if (!scene) {
    const cell = cellsOf(part);
    scene = {
      count: part.entries.length,
      spans: spansOf(part),
      paint: (context, at) => paintEntry(context, part.entries[at]!, CLOSE, undefined, cell),
      cell,
    };
    scenes.set(part, scene);
  }
  return scene;
}
