import type { PathStore } from '../../base/geometry/paths';
import type { Fonts } from '../../contracts/fonts';
import type { Matrix } from '../../base/geometry/matrix';
import type { Box } from '../../base/geometry/measure';
import type { Point } from '../../base/geometry/point';
import type { DrawingSink, StatedText } from '../../content/drawing/sink';
import type { Tally } from '../../contracts/tally';
import type { FontName, Style } from '../../document/schema';
import type { DxfRecord } from './records';

/** Takes in what entities are, one by one: what their readers see of the one who reads the file. */
export interface EmittingReader {
  readonly sink: DrawingSink;
  /** What was not understood. */
  readonly tally: Tally;
  /** Filled anew for each shape, in drawing units. */
  readonly paths: PathStore;
  /** From drawing units to millimetres, in the axes of what is being read: the board or a symbol. */
  readonly scale: Matrix;
  /** Whether the result is kept as a master: what a copy of ours never holds is drawn then. */
  readonly keep: boolean;
  /** Fonts to measure text with; missing where a file is only held against a master. */
  readonly fonts: Fonts | undefined;
  /** How points are shown: the number for it, how large they are, and half of a dot; drawing units. */
  readonly points: { readonly mode: number; readonly size: number; readonly dot: number };
  /** What of the drawing the board shows, drawing units; null while it is measured. */
  readonly room: Box | null;
  /** How long an arrow of a leader is, drawing units. */
  readonly arrow: number;
  /**
   * Tells of the outlines in `paths` as one shape.
   * @param facing from the axes of the entity to those of the drawing, where they are others
   */
  shape(groups: DxfRecord, facing?: Matrix | null): void;
  /** Where an entity is whose outlines are in `paths`, and how a line of it would look. */
  placed(groups: DxfRecord, facing: Matrix | null): { layer: number; look: Style; at: Matrix | null };
  /** The shipped font of a text. */
  font(groups: DxfRecord): FontName;
  /**
   * Tells of a text.
   * @param turn radians
   * @param own how its letters are pulled, before it is turned
   */
  text(groups: DxfRecord, words: Omit<StatedText, 'x' | 'y' | 'transform'>, at: Point, turn: number, own?: Matrix | null): void;
  /** Tells of a picture. */
  image(groups: DxfRecord): void;
  /**
   * Uses of a block, each by where it is put. Missing blocks are counted; a block inside itself draws nothing there.
   * @throws Failure `dxf-block-cycle`
   */
  use(groups: DxfRecord, name: string, places: readonly Matrix[]): void;
}
