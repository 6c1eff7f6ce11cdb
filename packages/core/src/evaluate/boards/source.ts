import type { CarryLines } from '../../contracts/report';
import { type Scope, boardOf, boardsIn } from '../../contracts/scope';
import type { Layer, Master } from '../../document/schema';
import { type ResolvedBoard, type ResolvedEntry, resolveBoard } from '../resolve';
import { SHEET_IDS } from '../sheets/layers';
import { measureBy } from '../fonts/font-book';
import type { Fonts } from '../../contracts/fonts';
import type { Outline } from '../../base/geometry/outline';
import type { LeafSource } from '../../contracts/kind';
import type { Services } from '../../contracts/services';

// Copies of one revision are made from the same boards: what was opened for one is there for the next.
const opened = new WeakMap<Master, Map<string, ResolvedBoard>>();

/** The boards of a scope, opened. @throws Failure `board-unknown` */
export function resolveBoards(master: Master, scope: Scope, { fonts }: Pick<Services, 'fonts'>): LeafSource<ResolvedBoard>[] {
  const { boards, missing } = boardsIn(master, scope);
  if (missing.length) boardOf(master, missing[0]);
  const objects = scope.of === 'boards' && scope.objects ? new Set(scope.objects) : null;
  let known = opened.get(master);
  if (!known) opened.set(master, (known = new Map()));
  return boards.map((board) => {
    let source = objects ? undefined : known.get(board.id);
    if (!source) {
      source = resolveBoard(master, board, objects, measureBy(fonts));
      if (!objects) known.set(board.id, source);
    }
    return { key: board.id, label: board.name, source };
  });
}

/**
 * The entries of a board that a target takes, each with its layer. Writes down what every copy of a board loses: groups and
 * symbols are opened, hidden objects stay away, and so do layers that the target does not take.
 * @param takes whether a layer's objects reach the copy
 * @param keeps groups that stay one, by their ids
 */
export function takenEntries(
  { entries, layers, hidden }: ResolvedBoard,
  takes: (layer: Layer) => boolean,
  lines: CarryLines,
  keeps: ReadonlySet<string> = new Set(),
): { entry: ResolvedEntry; layer: Layer }[] {
  const byId = new Map(layers.map((layer) => [layer.id, layer]));
  const [uses, groups, manyLines, manyLooks] = [
    lines.line('symbols', 'restated', 'Symbols', 'arrive as separate shapes'),
    lines.line('groups', 'restated', 'Groups', 'arrive opened'),
    lines.line('lines', 'restated', 'Text of several lines', 'arrives as one text each line'),
    lines.line('looks', 'restated', 'Text of several looks', 'arrives as one text each look'),
  ];
  const notForIt = new Map(
    layers.map((layer) => [
      layer.id,
      lines.line(`layer:${layer.id}`, 'left out', `Objects on “${layer.name}” (${layer.process})`, 'not for this machine'),
    ]),
  );
  const isHidden = lines.line('hidden', 'left out', 'Objects on hidden layers', 'hidden in the master');
  const taken: { entry: ResolvedEntry; layer: Layer }[] = [];
  for (const entry of entries) {
    lines.take(entry.source);
    const layer = byId.get(entry.layerId)!;
    if (!takes(layer)) {
      notForIt.get(layer.id)!(entry.source);
      continue;
    }
    for (const holder of entry.within)
      // What something shows is no group that anybody made.
      if (!(holder.kind === 'group' && (holder.id === entry.source || SHEET_IDS.has(holder.id))) && !keeps.has(holder.id))
        (holder.kind === 'use' ? uses : groups)(entry.source, holder.id);
    if (entry.line) manyLines(entry.source);
    if (entry.piece) manyLooks(entry.source);
    taken.push({ entry, layer });
  }
  for (const id of hidden) {
    lines.take(id);
    isHidden(id);
  }
  return taken;
}

/** A line of text as outlines, and a word about it. */
export function outlineText(
  entry: ResolvedEntry & { kind: 'text' },
  fonts: Fonts,
  lines: CarryLines,
  becomes: string,
): readonly Outline[] {
  const { outlines, missing } = fonts.outline(entry);
  lines.line('text', 'restated', 'Text', becomes)(entry.source);
  if (missing.length) missingCharacters(entry, missing, lines);
  return outlines;
}

/** Says that a font has no shape for some characters. */
export function missingCharacters(
  { font, source }: ResolvedEntry & { kind: 'text' },
  missing: readonly string[],
  lines: CarryLines,
): void {
  const some = [...new Set(missing)].slice(0, 8).join(' ');
  lines.line('characters', 'left out', `Characters ${some}`, `are not in ${font}`)(source);
}
