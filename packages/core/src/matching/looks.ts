import type { DisplayStyle } from '../content/drawing/display-list';
import type { DifferenceKind } from './difference';

interface Looking {
  readonly layer: string;
  readonly style: DisplayStyle;
}

/** A difference of look between two things that have the same shape and place. */
export interface LookDifference {
  readonly kind: DifferenceKind;
  readonly master: string;
  readonly copy: string;
  readonly amount: number | null;
}

/** Widths closer than this are the same, mm: what three decimals leave over. */
const WIDTH = 0.002;
const SHARE = 0.005;
const shown = (colour: string | null) => colour ?? 'none';

/** In what two looks differ; empty where they are the same. */
export function lookDifferences(a: Looking, b: Looking): LookDifference[] {
  const found: LookDifference[] = [];
  const add = (kind: DifferenceKind, master: string, copy: string, amount: number | null = null) =>
    found.push({ kind, master, copy, amount });
  if (a.layer !== b.layer) add('re-layered', a.layer, b.layer);
  if (a.style.fill !== b.style.fill) add('recoloured', `fill ${shown(a.style.fill)}`, `fill ${shown(b.style.fill)}`);
  if (a.style.stroke !== b.style.stroke) add('recoloured', `line ${shown(a.style.stroke)}`, `line ${shown(b.style.stroke)}`);
  const width = Math.abs(a.style.strokeWidth - b.style.strokeWidth);
  if (a.style.stroke && b.style.stroke && width > WIDTH)
    add('restyled', `line ${a.style.strokeWidth.toFixed(3)} mm`, `line ${b.style.strokeWidth.toFixed(3)} mm`, width);
  if (Math.abs(a.style.opacity - b.style.opacity) > SHARE)
    add('restyled', `opacity ${a.style.opacity.toFixed(2)}`, `opacity ${b.style.opacity.toFixed(2)}`);
  return found;
}
