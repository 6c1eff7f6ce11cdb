import type { Box } from '../../base/geometry/measure';
import { type Difference, byImportance, difference } from '../../contracts/difference';
import type { CompareSettings, Comparison } from '../../contracts/kind';
import { cropBetween, shiftBetween } from './align';
import { bands } from '../../evaluate/pictures/rows';
import type { Rows } from '../../contracts/pictures';
import type { RasterCarries } from './features';
import { Eye } from './pixels';
import { type Raster, pitchOf } from '../../contracts/raster';
import { type Region, Regions, TILE } from './regions';
import { curveBetween, curveInWords } from './tones';

/** Colours that differ by less look the same, ΔE (CIEDE2000). */
const LIMIT = 1;
/** Regions that are told one by one; the rest are told together. */
const MOST = 40;
/** Where it differs, no loss of a format makes a picture as much another on average, ΔE. */
const ANOTHER = 15;
/** A share of tiles in which pixels differ that speaks of the whole picture. */
const ALL_OVER = 0.5;
/** A share of tiles that do so too, where nearly every pixel is a little off. */
const MANY = 0.1;

/**
 * Compares pixels with pixels: size first, then whether the whole has slipped or was recoloured or packed otherwise, and then
 * region by region. No mean decides: a single pixel that looks otherwise is a difference.
 */
export function compareRasters(master: Raster, copy: Raster, { carries }: CompareSettings<RasterCarries>): Comparison {
  const about = aboutDifferences(master, copy, carries);
  const { width, height } = master.rows;
  const tiles = Math.ceil(width / TILE) * Math.ceil(height / TILE);
  const of = (differences: Difference[], equal: number): Comparison => ({
    differences: [...about, ...differences].sort(byImportance),
    outlines: tiles,
    equal,
    counted: 'tiles',
  });
  if (width !== copy.rows.width || height !== copy.rows.height) return of([sizeDifference(master.rows, copy.rows)], 0);
  const { regions, over, unlike } = look(master.rows, copy.rows);
  if (!over) return of([], tiles);
  const pitch = pitchOf(master);
  const whole: Box = { minX: 0, minY: 0, maxX: width * pitch, maxY: height * pitch };
  const equal = tiles - regions.size;
  const shift = shiftBetween(master.rows, copy.rows);
  if (shift) {
    const [dx, dy] = shift;
    const words = `${dx} to the right and ${-dy} up`;
    return of(
      [
        difference('shifted', 'The picture', {
          place: whole,
          amount: Math.hypot(dx, dy),
          unit: 'px',
          master: 'in its place',
          copy: words,
        }),
      ],
      equal,
    );
  }
  const joined = regions.joined();
  const worst = joined.reduce((most, region) => Math.max(most, region.worst), 0);
  const mean = joined.reduce((sum, region) => sum + region.sum, 0) / over;
  const every = unlike > ALL_OVER * width * height;
  if (regions.size > ALL_OVER * tiles || (every && regions.size > MANY * tiles)) {
    const curve = curveBetween(master.rows, copy.rows);
    if (curve) {
      const words = curveInWords(curve);
      return of(
        [
          difference('recoloured overall', 'The picture', {
            place: whole,
            amount: worst,
            unit: 'ΔE',
            master: 'as it is',
            copy: words,
          }),
        ],
        equal,
      );
    }
    const isAnother = mean > ANOTHER;
    const packed = difference(isAnother ? 'picture changed' : 're-compressed', 'The picture', {
      place: whole,
      amount: worst,
      unit: 'ΔE',
      master: isAnother ? 'as it is' : 'as our writer makes it',
      copy: `${isAnother ? 'another picture: ' : ''}in ${joined.length} places, on average ΔE ${mean.toFixed(2)} off where it differs`,
    });
    // What stands out of the grain of such a loss is told by itself.
    return of(
      [packed, ...standingOut(master.rows, copy.rows, mean).map((region, i) => regionDifference(region, i, pitch, height))],
      equal,
    );
  }
  return of(regionDifferences(joined, pitch, height), equal);
}

/** Looks at all pixels. @param over ΔE from which a pixel counts */
function look(master: Rows, copy: Rows, over = LIMIT): { regions: Regions; over: number; unlike: number } {
  const { width } = master;
  const regions = new Regions(width);
  let [found, unlike] = [0, 0];
  for (const [top, count] of bands(master, copy)) {
    const eye = new Eye(master.rows(top, count), copy.rows(top, count));
    for (let y = top, i = 0; y < top + count; y++)
      for (let x = 0; x < width; x++, i += 4) {
        if (eye.same(i, i)) continue;
        unlike++;
        const amount = eye.apart(i, i);
        if (amount <= over) continue;
        found++;
        regions.add(x, y, amount);
      }
  }
  return { regions, over: found, unlike };
}

/** Regions that differ by far more than a picture does everywhere. */
function standingOut(master: Rows, copy: Rows, mean: number): Region[] {
  const { regions } = look(master, copy, Math.max(6 * mean, 12));
  return regions
    .joined()
    .filter(({ count }) => count > 12)
    .slice(0, MOST);
}

function aboutDifferences(master: Raster, copy: Raster, carries: RasterCarries): Difference[] {
  const found: Difference[] = [];
  const report = (kind: Difference['kind'], what: string, one: string, other: string) =>
    found.push(difference(kind, what, { master: one, copy: other }));
  if (carries['colour profile'] !== 'left out' && master.profile !== copy.profile)
    report('profile dropped', 'Colour profile', master.profile ?? 'none', copy.profile ?? 'none');
  if (master.alpha && !copy.alpha) report('transparency lost', 'Transparency', 'see-through in places', 'see-through nowhere');
  if (carries.depth === 'kept' && master.depth !== copy.depth)
    report('depth changed', 'Bits per colour', `${master.depth}`, `${copy.depth}`);
  if (carries.density !== 'left out' && Math.abs((master.ppi ?? 0) - (copy.ppi ?? 0)) > 0.6)
    report('density changed', 'Density', `${master.ppi ?? 'none'} ppi`, copy.ppi === null ? 'none' : `${copy.ppi} ppi`);
  return found;
}

function sizeDifference(master: Rows, copy: Rows): Difference {
  const [size, other] = [`${master.width} × ${master.height}`, `${copy.width} × ${copy.height}`];
  const crop = cropBetween(master, copy);
  if (crop) {
    const [left, top] = crop;
    const [right, bottom] = [master.width - copy.width - left, master.height - copy.height - top];
    const words = `${other} px, without ${left} left, ${top} above, ${right} right, ${bottom} below`;
    return difference('cropped', 'The picture', {
      amount: Math.max(left, top, right, bottom),
      unit: 'px',
      master: `${size} px`,
      copy: words,
    });
  }
  const factor = copy.width / master.width;
  const alike = Math.abs(copy.height - master.height * factor) <= 1;
  return difference(alike ? 'resampled' : 'cropped', 'The picture', {
    amount: alike ? factor : null,
    unit: alike ? '×' : '',
    master: `${size} px`,
    copy: `${other} px`,
  });
}

function regionDifference(region: Region, i: number, pitch: number, height: number): Difference {
  const { left, top, right, bottom, count, worst, sum } = region;
  const place = { minX: left * pitch, minY: (height - bottom) * pitch, maxX: right * pitch, maxY: (height - top) * pitch };
  const area = count * pitch * pitch;
  return difference('region changed', `Region ${i + 1}`, {
    place,
    amount: worst,
    unit: 'ΔE',
    master: `${right - left} × ${bottom - top} px`,
    copy: `${area.toPrecision(3)} mm² differ, on average ΔE ${(sum / count).toFixed(1)}`,
  });
}

function regionDifferences(regions: readonly Region[], pitch: number, height: number): Difference[] {
  const told = regions.slice(0, MOST).map((region, i) => regionDifference(region, i, pitch, height));
  const rest = regions.slice(MOST);
  if (!rest.length) return told;
  const all = rest.reduce((one, other) => ({
    left: Math.min(one.left, other.left),
    top: Math.min(one.top, other.top),
    right: Math.max(one.right, other.right),
    bottom: Math.max(one.bottom, other.bottom),
    count: one.count + other.count,
    worst: Math.max(one.worst, other.worst),
    sum: one.sum + other.sum,
  }));
  return [...told, { ...regionDifference(all, MOST, pitch, height), what: `${rest.length} more regions`, count: rest.length }];
}
