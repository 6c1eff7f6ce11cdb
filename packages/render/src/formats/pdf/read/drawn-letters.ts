import { type CarriedFont, type Matrix, type Outline, PathStore, outlineAt } from '@inkwell-twin/core';
import type { GroupNode, Node } from './nodes';
import type { RawInstructions } from './open';
import { unpack } from './packed-paths';

/** A font whose letters are drawn by instructions of their own (ISO 32000-1, 9.6.5), as the library gives it. */
export interface DrawnFont {
  readonly isType3Font?: boolean;
  readonly fontMatrix?: readonly number[];
  readonly charProcOperatorList?: Readonly<Record<string, RawInstructions>>;
}

/** How letters of other fonts are measured: a thousand units an em. */
const USUAL = 0.001;

/** How much of an em a unit of a font is, for what is usual: widths of letters are said in units. */
export const unitOf = ({ isType3Font, fontMatrix }: DrawnFont): number =>
  isType3Font ? Math.abs(fontMatrix?.[0] ?? USUAL) / USUAL : 1;

/** The outlines of what nodes fill; null where they do anything else. */
function filledIn(nodes: readonly Node[], into: PathStore): boolean {
  return nodes.every((node) => {
    if (node.kind === 'group') {
      const { clip, mask, opacity } = node;
      return !clip && !mask && opacity === 1 && filledIn(node.nodes, into);
    }
    if (node.kind !== 'path' || node.style.stroke || node.style.fill !== '#000000') return false;
    const own = new PathStore();
    unpack(node.data, own);
    for (let i = 0; i < own.count; i++) into.append(own, i, node.at);
    return true;
  });
}

/** Fonts whose letters are drawn: each letter is drawn once. */
export class DrawnFonts {
  private readonly known = new Map<DrawnFont, CarriedFont>();

  /** @param draw what instructions draw, in the axes that are given */
  constructor(private readonly draw: (list: RawInstructions, at: Matrix) => GroupNode) {}

  /** @returns null for what is no such font */
  find(font: DrawnFont | undefined): CarriedFont | null {
    const { isType3Font, charProcOperatorList: lists, fontMatrix } = font ?? {};
    if (!font || !isType3Font || !lists || fontMatrix?.length !== 6) return null;
    const held = this.known.get(font);
    if (held) return held;
    const matrix = [...fontMatrix] as unknown as Matrix;
    const letters = new Map<string, readonly Outline[]>();
    const letter = (id: string): readonly Outline[] => {
      let outlines = letters.get(id);
      if (outlines) return outlines;
      const paths = new PathStore();
      const list = Object.hasOwn(lists, id) ? lists[id] : undefined;
      const isPlain = list !== undefined && filledIn(this.draw(list, matrix).nodes, paths);
      outlines = isPlain ? Array.from({ length: paths.count }, (_, i) => outlineAt(paths, i)) : [];
      letters.set(id, outlines);
      return outlines;
    };
    const made: CarriedFont = { covers: () => false, set: () => ({ outlines: [], advance: 0 }), letter };
    this.known.set(font, made);
    return made;
  }
}
