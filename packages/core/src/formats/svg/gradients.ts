import { type Matrix, multiply } from '../../base/geometry/matrix';
import { flattens } from '../../base/geometry/pen';
import { SPREADS, type Stop } from '../../document/paint';
import type { SvgReading } from './reading';
import { chainOf, inherited } from './inherit';
import { parseLength } from './lengths';
import { alphaOf, parseColour, shareOf } from './style';
import { parseTransform } from './transform';
import type { XmlElement } from './xml-element';

/** A gradient element as it is used: by boxes, or in the user units of what is painted (SVG 1.1, 13.2). */
export interface SvgGradient {
  readonly kind: 'linear' | 'radial';
  readonly byBox: boolean;
  /** From the gradient's own plane to those units; null where it shows one colour only. */
  readonly at: Matrix | null;
  readonly focus: readonly [number, number] | undefined;
  readonly spread: (typeof SPREADS)[number] | undefined;
  /** At least one. */
  readonly stops: readonly Stop[];
}

const KINDS: Readonly<Record<string, 'linear' | 'radial'>> = { linearGradient: 'linear', radialGradient: 'radial' };
/** A focus on the circle itself leaves no room for colours on one side. */
const INSIDE = 0.999;

function stopsOf(element: XmlElement, reading: SvgReading): Stop[] {
  const around = reading.sheet.propertiesOf(element, {});
  let least = 0;
  const stops: Stop[] = [];
  for (const child of element.children) {
    if (typeof child === 'string' || child.name !== 'stop') continue;
    const own = reading.sheet.propertiesOf(child, around);
    const text = own['stop-color'] ?? '#000000';
    const current = (own['color'] && parseColour(own['color'])) || '#000000';
    const parsed = parseColour(text, current);
    const opacity = shareOf(own['stop-opacity']) * alphaOf(text) * (parsed === null ? 0 : 1);
    // Offsets only go up (SVG 1.1, 13.2.4).
    least = Math.max(least, shareOf(child.attributes['offset'] ?? '0'));
    stops.push({ offset: least, colour: parsed ?? '#000000', ...(opacity < 1 ? { opacity } : {}) });
  }
  return stops;
}

/** What a gradient element says; null where it has no stops and so paints nothing. @throws Failure `svg-gradient-cycle` */
export function gradientOf(element: XmlElement, reading: SvgReading): SvgGradient | null {
  const chain = chainOf(element, Object.keys(KINDS), reading);
  const holder = chain.find(({ children }) => children.some((child) => typeof child !== 'string' && child.name === 'stop'));
  const stops = holder ? stopsOf(holder, reading) : [];
  if (!stops.length) return null;
  const attribute = (name: string): string | undefined => inherited(chain, name);
  const byBox = attribute('gradientUnits') !== 'userSpaceOnUse';
  const { userWidth, userHeight } = reading.viewport;
  const [across, up] = byBox ? [1, 1] : [userWidth, userHeight];
  const length = (name: string, otherwise: number, whole: number) => parseLength(attribute(name), whole) ?? otherwise * whole;
  const kind = KINDS[element.name]!;
  const turned = parseTransform(attribute('gradientTransform') ?? '');
  let own: Matrix;
  let focus: readonly [number, number] | undefined;
  if (kind === 'linear') {
    const [x1, y1] = [length('x1', 0, across), length('y1', 0, up)];
    const [dx, dy] = [length('x2', 1, across) - x1, length('y2', 0, up) - y1];
    own = [dx, dy, -dy, dx, x1, y1];
  } else {
    const [cx, cy] = [length('cx', 0.5, across), length('cy', 0.5, up)];
    const r = length('r', 0.5, Math.hypot(across, up) / Math.SQRT2);
    const [fx, fy] = [(length('fx', cx / across, across) - cx) / r, (length('fy', cy / up, up) - cy) / r];
    const far = Math.hypot(fx, fy);
    const pull = far > INSIDE ? INSIDE / far : 1;
    // SVG 1.1 brings it back to the edge, later drafts paint a cone, and programs do either.
    if (far > 1 + 1e-6) reading.tally.add('radial gradient from outside its circle');
    if (far > 1e-9) focus = [fx * pull, fy * pull];
    own = [r, 0, 0, r, cx, cy];
    if (attribute('fr') && (parseLength(attribute('fr'), across) ?? 0) > 0) reading.tally.add('radial gradient from a circle');
  }
  const at = multiply(turned, own);
  const spread = SPREADS.find((one) => one === attribute('spreadMethod'));
  return {
    kind,
    byBox,
    at: flattens(at) || stops.length === 1 ? null : at,
    focus,
    spread: spread === 'pad' ? undefined : spread,
    stops,
  };
}

export const isGradientElement = ({ name }: XmlElement): boolean => name in KINDS;
