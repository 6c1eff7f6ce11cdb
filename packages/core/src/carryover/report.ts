import type { Outcome } from '../targets/target';

/** What becomes of one feature of this document in this target. */
export interface CarryLine {
  readonly feature: string;
  readonly outcome: Outcome;
  /** "Curves". */
  readonly what: string;
  /** "become arcs and lines". */
  readonly becomes: string;
  /** How many there are. */
  readonly count: number;
  /** The master's objects concerned. */
  readonly objects: readonly string[];
  /** Largest deviation measured, mm; null where nothing was approximated in space. */
  readonly deviation: number | null;
}

/** The carry-over report of one document and one target. */
export interface CarryReport {
  readonly sentence: string;
  /** Objects in the scope, and how many of them arrive as they are. */
  readonly objects: number;
  readonly asTheyAre: number;
  readonly lines: readonly CarryLine[];
}

const ORDER: readonly Outcome[] = ['left out', 'approximated', 'restated', 'kept'];

interface Collected {
  outcome: Outcome;
  what: string;
  becomes: string;
  counted: Set<string>;
  objects: Set<string>;
  deviation: number | null;
}

/** Collects the rewrites while they are made. */
export class CarryLines {
  private readonly lines = new Map<string, Collected>();

  /** @param counts what one counts: the object itself, or the group or use that it is in */
  add(
    feature: string,
    outcome: Outcome,
    what: string,
    becomes: string,
    object: string,
    counts = object,
    deviation?: number,
  ): void {
    const key = `${feature}|${outcome}|${what}`;
    let line = this.lines.get(key);
    if (!line) this.lines.set(key, (line = { outcome, what, becomes, counted: new Set(), objects: new Set(), deviation: null }));
    line.counted.add(counts);
    line.objects.add(object);
    if (deviation !== undefined) line.deviation = Math.max(line.deviation ?? 0, deviation);
  }

  report(all: ReadonlySet<string>): CarryReport {
    const lines = [...this.lines].map(([key, { outcome, what, becomes, counted, objects, deviation }]): CarryLine => ({
      feature: key.slice(0, key.indexOf('|')),
      outcome,
      what,
      becomes,
      count: counted.size,
      objects: [...objects],
      deviation,
    }));
    lines.sort((a, b) => ORDER.indexOf(a.outcome) - ORDER.indexOf(b.outcome) || b.count - a.count);
    const changed = new Set(lines.filter(({ outcome }) => outcome !== 'kept').flatMap(({ objects }) => objects));
    const asTheyAre = [...all].filter((id) => !changed.has(id)).length;
    return { sentence: sentenceOf(all.size, asTheyAre, lines), objects: all.size, asTheyAre, lines };
  }
}

function sentenceOf(objects: number, asTheyAre: number, lines: readonly CarryLine[]): string {
  if (!objects) return 'There is nothing on this board yet.';
  const start =
    asTheyAre === objects
      ? `${objects === 1 ? 'The one object arrives' : `All ${objects} objects arrive`} as ${objects === 1 ? 'it is' : 'they are'}`
      : asTheyAre === 0
        ? `${objects === 1 ? 'The one object does not arrive' : `None of ${objects} objects arrives`} quite as it is`
        : `${asTheyAre} of ${objects} objects arrive as they are`;
  const rest = ORDER.flatMap((outcome) => {
    const own = outcome === 'kept' ? [] : lines.filter((line) => line.outcome === outcome);
    const words = own.map(({ what, count, deviation }) => {
      const off = deviation !== null && deviation >= 0.0005 ? `, up to ${deviation.toFixed(3)} mm off` : '';
      return count === 1 && !off ? lower(what) : `${lower(what)} (${count}${off})`;
    });
    return words.length ? [`${outcome}: ${words.join(', ')}`] : [];
  });
  return `${[start, ...rest].join('; ')}.`;
}

const lower = (text: string): string => text.charAt(0).toLowerCase() + text.slice(1);
