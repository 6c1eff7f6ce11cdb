import * as z from 'zod';

/** Kinds of difference, in order of how much they matter: outline before order, order before look. */
export const DIFFERENCE_KINDS = [
  'sheet missing',
  'sheet added',
  'sheet re-ordered',
  'sheet renamed',
  'unit changed',
  'master inside missing',
  'master inside added',
  'master inside changed',
  'sheet resized',
  'language changed',
  'missing',
  'added',
  'body missing',
  'body added',
  'hole missing',
  'hole added',
  'hole changed',
  'hole moved',
  'column missing',
  'column added',
  'paragraph missing',
  'paragraph added',
  'row missing',
  'row added',
  'value changed',
  'words changed',
  'digits lost',
  'formula lost',
  'formula changed',
  'type changed',
  'column renamed',
  'turned inside out',
  'opened',
  'doubled',
  'not understood',
  'reshaped',
  'resized',
  'volume changed',
  'moved',
  'resampled',
  'cropped',
  'shifted',
  'transparency lost',
  'profile dropped',
  'recoloured overall',
  'region changed',
  're-compressed',
  'picture changed',
  'cropped otherwise',
  'filled otherwise',
  'clipped otherwise',
  'masked otherwise',
  'retyped',
  'paragraph moved',
  'role changed',
  'link changed',
  'description changed',
  'emphasis changed',
  'aligned otherwise',
  'turned',
  'font changed',
  're-layered',
  're-ordered',
  'tool changed',
  'motion changed',
  'thread changed',
  'trim changed',
  'speed changed',
  'recoloured',
  'restyled',
  'depth changed',
  'density changed',
  'rows re-ordered',
  'columns re-ordered',
  'format changed',
] as const;
export type DifferenceKind = (typeof DIFFERENCE_KINDS)[number];

/** One thing in which the copy says something else than the master. */
export const Difference = z.object({
  kind: z.enum(DIFFERENCE_KINDS),
  /** What it is about, in words a person would use: the object's name, or the kind of thing and its layer. */
  what: z.string(),
  /** Which part of the copy: sheets are numbered from 0, in the order of the master's side. */
  leaf: z.number(),
  /** How many outlines are concerned. */
  count: z.number(),
  /** Where, on the board, mm; both sides together. Null for what concerns the whole sheet. */
  place: z.object({ minX: z.number(), minY: z.number(), maxX: z.number(), maxY: z.number() }).nullable(),
  /** Where, in space, mm; for solids only. */
  spot: z.tuple([z.number(), z.number(), z.number()]).optional(),
  /** How much, and in which unit; null where there is no number to it. */
  amount: z.number().nullable(),
  /** Of a table: that of its column. */
  unit: z.string().max(60),
  /** What each side says, for differences that are better said than measured. */
  master: z.string().nullable(),
  copy: z.string().nullable(),
  /** Entry numbers in the two bodies, for showing them. */
  masterEntries: z.array(z.number()),
  copyEntries: z.array(z.number()),
  /** The master's object. */
  source: z.string().nullable(),
});
export type Difference = z.infer<typeof Difference>;

const RANK = new Map(DIFFERENCE_KINDS.map((kind, i) => [kind, i]));

/** Most important first: by kind, then by amount. */
export const byImportance = (a: Difference, b: Difference): number =>
  RANK.get(a.kind)! - RANK.get(b.kind)! || (b.amount ?? 0) - (a.amount ?? 0);

/** A difference of which only some parts are given. */
export function difference(kind: DifferenceKind, what: string, rest: Partial<Difference>): Difference {
  const empty = {
    leaf: 0,
    count: 1,
    place: null,
    amount: null,
    unit: '',
    master: null,
    copy: null,
    masterEntries: [] as number[],
    copyEntries: [] as number[],
    source: null,
  };
  return { ...empty, kind, what, ...rest };
}

/** The difference in one line: "Arrow: reshaped, 3.20 mm". */
export function differenceInWords({ kind, what, amount, unit, count, master, copy }: Difference): string {
  const number = amount === null ? '' : `, ${formatAmount(amount, unit)}`;
  const sides = master !== null && copy !== null ? ` (master ${master}, copy ${copy})` : '';
  const outlines = count > 1 && kind !== 'not understood' ? ` (${count} outlines)` : '';
  return `${what}${outlines}: ${kind}${number}${sides}`;
}

export const formatAmount = (amount: number, unit: Difference['unit']): string =>
  unit === 'mm' ? `${amount.toFixed(amount < 0.1 ? 3 : 2)} mm` : `${Number(amount.toPrecision(4))} ${unit}`.trim();
