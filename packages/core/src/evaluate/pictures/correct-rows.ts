import { Failure } from '../../base/failure/failure';
import type { Correction } from '../../document/corrections';
import { blurReach } from './blur';
import { correct } from './correct';
import { heldRows, madeRows } from './rows';
import type { Rows } from '../../contracts/pictures';

/** Corrections that look at all of a picture at once. */
const OF_ALL: ReadonlySet<Correction['kind']> = new Set(['straighten', 'cut-out']);

/** Rows above and below that a corrected row depends on. */
const reachOf = (one: Correction): number => (one.kind === 'blur' || one.kind === 'sharpen' ? blurReach(one.radius) : 0);

/**
 * Rows of a picture with its corrections; of one that is too large to be held, band by band.
 * @throws Failure `picture-too-large` where a correction looks at all of such a picture
 */
export function correctRows(source: Rows, corrections: readonly Correction[]): Rows {
  const acting = corrections.filter(({ off }) => !off);
  if (!acting.length) return source;
  if (source.held) return heldRows(correct(source.held, acting));
  const whole = acting.find(({ kind }) => OF_ALL.has(kind));
  if (whole)
    throw new Failure(
      'picture-too-large',
      `A picture of ${source.width} × ${source.height} pixels is worked on in bands, and “${whole.kind}” looks at all of it at once. Make it smaller first, or switch that off.`,
    );
  const reach = acting.reduce((sum, one) => sum + reachOf(one), 0);
  return madeRows(source, (band) => correct(band, acting), reach);
}
