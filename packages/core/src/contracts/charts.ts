import type { Fonts } from './fonts';
import type { ChartFrame } from '../document/items/kinds/chart-frame';
import type { Item } from '../document/schema';

/** One of the things that a chart draws: places along the bottom and heights, in order. */
export interface ChartSeries {
  readonly name: string;
  readonly points: readonly (readonly [across: string | number, up: number])[];
}
/** A chart before anybody draws it. */
export interface ChartPlan {
  /** mm */
  readonly width: number;
  readonly height: number;
  /** Of its letters, mm. */
  readonly size: number;
  readonly form: ChartFrame['form'];
  /** What lies along the bottom: words, numbers or days. */
  readonly scale: 'words' | 'numbers' | 'days';
  readonly across: string;
  readonly up: string;
  readonly series: readonly ChartSeries[];
}

/** A chart as what it is drawn with, mm, y upwards from its lower edge. */
export interface DrawnChart {
  readonly items: readonly Item[];
  readonly height: number;
}

/** Draws charts. Ships outside the core, because its library is large. */
export interface ChartEngine {
  readonly drawn: (plan: ChartPlan, services: { readonly fonts: Fonts }) => Promise<DrawnChart>;
}
