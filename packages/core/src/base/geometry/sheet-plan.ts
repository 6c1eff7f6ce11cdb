/** How pages get onto sheets. */
export const SHEET_WAYS = ['each', 'spreads', 'folded', 'gathered', 'repeated'] as const;
export type SheetWay = (typeof SHEET_WAYS)[number];

export const SHEET_MARKS = ['none', 'cut', 'cut and register'] as const;
export type SheetMarks = (typeof SHEET_MARKS)[number];

/** What a printer makes of pages. Lengths in mm. */
export interface SheetPlan {
  readonly way: SheetWay;
  readonly marks: SheetMarks;
  /** What is kept around each page; where pages touch, there is none between them. */
  readonly bleed: number;
  /** The paper that several pages get onto, as it lies or turned. */
  readonly onto: readonly [width: number, height: number];
  /** Between pages on one paper. */
  readonly gap: number;
}

/** Beyond what is kept around a page, marks have so much room. */
export const MARK_ROOM = 10;

/** What lies around a page in its file: what is kept, and room for marks. Sheets of several pages have both within them. */
export const aroundPage = ({ way, marks, bleed }: Pick<SheetPlan, 'way' | 'marks' | 'bleed'>): number =>
  way === 'each' ? bleed + (marks === 'none' ? 0 : MARK_ROOM) : 0;
