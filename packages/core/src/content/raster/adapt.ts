import { CarryLines } from '../../contracts/report';
import { Failure } from '../../base/failure/failure';
import { isPicture } from '../../document/paint';
import type { ResolvedBoard } from '../../evaluate/resolve';
import { correctRows } from '../../evaluate/pictures/correct-rows';
import { type Encoding, losesSomething } from '../../document/picture-encoding';
import type { PictureEngine, Pixels } from '../../contracts/pictures';
import { bytesOfResource } from '../../evaluate/pictures/made';
import { fullOf, partsOf } from '../../evaluate/pictures/tones';
import { atDepth } from '../../evaluate/pictures/depth';
import { bands, madeRows } from '../../evaluate/pictures/rows';
import type { Rows } from '../../contracts/pictures';
import { pictureOf } from '../../document/picture-word';
import type { Services } from '../../contracts/services';
import { adaptDrawing } from '../drawing/adapt';
import type { DrawingCarries } from '../drawing/features';
import { type RasterCarries, rasterFeatures } from './features';
import type { Raster } from '../../contracts/raster';

const INCH = 25.4;
/** Where a board has no picture. */
const USUAL_PPI = 300;
/** Pixels of a copy; many are made and written band by band. */
const MOST = 450_000_000;

/** All that a board shows, drawn as it is; letters as outlines, which need no font. */
const SEEN: DrawingCarries = {
  outlines: 'kept',
  arcs: 'kept',
  curves: 'kept',
  text: { outcome: 'restated', words: '', when: 'always' },
  fills: 'kept',
  gradients: 'kept',
  patterns: 'kept',
  pictures: 'kept',
  'line colours': 'kept',
  'line widths': 'kept',
  dashes: 'kept',
  'line ends': 'kept',
  pens: 'kept',
  opacity: 'kept',
  blending: 'kept',
  clips: 'kept',
  masks: 'kept',
  symbols: { outcome: 'restated', words: 'are seen like everything else' },
  'layer names': 'left out',
  'layer colours': 'left out',
  'board size': 'kept',
  sheets: 'kept',
  'board names': 'left out',
  background: 'kept',
  order: 'kept',
};

interface Shown {
  readonly resource: string;
  /** Board millimetres that it is wide. */
  readonly width: number;
}

/** The pictures of a board, patterns and masks left aside. */
const picturesOn = ({ entries }: ResolvedBoard): Shown[] =>
  entries.flatMap(({ style: { fill } }) =>
    isPicture(fill) ? [{ resource: pictureOf(fill.picture).resource, width: Math.hypot(fill.at[0], fill.at[1]) }] : [],
  );

/** Pixels per inch of the sharpest picture of a board. */
async function densestOf(resolved: ResolvedBoard, services: Services, engine: PictureEngine): Promise<number> {
  let densest = 0;
  for (const { resource, width } of picturesOn(resolved)) {
    const facts = await engine.facts(await bytesOfResource(resource, services));
    densest = Math.max(densest, facts.width / (width / INCH));
  }
  return densest || USUAL_PPI;
}

/** The word of the picture that is all that a board shows, and fills it; null where there is more to it. */
function onlyPicture({ entries, spans, board, hidden }: ResolvedBoard): string | null {
  const [entry] = entries;
  if (entries.length !== 1 || spans.length || hidden.length || board.background || entry!.style.opacity !== 1) return null;
  const { fill } = entry!.style;
  if (!isPicture(fill)) return null;
  const [a, b, c, d, e, f] = fill.at;
  const within = 1e-6 * Math.max(board.width, board.height);
  const fills = [a - board.width, b, c, d - board.height, e, f].every((off) => Math.abs(off) < within);
  return fills ? fill.picture : null;
}

/** The share of pixels that let something through. */
function throughOf(rows: Rows): number {
  let through = 0;
  for (const [top, count] of bands(rows)) {
    const pixels = rows.rows(top, count);
    const full = fullOf(pixels);
    for (let i = 3; i < pixels.data.length; i += 4) if (pixels.data[i] !== full) through++;
  }
  return through / (rows.width * rows.height);
}

/** Lays pixels over a colour. */
function flatten(pixels: Pixels, colour: string): Pixels {
  const { data } = pixels;
  const full = fullOf(pixels);
  const under = partsOf(colour).map((part) => part * full);
  const out = data.slice();
  for (let i = 0; i < out.length; i += 4) {
    const alpha = out[i + 3]! / full;
    if (alpha === 1) continue;
    for (let part = 0; part < 3; part++) out[i + part] = Math.round(out[i + part]! * alpha + under[part]! * (1 - alpha));
    out[i + 3] = full;
  }
  return { ...pixels, data: out };
}

/** A board as pixels. @throws Failure `picture-too-large`, `no-pictures` where nothing is at hand that draws */
export async function adaptRaster(
  resolved: ResolvedBoard,
  carries: RasterCarries,
  lines: CarryLines,
  services: Services,
): Promise<Raster> {
  const engine = services.pictures;
  if (!engine) throw new Failure('no-pictures', 'Pixels are made where pictures can be drawn; here they can’t.');
  const { board, entries, hidden } = resolved;
  const how = carries.pixels as Extract<RasterCarries['pixels'], object>;
  const own = how.ppi || (await densestOf(resolved, services, engine));
  const width = how.width || Math.max(1, Math.round((board.width / INCH) * own));
  const height = Math.max(1, Math.round((width * board.height) / board.width));
  if (width * height > MOST || width > 65_000 || height > 65_000)
    throw new Failure(
      'picture-too-large',
      `The copy would have ${width} × ${height} pixels; at most ${MOST / 1e6} million are made. Ask for fewer pixels per inch.`,
      { node: board.id },
    );
  const ppi = Math.round((width / (board.width / INCH)) * 1000) / 1000;
  const encoding: Encoding = { ...how.encoding, ppi };
  const said = lines.line('pixels', 'restated', rasterFeatures.pixels.words, `becomes ${width} × ${height} pixels`);
  for (const { source } of entries) {
    lines.take(source);
    said(source);
  }
  const isHidden = lines.line('hidden', 'left out', 'Objects on hidden layers', 'hidden in the master');
  for (const id of hidden) {
    lines.take(id);
    isHidden(id);
  }
  const drawn = await draw(resolved, { width, height, depth: encoding.depth }, services, engine);
  let rows = drawn.depth === encoding.depth ? drawn : madeRows(drawn, (band) => atDepth(band, encoding.depth));
  rows = await engine.laidDown(rows);
  const share = throughOf(rows);
  let alpha = encoding.alpha;
  if (typeof carries.transparency === 'object') {
    const { over } = carries.transparency;
    if (share > 0) {
      rows = await engine.laidDown(madeRows(rows, (band) => flatten(band, over)));
      const percent = Number((100 * share).toPrecision(2));
      lines.line('transparency', 'approximated', 'Transparency', `becomes ${over} on ${percent} % of the area`)(board.id);
    }
  } else alpha = alpha && share > 0;
  if (encoding.depth === 16 && drawn.depth === 8)
    lines.line('depth', 'approximated', rasterFeatures.depth.words, 'are drawn as 8 and spread over 16')(board.id);
  if (encoding.depth === 8 && drawn.depth === 16)
    lines.line('depth', 'approximated', rasterFeatures.depth.words, 'are rounded to 8')(board.id);
  if (encoding.quality !== null)
    lines.line(
      'compression',
      'approximated',
      rasterFeatures.compression.words,
      `is lost a little at quality ${encoding.quality}`,
    )(board.id);
  const base = { alpha, depth: encoding.depth, profile: encoding.profile, ppi };
  if (!losesSomething(encoding)) return { rows, ...base };
  // What the format makes of these very pixels is what the copy says: nothing more is forgiven.
  const packed = await engine.encode(rows, { ...encoding, alpha });
  return { rows: (await engine.raster(packed)).rows, ...base, packed };
}

/** The picture that was corrected last: copies of a picture are made and checked one after the other. */
let last: { readonly word: string; readonly deep: boolean; readonly rows: Rows } | undefined;
/** Pixels beyond which it is not held on to. */
const HELD = 30_000_000;

async function corrected(word: string, depth: 8 | 16, services: Services, engine: PictureEngine): Promise<Rows> {
  const { resource, corrections } = pictureOf(word);
  const deep = depth === 16 || corrections.length > 0;
  if (last?.word === word && last.deep === deep) return last.rows;
  const bytes = await bytesOfResource(resource, services);
  const rows = correctRows(await engine.rows(bytes, deep ? 16 : 8), corrections);
  last = rows.held && rows.width * rows.height <= HELD ? { word, deep, rows } : undefined;
  return rows;
}

async function draw(
  resolved: ResolvedBoard,
  { width, height, depth }: { width: number; height: number; depth: 8 | 16 },
  services: Services,
  engine: PictureEngine,
): Promise<Rows> {
  const only = onlyPicture(resolved);
  if (only !== null) {
    const rows = await corrected(only, depth, services, engine);
    return rows.width === width && rows.height === height ? rows : engine.resize(rows, width, height);
  }
  return engine.paint(await adaptDrawing(resolved, SEEN, new CarryLines(), services), width, height);
}
