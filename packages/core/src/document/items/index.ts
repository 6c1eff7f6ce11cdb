import { gathered } from './gathered/kinds';
import type { ItemKind } from './kind';
import { addItemKind } from './table';

Object.values(gathered).forEach((kind: ItemKind) => addItemKind(kind));

export type { DrawnShape, HandDrawn, Way } from './by-hand';
export type { Anchor, Dimension, Spot } from './kinds/dimension';
export { SPOTS } from './kinds/dimension';
export type { MotifLine } from './kinds/motif-line';
export type { ChartFrame } from './kinds/chart-frame';
export type { SolidView } from './kinds/solid-view';
export type { TableFrame } from './kinds/table-frame';
export type { TextFrame } from './kinds/text-frame';
export type { Draw, Field, ItemKind } from './kind';
export type { TextLine } from './text-line';
export { addItemKind, itemKind, itemKinds } from './table';
export { LONGEST_TEXT, MOST_RUNS, type TextRun } from './text-item';
export { LEADING, roughly } from './text-lines';
export type { Measure } from './text-line';
export { type RunLook, lookWithin, withRun } from './text-runs';
