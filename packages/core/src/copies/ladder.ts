import type { Outcome } from '../contracts/kind';
import type { CarryReport } from '../contracts/report';

/** One version of a format, and what becomes of a document in it. */
export interface Rung {
  readonly version: string;
  readonly report: CarryReport;
}

const RANK: Readonly<Record<Outcome, number>> = { kept: 0, restated: 1, approximated: 2, 'left out': 3 };
const VERB: Readonly<Record<Outcome, string>> = {
  kept: 'keeps',
  restated: 'restates',
  approximated: 'approximates',
  'left out': 'leaves out',
};

/** How each feature fares at worst; a feature without a line loses nothing. */
function fares({ lines }: CarryReport): Map<string, { outcome: Outcome; what: string }> {
  const worst = new Map<string, { outcome: Outcome; what: string }>();
  for (const { feature, outcome, what } of lines)
    if (RANK[outcome] >= RANK[worst.get(feature)?.outcome ?? 'kept']) worst.set(feature, { outcome, what });
  return worst;
}

/**
 * The oldest rung on which every feature of this document fares as well as on any other.
 * @param rungs oldest first
 * @returns its index
 */
export function oldestThatKeeps(rungs: readonly Rung[]): number {
  const all = rungs.map(({ report }) => fares(report));
  const features = new Set(all.flatMap((fare) => [...fare.keys()]));
  const rank = (fare: ReturnType<typeof fares>, feature: string) => RANK[fare.get(feature)?.outcome ?? 'kept'];
  const best = new Map([...features].map((feature) => [feature, Math.min(...all.map((fare) => rank(fare, feature)))]));
  const found = all.findIndex((fare) => [...features].every((feature) => rank(fare, feature) <= best.get(feature)!));
  return found < 0 ? rungs.length - 1 : found;
}

/** Which version is old enough for this document, and what the one before it would cost; empty for a single version. */
export function ladderInWords(rungs: readonly Rung[]): string {
  if (rungs.length < 2) return '';
  const at = oldestThatKeeps(rungs);
  const { version, report } = rungs[at]!;
  if (at === 0) return `${version} is old enough: a newer version keeps no more of this document.`;
  const older = rungs[at - 1]!;
  const kept = fares(report);
  const lost = [...fares(older.report)].filter(
    ([feature, { outcome }]) => RANK[outcome] > RANK[kept.get(feature)?.outcome ?? 'kept'],
  );
  const verbs = (Object.keys(RANK) as Outcome[])
    .sort((a, b) => RANK[b] - RANK[a])
    .flatMap((outcome) => {
      const words = lost.filter(([, one]) => one.outcome === outcome).map(([, { what }]) => lower(what));
      return words.length ? [`${VERB[outcome]} ${listed(words)}`] : [];
    });
  return `${version} is the oldest that keeps all that can be kept; ${older.version} ${listed(verbs)}.`;
}

const lower = (text: string): string => text.charAt(0).toLowerCase() + text.slice(1);
const listed = (words: readonly string[]): string =>
  words.length < 2 ? words.join('') : `${words.slice(0, -1).join(', ')} and ${words.at(-1)!}`;
