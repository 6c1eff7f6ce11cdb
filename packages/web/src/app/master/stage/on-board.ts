import { type Box, type ResolvedBoard, type ResolvedEntry, joinBoxes, nodeInWords } from '@inkwell-twin/core/web';
import { boxOf } from './paint';
import { type SnapLine, SnapLines, linesOfBox } from './snap';

/** Objects above which none is laid to the edges of others: there would be a line everywhere. */
const MOST_LINES = 4000;

/** The object that an entry belongs to when it is picked from outside: its outermost group or use, else itself. */
export const pickable = (entry: ResolvedEntry): string => entry.within[0]?.id ?? entry.source;

/** Lines to lay things to: guides, the board, and what else is on it. @param moving what is laid, which is no line itself */
export function linesOnBoard({ board, entries }: ResolvedBoard, moving: ReadonlySet<string>): SnapLines {
  const { width, height, guides = [], gridStep, items } = board;
  const found: SnapLine[] = guides.map(({ axis, at }) => ({ axis, at, words: 'guide' }));
  found.push(...linesOfBox({ minX: 0, minY: 0, maxX: width, maxY: height }, 'the board'));
  if (entries.length > MOST_LINES) return new SnapLines(found, gridStep);
  const boxes = new Map<string, Box[]>();
  for (const entry of entries) {
    if (moving.has(entry.source) || entry.within.some(({ id }) => moving.has(id))) continue;
    const id = pickable(entry);
    const known = boxes.get(id);
    if (known) known.push(boxOf(entry));
    else boxes.set(id, [boxOf(entry)]);
  }
  const names = new Map(items.map((item) => [item.id, nodeInWords(item)]));
  for (const [id, all] of boxes) found.push(...linesOfBox(joinBoxes(all), names.get(id) ?? 'another object'));
  return new SnapLines(found, gridStep);
}

/** Objects that lie wholly in a frame, those on locked layers left out. */
export function insideFrame({ entries }: ResolvedBoard, frame: Box, locked: ReadonlySet<string>): string[] {
  const out = new Set<string>();
  const all = new Set<string>();
  for (const entry of entries) {
    const id = pickable(entry);
    const { minX, minY, maxX, maxY } = boxOf(entry);
    all.add(id);
    const inside = minX >= frame.minX && minY >= frame.minY && maxX <= frame.maxX && maxY <= frame.maxY;
    if (!inside || locked.has(entry.layerId)) out.add(id);
  }
  return [...all].filter((id) => !out.has(id));
}
