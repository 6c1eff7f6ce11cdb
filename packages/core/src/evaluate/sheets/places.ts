import { Failure } from '../../base/failure/failure';
import { MARK_ROOM, type SheetPlan } from '../../base/geometry/sheet-plan';

/** A page to be put somewhere, mm. */
interface Page {
  readonly name: string;
  readonly width: number;
  readonly height: number;
}

/** A page on a sheet: its lower left corner, and how far it may show beyond each of its edges, mm. */
export interface PlacedPage {
  /** Which page, by number. */
  readonly page: number;
  readonly x: number;
  readonly y: number;
  readonly beyond: { readonly left: number; readonly right: number; readonly bottom: number; readonly top: number };
}

/** A sheet of several pages, mm. */
interface PlannedSheet {
  readonly label: string;
  readonly width: number;
  readonly height: number;
  readonly pages: readonly PlacedPage[];
  /** Where it is cut: edges that lie across the paper, and along it. */
  readonly cuts: { readonly x: readonly number[]; readonly y: readonly number[] };
  /** Where it is folded, from the left. */
  readonly folds: readonly number[];
}

/** At least so much of the paper stays without print, mm. */
const PAPER_EDGE = 8;

/** The two pages that lie beside each other, sheet by sheet; null where there is none. */
type Pair = readonly [left: number | null, right: number | null];

/** As they are read: the first page of a text that opens lies on the right by itself where there are several. */
const inReadingOrder = (count: number): Pair[] =>
  Array.from({ length: Math.ceil(count / 2) }, (_, i): Pair => [2 * i, 2 * i + 1 < count ? 2 * i + 1 : null]);

/** As they are printed to be folded in the middle and laid into each other: front and back by turns. */
function inFoldedOrder(count: number): Pair[] {
  const whole = 4 * Math.ceil(count / 4);
  const page = (i: number): number | null => (i < count ? i : null);
  return Array.from({ length: whole / 4 }, (_, i): Pair[] => [
    [page(whole - 1 - 2 * i), page(2 * i)],
    [page(2 * i + 1), page(whole - 2 - 2 * i)],
  ]).flat();
}

function spread([left, right]: Pair, pages: readonly Page[], label: string, folded: boolean, plan: SheetPlan): PlannedSheet {
  const { bleed, marks } = plan;
  const margin = bleed + (marks === 'none' ? 0 : MARK_ROOM);
  const [wide, high] = [Math.max(...pages.map(({ width }) => width)), Math.max(...pages.map(({ height }) => height))];
  const placed: PlacedPage[] = [];
  const edges = { top: bleed, bottom: bleed };
  if (left !== null)
    placed.push({ page: left, x: margin + wide - pages[left]!.width, y: margin, beyond: { ...edges, left: bleed, right: 0 } });
  if (right !== null) placed.push({ page: right, x: margin + wide, y: margin, beyond: { ...edges, left: 0, right: bleed } });
  return {
    label,
    width: 2 * (wide + margin),
    height: high + 2 * margin,
    pages: placed,
    cuts: { x: [margin, margin + 2 * wide], y: [margin, margin + high] },
    folds: folded ? [margin + wide] : [],
  };
}

/** How many of a length fit into a room. */
const fitting = (room: number, length: number, gap: number): number =>
  Math.max(0, Math.floor((room + gap + 1e-6) / (length + gap)));

/** Several pages on one paper, as it lies or turned, whichever holds more, in the middle of it. */
function grids(pages: readonly Page[], order: readonly number[] | null, plan: SheetPlan): PlannedSheet[] {
  const { bleed, gap, onto, marks } = plan;
  const margin = Math.max(PAPER_EDGE, marks === 'none' ? 0 : bleed + MARK_ROOM);
  const [wide, high] = [Math.max(...pages.map(({ width }) => width)), Math.max(...pages.map(({ height }) => height))];
  const [[width, height, across, up]] = [onto, [onto[1], onto[0]] as const]
    .map(([w, h]) => [w, h, fitting(w - 2 * margin, wide, gap), fitting(h - 2 * margin, high, gap)] as const)
    .sort((a, b) => b[2] * b[3] - a[2] * a[3]) as [readonly [number, number, number, number]];
  const each = across * up;
  if (!each) {
    const large = pages.find((one) => one.width === wide) ?? pages[0]!;
    throw new Failure(
      'option-invalid',
      `“${large.name}” is ${wide} × ${high} mm and does not fit onto paper of ${onto[0]} × ${onto[1]} mm, of which ${margin} mm around stay free. Choose a larger one.`,
    );
  }
  const [left, top] = [(width - across * wide - (across - 1) * gap) / 2, (height + up * high + (up - 1) * gap) / 2];
  const between = Math.min(bleed, gap / 2);
  const sheets: PlannedSheet[] = [];
  const runs = order ? [order] : pages.map((_, page) => Array.from({ length: each }, () => page));
  for (const run of runs)
    for (let first = 0; first < run.length; first += each) {
      const here = run.slice(first, first + each);
      const placed = here.map((page, i): PlacedPage => {
        const [column, row] = [i % across, Math.floor(i / across)];
        const taken = { columns: Math.min(across, here.length - row * across), rows: Math.ceil(here.length / across) };
        return {
          page,
          x: left + column * (wide + gap),
          y: top - row * (high + gap) - high,
          beyond: {
            left: column ? between : bleed,
            right: column + 1 < taken.columns ? between : bleed,
            top: row ? between : bleed,
            bottom: row + 1 < taken.rows ? between : bleed,
          },
        };
      });
      const edgesOf = (from: (one: PlacedPage) => number, length: number): number[] => [
        ...new Set(placed.flatMap((one) => [from(one), from(one) + length])),
      ];
      sheets.push({
        label: '',
        width,
        height,
        pages: placed,
        cuts: { x: edgesOf(({ x }) => x, wide), y: edgesOf(({ y }) => y, high) },
        folds: [],
      });
    }
  return sheets;
}

/**
 * Where each page gets on which sheet.
 * @param pages in their order
 * @throws Failure `option-invalid` where one does not fit onto the paper
 */
export function plannedSheets(pages: readonly Page[], plan: SheetPlan): PlannedSheet[] {
  if (!pages.length || plan.way === 'each') return [];
  const sheets =
    plan.way === 'gathered'
      ? grids(pages, [...pages.keys()], plan)
      : plan.way === 'repeated'
        ? grids(pages, null, plan)
        : (plan.way === 'folded' ? inFoldedOrder : inReadingOrder)(pages.length).map((pair) =>
            spread(pair, pages, '', plan.way === 'folded', plan),
          );
  return sheets.map((sheet, i) => ({
    ...sheet,
    label: plan.way === 'folded' ? `Sheet ${1 + (i >> 1)}, ${i % 2 ? 'back' : 'front'}` : `Sheet ${i + 1}`,
  }));
}
