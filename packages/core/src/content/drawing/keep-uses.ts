import { type Matrix, determinant, isSimilarity, meanScale, multiply, scaling } from '../../base/geometry/matrix';
import type { ResolvedPart, ResolvedSpan, ResolvedUse } from '../../evaluate/resolve';
import type { DrawingCarries } from './features';
import { how, isKept } from './carry';

/** A use that stays one: the symbol as a target holds it, and where that is put. */
interface KeptUse {
  readonly use: ResolvedUse;
  readonly part: ResolvedPart;
  readonly at: Matrix;
}

/** How far from 1 a scale may be that is none. */
const NO_SCALE = 1e-9;

/** The uses of a part that stay uses in a target, in order. */
export function keptUses(part: ResolvedPart, carries: DrawingCarries): KeptUse[] {
  const alike = how(carries.symbols)?.kept === 'alike';
  if (!alike && !isKept(carries.symbols)) return [];
  const spans = new Map<string, ResolvedSpan[]>();
  for (const span of part.spans) {
    const key = `${span.first} ${span.end}`;
    spans.set(key, [...(spans.get(key) ?? []), span]);
  }
  return part.uses.flatMap((use): KeptUse[] => {
    const { first, end, at, inner } = use;
    // What a group does to a single use would be said of what is in the use instead: both at once can't be told apart any more.
    const around = spans.get(`${first} ${end}`)?.some((span) => !inner.includes(span));
    if (around || Math.abs(determinant(at)) < 1e-12) return [];
    if (!alike) {
      const layer = part.entries[first]!.layerId;
      for (let i = first; i < end; i++) if (part.entries[i]!.layerId !== layer) return [];
      return [{ use, part: use.part(1), at }];
    }
    if (!isSimilarity(at, 1e-9) || determinant(at) < 0) return [];
    // Turned uses of one scale differ in the last digits.
    const scale = Number(meanScale(at).toPrecision(12));
    const plain = Math.abs(scale - 1) < NO_SCALE;
    return [{ use, part: use.part(plain ? 1 : scale), at: plain ? at : multiply(at, scaling(1 / scale)) }];
  });
}

/** The objects whose uses stay uses, those inside of symbols too. */
export function keptUseIds(part: ResolvedPart, carries: DrawingCarries, ids: Set<string> = new Set()): Set<string> {
  for (const { use, part: symbol } of keptUses(part, carries)) {
    if (ids.has(use.source)) continue;
    ids.add(use.source);
    keptUseIds(symbol, carries, ids);
  }
  return ids;
}
