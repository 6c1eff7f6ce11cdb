import { type Blend, type CarriedFont, type FontName, type MaskKind, type Matrix, identity } from '@inkwell-twin/core';
import type { Node, ReadPaint } from './nodes';

/** The graphics state (ISO 32000-1, 8.4), as far as it shows. */
export interface State {
  /** To the board's axes. */
  ctm: Matrix;
  fill: ReadPaint;
  stroke: ReadPaint;
  width: number;
  cap: 'butt' | 'round' | 'square';
  join: 'miter' | 'round' | 'bevel';
  miter: number;
  dash: readonly number[];
  dashOffset: number;
  fillOpacity: number;
  strokeOpacity: number;
  blend: Blend;
  mask: { readonly kind: MaskKind; readonly nodes: readonly Node[] } | null;
  font: FontName;
  size: number;
  /** How much larger than usual the units are that widths of letters are said in. */
  unit: number;
  /** The font of the file itself, where it is not a shipped one. */
  carried: CarriedFont | null;
  /** The font of the file, where it is named after a shipped one and is held against it. */
  letters: CarriedFont | null;
  /** Letters across, as a share. */
  across: number;
  rise: number;
  /** Space after each letter, in unscaled units of the text. */
  spacing: number;
  /** Space after each blank, too. */
  wordSpacing: number;
  leading: number;
  mode: number;
}

export const freshState = (ctm: Matrix): State => ({
  ctm,
  fill: '#000000',
  stroke: '#000000',
  width: 1,
  cap: 'butt',
  join: 'miter',
  miter: 10,
  dash: [],
  dashOffset: 0,
  ...UNDER_NOTHING,
  font: 'Commissioner',
  size: 1,
  unit: 1,
  carried: null,
  letters: null,
  across: 1,
  rise: 0,
  spacing: 0,
  wordSpacing: 0,
  leading: 0,
  mode: 0,
});

/** What a group begins with, whatever it is laid down by (ISO 32000-1, 11.6.6). */
export const UNDER_NOTHING = { fillOpacity: 1, strokeOpacity: 1, blend: 'normal', mask: null } as const;

/** Where a text is. */
interface TextPlace {
  matrix: Matrix;
  line: Matrix;
}
export const freshPlace = (): TextPlace => ({ matrix: identity, line: identity });
