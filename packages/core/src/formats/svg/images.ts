import type { StandingPicture } from './reading';
import { fromBase64 } from '../../base/bytes/base64';
import { asFailure } from '../../base/failure/failure';
import { type Matrix, apply, invert, multiply } from '../../base/geometry/matrix';
import { type PictureEngine, drawnPicture } from '../../contracts/pictures';
import { type Around, type SvgReading, axesOf, titleOf } from './reading';
import { parseLength } from './lengths';
import type { Properties } from './properties';
import { shareOf } from './style';
import { fitViewBox } from './viewport';
import type { XmlElement } from './xml-element';

const hrefOf = ({ attributes }: XmlElement): string => (attributes['href'] ?? attributes['xlink:href'] ?? '').trim();
/** Some programs leave out what it is: its first bytes tell. */
const DATA = /^data:(?:image\/[a-z0-9.+-]+)?(?:;[a-z-]+=[^;,]*)*;base64,/i;

/** References to all pictures that stand in a document as data. */
function standingIn(element: XmlElement, found = new Set<string>()): Set<string> {
  if (element.name === 'image' && DATA.test(hrefOf(element))) found.add(hrefOf(element));
  for (const child of element.children) if (typeof child !== 'string') standingIn(child, found);
  return found;
}

/** Opens the pictures that stand in a document, one after the other. @returns at once where there are none */
export function openPictures(
  root: XmlElement,
  engine: PictureEngine | undefined,
): ReadonlyMap<string, StandingPicture> | Promise<ReadonlyMap<string, StandingPicture>> {
  const found = engine ? standingIn(root) : new Set<string>();
  const opened = new Map<string, StandingPicture>();
  if (!found.size) return opened;
  return (async () => {
    for (const href of found) {
      try {
        const bytes = fromBase64(href.slice(href.indexOf(',') + 1));
        if (/^data:image\/svg/i.test(href)) opened.set(href, 'drawing inside the drawing');
        else opened.set(href, await drawnPicture(engine!, bytes));
      } catch (error) {
        opened.set(href, `picture that can’t be opened (${asFailure(error).code})`);
      }
    }
    return opened;
  })();
}

/** A rectangle of user units. */
type Window = readonly [left: number, top: number, right: number, bottom: number];

/** Reads an `image` (SVG 1.1, 5.7). @param window what of it is seen, where a viewport cuts it off */
export function readImage(
  element: XmlElement,
  properties: Properties,
  around: Around,
  reading: SvgReading,
  window?: Window,
): void {
  const { viewport, tally, sink } = reading;
  const href = hrefOf(element);
  if (!href) return;
  if (['width', 'height'].some((side) => parseLength(element.attributes[side], 1) === 0))
    return tally.addUnseen('picture without a size');
  const picture = reading.pictures.get(href);
  if (typeof picture !== 'object') {
    tally.add(
      picture ??
        (DATA.test(href)
          ? 'picture'
          : href.startsWith('data:')
            ? 'picture of a kind that is not known'
            : 'picture in another file'),
    );
    return;
  }
  const { userWidth, userHeight } = viewport;
  const length = (name: string, whole: number) => parseLength(element.attributes[name], whole);
  const [x, y] = [length('x', userWidth) ?? 0, length('y', userHeight) ?? 0];
  const ratio = picture.width / picture.height;
  const [w, h] = [length('width', userWidth), length('height', userHeight)];
  // A side that is not said follows from the other (SVG 2, 12.3).
  const width = w ?? (h === undefined ? picture.width : h * ratio);
  const height = h ?? width / ratio;
  if (!(width > 0 && height > 0)) return;
  const [sx, , , sy, left, top] = fitViewBox(
    [0, 0, picture.width, picture.height],
    width,
    height,
    element.attributes['preserveAspectRatio'],
  );
  const [px, py, pw, ph] = [x + left, y + top, picture.width * sx, picture.height * sy];
  const cut = (low: number, high: number, from: number, to: number) => [Math.max(low, from), Math.min(high, to)] as const;
  let [from, to] = cut(px, px + pw, x, x + width);
  let [above, below] = cut(py, py + ph, y, y + height);
  if (window) {
    [from, to] = cut(from, to, window[0], window[2]);
    [above, below] = cut(above, below, window[1], window[3]);
  }
  if (!(to - from > 1e-9 * pw && below - above > 1e-9 * ph)) return;
  const whole = multiply(viewport.toBoard, axesOf(element, around));
  // Shares run upwards, user units down.
  const at: Matrix = multiply(whole, [pw, 0, 0, -ph, px, py + ph]);
  const near = (share: number) => (Math.abs(share) < 1e-7 ? 0 : Math.abs(share - 1) < 1e-7 ? 1 : share);
  const crop = {
    left: near((from - px) / pw),
    right: near((to - px) / pw),
    bottom: near(1 - (below - py) / ph),
    top: near(1 - (above - py) / ph),
  };
  sink.picture(picture, at, crop, around.layer, shareOf(properties['opacity']), titleOf(element));
}

/** What of its own axes a viewport shows. @param inner from its axes to those around, where it stands */
export function windowOf(element: XmlElement, inner: Matrix, { viewport }: SvgReading): Window | undefined {
  const { attributes } = element;
  if (/^(visible|auto)$/.test(attributes['overflow'] ?? '')) return undefined;
  const x = parseLength(attributes['x'], viewport.userWidth) ?? 0;
  const y = parseLength(attributes['y'], viewport.userHeight) ?? 0;
  const width = parseLength(attributes['width'], viewport.userWidth) ?? viewport.userWidth;
  const height = parseLength(attributes['height'], viewport.userHeight) ?? viewport.userHeight;
  const back = invert(inner);
  if (!back) return undefined;
  const [left, top] = apply(back, [x, y]);
  const [right, bottom] = apply(back, [x + width, y + height]);
  return [left, top, right, bottom];
}
