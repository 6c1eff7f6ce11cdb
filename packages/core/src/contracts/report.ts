import * as z from 'zod';

export const OUTCOMES = ['kept', 'restated', 'approximated', 'left out'] as const;

/** What becomes of one feature of this document in this target. */
export const CarryLine = z.object({
  feature: z.string(),
  outcome: z.enum(OUTCOMES),
  /** "Curves". */
  what: z.string(),
  /** "become arcs and lines". */
  becomes: z.string(),
  /** How many there are. */
  count: z.number(),
  /** The master's objects concerned. */
  objects: z.array(z.string()),
  /** Largest deviation measured, mm; null where nothing was approximated in space. */
  deviation: z.number().nullable(),
});
export type CarryLine = z.infer<typeof CarryLine>;

/** The carry-over report of one document and one target. */
export const CarryReport = z.object({
  sentence: z.string(),
  /** Objects in the scope, and how many of them arrive as they are. */
  objects: z.number(),
  asTheyAre: z.number(),
  lines: z.array(CarryLine),
});
export type CarryReport = z.infer<typeof CarryReport>;
type Outcome = CarryLine['outcome'];

const ORDER: readonly Outcome[] = ['left out', 'approximated', 'restated', 'kept'];

interface Collected extends Pick<CarryLine, 'feature' | 'outcome' | 'what' | 'becomes'> {
  /** What is counted where that is not the objects themselves. */
  readonly counted: Set<string>;
  readonly objects: Set<string>;
  /** Objects that count for themselves. */
  own: number;
  deviation: number | null;
}

/** Writes an object down on one line. @param counts what one counts: the object itself, or the group or use that it is in */
export type LineNote = (object: string, counts?: string, deviation?: number) => void;

/** Collects the rewrites while they are made. */
export class CarryLines {
  private readonly lines = new Map<string, Collected>();
  private readonly all = new Set<string>();

  private readonly passed = new Set<string>();

  /** Objects in the scope, whatever becomes of them. */
  take(object: string): void {
    if (!this.passed.has(object)) this.all.add(object);
  }

  /** Says nothing of these: what a copy alone has. */
  passOver(objects: Iterable<string>): void {
    for (const object of objects) this.passed.add(object);
  }

  /** A line to write objects down on; it is in the report once it has one. */
  line(feature: string, outcome: Outcome, what: string, becomes: string): LineNote {
    const key = `${feature}|${outcome}|${what}`;
    let line: Collected | undefined = this.lines.get(key);
    return (object, counts = object, deviation) => {
      if (this.passed.has(object)) return;
      if (!line) {
        line = this.lines.get(key) ?? {
          feature,
          outcome,
          what,
          becomes,
          counted: new Set(),
          objects: new Set(),
          own: 0,
          deviation: null,
        };
        this.lines.set(key, line);
      }
      const { size } = line.objects;
      line.objects.add(object);
      if (counts !== object) line.counted.add(counts);
      else if (line.objects.size > size) line.own++;
      if (deviation !== undefined) line.deviation = Math.max(line.deviation ?? 0, deviation);
    };
  }

  report(): CarryReport {
    const { all } = this;
    const lines = [...this.lines.values()].map(({ counted, objects, own, ...line }): CarryLine => ({
      ...line,
      count: counted.size + own,
      objects: [...objects],
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
