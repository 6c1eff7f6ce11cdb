import { type Box, emptyBox, growBox, joinBoxes } from '../../base/geometry/measure';
import { type Difference, type DifferenceKind, byImportance, difference } from '../../contracts/difference';
import type { CompareSettings, Comparison } from '../../contracts/kind';
import { MOTIONS, type Machining } from '../../contracts/machining';
import { type Placing, outOfOrder } from '../../evaluate/matching/order';
import { pairInOrder } from './pairs';
import type { MachiningCarries } from './features';

/** Feeds and turns closer than this share are the same: what few decimals leave over. */
const SHARE = 0.002;
const sameRate = (a: number, b: number): boolean =>
  Number.isNaN(a) || Number.isNaN(b) ? Number.isNaN(a) === Number.isNaN(b) : Math.abs(a - b) <= SHARE * Math.max(a, b);

const at = ({ ends }: Machining, i: number, axis: number): number => ends[3 * i + axis]!;
const off = (a: Machining, i: number, b: Machining, j: number, axis: number): number => {
  const [p, q] = [at(a, i, axis), at(b, j, axis)];
  return Number.isNaN(p) && Number.isNaN(q) ? 0 : Math.abs(p - q);
};
/** How a kind of work calls what its moves are. */
interface MoveWords {
  /** What tells tools apart, in words. */
  readonly tool: (moves: Machining, i: number) => string;
  /** Of each motion, by its place in `MOTIONS`. */
  readonly motions: readonly string[];
  /** Kinds of difference that are called otherwise. */
  readonly kinds: Partial<Record<DifferenceKind, DifferenceKind>>;
  readonly counted: string;
}

const OF_TOOLS: MoveWords = {
  tool: ({ tools, tool }, i) => `tool ${tools[tool[i]!]!.number}`,
  motions: MOTIONS,
  kinds: {},
  counted: 'moves',
};

/** Where a move is seen: from the place before it to its end. */
function boxOfMove(moves: Machining, i: number): Box {
  const box = emptyBox();
  for (const k of [i - 1, i])
    if (k >= 0 && !Number.isNaN(at(moves, k, 0) + at(moves, k, 1))) growBox(box, at(moves, k, 0), at(moves, k, 1));
  return box;
}

/** In which way two moves that stand for each other differ, gravest first; nothing where they are the same. */
function faults(
  a: Machining,
  i: number,
  b: Machining,
  j: number,
  { tolerance, rates, words }: { tolerance: number; rates: boolean; words: MoveWords },
): DifferenceKind[] {
  const found: DifferenceKind[] = [];
  if (a.motion[i] !== b.motion[j]) found.push('motion changed');
  const [dx, dy, dz] = [off(a, i, b, j, 0), off(a, i, b, j, 1), off(a, i, b, j, 2)];
  if (!(Math.hypot(dx, dy) <= tolerance)) found.push('moved');
  // A centre that went along with the end of its arc is no other arc.
  const along = (axis: 0 | 1): number => b.centres[2 * j + axis]! - a.centres[2 * i + axis]! - (at(b, j, axis) - at(a, i, axis));
  if (a.motion[i]! > 1 && b.motion[j]! > 1 && !(Math.hypot(along(0), along(1)) <= 2 * tolerance)) found.push('reshaped');
  if (!(dz <= tolerance)) found.push('depth changed');
  if (words.tool(a, i) !== words.tool(b, j)) found.push('tool changed');
  if (rates && (!sameRate(a.feed[i]!, b.feed[j]!) || !sameRate(a.spindle[i]!, b.spindle[j]!))) found.push('speed changed');
  return found;
}

/** Compares what a machine should do with what a file makes it do, move by move. */
export function compareMachining(
  master: Machining,
  copy: Machining,
  { tolerance, carries, nameOf }: CompareSettings<Partial<MachiningCarries>>,
  words: MoveWords = OF_TOOLS,
): Comparison {
  const how = { tolerance, rates: carries.feed !== undefined && carries.feed !== 'left out', words };
  const tell = (i: number, j: number) => faults(master, i, copy, j, how);
  const partner = pairInOrder(master, copy, (i, j) => !tell(i, j).length, tell);
  const taken = new Uint8Array(copy.count);
  for (const j of partner) if (j >= 0) taken[j] = 1;
  const whatOf = (i: number): { what: string; source: string | null } => {
    const source = master.sources[master.source[i]!] ?? null;
    return { what: (source && nameOf?.(source)) ?? `${words.counted} between objects`, source };
  };
  // One difference for an object and what is otherwise with it, however many of its moves are concerned.
  const groups = new Map<string, { kind: DifferenceKind; what: string; source: string | null; a: number[]; b: number[] }>();
  const add = (kind: DifferenceKind, named: { what: string; source: string | null }, a: number, b: number, how: string) => {
    const key = `${kind}|${named.source ?? named.what}|${how}`;
    let group = groups.get(key);
    if (!group) groups.set(key, (group = { kind, ...named, a: [], b: [] }));
    if (a >= 0) group.a.push(a);
    if (b >= 0) group.b.push(b);
  };
  const pairs: Placing[] = [];
  let equal = 0;
  for (let i = 0; i < master.count; i++) {
    const j = partner[i]!;
    const named = whatOf(i);
    if (j < 0) {
      add('missing', named, i, -1, '');
      continue;
    }
    pairs.push({
      a: {
        entry: i,
        get box() {
          return boxOfMove(master, i);
        },
      },
      b: {
        entry: j,
        get box() {
          return boxOfMove(copy, j);
        },
      },
      what: () => named.what,
      source: named.source,
    });
    const kinds = tell(i, j);
    if (!kinds.length) equal++;
    for (const kind of kinds) add(kind, named, i, j, rateWords(kind, master, i, copy, j));
  }
  for (let j = 0; j < copy.count; j++) if (!taken[j]) add('added', { what: words.counted, source: null }, -1, j, '');
  const found = [...groups.values()].map((group) => differenceOf(group, master, copy, words));
  if (carries.order !== 'left out')
    for (const { a, b, what, source } of grouped(outOfOrder(pairs)))
      found.push(
        difference('re-ordered', what(), {
          place: joinBoxes([a.box, b.box]),
          masterEntries: [a.entry],
          copyEntries: [b.entry],
          source,
        }),
      );
  return { differences: found.sort(byImportance), outlines: master.count, equal, counted: words.counted };
}

/** Of moves out of turn that stand behind each other, the first. */
const grouped = (pairs: readonly Placing[]): Placing[] =>
  pairs.filter(({ a, b }, i) => !i || pairs[i - 1]!.a.entry !== a.entry - 1 || pairs[i - 1]!.b.entry !== b.entry - 1);

const rateWords = (kind: DifferenceKind, a: Machining, i: number, b: Machining, j: number): string =>
  kind === 'speed changed' ? `${a.feed[i]!} ${a.spindle[i]!} ${b.feed[j]!} ${b.spindle[j]!}` : '';

function differenceOf(
  { kind, what, source, a, b }: { kind: DifferenceKind; what: string; source: string | null; a: number[]; b: number[] },
  master: Machining,
  copy: Machining,
  words: MoveWords,
): Difference {
  const place = joinBoxes([...a.map((i) => boxOfMove(master, i)), ...b.map((j) => boxOfMove(copy, j))]);
  const common = {
    count: Math.max(a.length, b.length),
    place: place.minX <= place.maxX ? place : null,
    masterEntries: a,
    copyEntries: b,
    source,
  };
  const called = words.kinds[kind] ?? kind;
  if (!a.length || !b.length) return difference(called, what, common);
  const sides = SIDES_OF[kind]?.({ master, a, copy, b, i: a[0]!, j: b[0]!, words });
  return difference(called, what, { ...common, ...sides });
}

type Sides = Pick<Partial<Difference>, 'amount' | 'unit' | 'master' | 'copy'>;
const most = (a: readonly number[], b: readonly number[], by: (i: number, j: number) => number): number =>
  a.reduce((worst, i, k) => Math.max(worst, by(i, b[k] ?? b[0]!)), 0);
const rate = (moves: Machining, i: number): string =>
  `${Number.isNaN(moves.feed[i]!) ? 'no feed' : `${Number(moves.feed[i]!.toFixed(1))} mm/min`}, ${moves.spindle[i]!} turns/min`;

interface Told {
  readonly master: Machining;
  readonly a: number[];
  readonly copy: Machining;
  readonly b: number[];
  /** The first of each. */
  readonly i: number;
  readonly j: number;
  readonly words: MoveWords;
}

/** What each side says, by the kind of difference. */
const SIDES_OF: Partial<Record<DifferenceKind, (told: Told) => Sides>> = {
  moved: ({ master, a, copy, b }) => ({
    amount: most(a, b, (i, j) => Math.hypot(off(master, i, copy, j, 0), off(master, i, copy, j, 1))),
    unit: 'mm',
  }),
  reshaped: ({ master, a, copy, b }) => ({
    amount: most(a, b, (i, j) =>
      Math.hypot(master.centres[2 * i]! - copy.centres[2 * j]!, master.centres[2 * i + 1]! - copy.centres[2 * j + 1]!),
    ),
    unit: 'mm',
  }),
  'depth changed': ({ master, a, copy, b, i, j, words }) =>
    words.kinds['depth changed']
      ? { master: at(master, i, 2) > 0 ? 'cut' : 'not cut', copy: at(copy, j, 2) > 0 ? 'cut' : 'not cut' }
      : {
          amount: most(a, b, (p, q) => off(master, p, copy, q, 2)),
          unit: 'mm',
          master: `z ${Number(at(master, i, 2).toFixed(3))}`,
          copy: `z ${Number(at(copy, j, 2).toFixed(3))}`,
        },
  'motion changed': ({ master, copy, i, j, words: { motions } }) => ({
    master: motions[master.motion[i]!]!,
    copy: motions[copy.motion[j]!]!,
  }),
  'tool changed': ({ master, copy, i, j, words: { tool } }) => ({ master: tool(master, i), copy: tool(copy, j) }),
  'speed changed': ({ master, copy, i, j }) => ({ master: rate(master, i), copy: rate(copy, j) }),
};
