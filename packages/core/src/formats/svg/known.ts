/**
 * What is known of the properties and attributes of a drawing (SVG 1.1, SVG 2, CSS). Whatever is in no list here is not
 * understood where it stands: only what is listed as seen by nobody may be passed over.
 */
import { inUserUnits } from './lengths';

/** Where a property counts: for anything that is drawn, for lines, for texts, or for the whole drawing alone. */
type Where = 'any' | 'line' | 'text' | 'root';
/** A property that a master has no place for: the values that change nothing, and what it is called. */
interface Effect {
  readonly where: Where;
  readonly plain: RegExp;
  readonly words: string;
}
type Known = 'read' | 'unseen' | Effect;

const list = (names: string, known: Known): [string, Known][] => names.split(/\s+/).map((name) => [name, known]);
const effect = (where: Where, words: string, names: string, plain: RegExp): [string, Known][] =>
  list(names, { where, plain, words });
const NONE = /^none$/;

const PROPERTIES: ReadonlyMap<string, Known> = new Map([
  ...list(
    `fill fill-rule clip-rule stroke stroke-width font-family font-size font-weight font-style text-anchor visibility color
    fill-opacity stroke-opacity stroke-dasharray stroke-dashoffset stroke-linecap stroke-linejoin stroke-miterlimit paint-order
    xml:space marker-start marker-mid marker-end marker opacity display clip-path mask mix-blend-mode stop-color stop-opacity
    mask-type font`,
    'read',
  ),
  ...list(
    `clip cursor pointer-events shape-rendering color-rendering text-rendering color-interpolation-filters enable-background
    isolation will-change transition transition-property transition-duration transition-delay transition-timing-function
    touch-action user-select color-profile flood-color flood-opacity lighting-color solid-color solid-opacity line-height
    white-space text-align text-indent font-synthesis font-optical-sizing font-language-override text-decoration-color
    text-decoration-style text-decoration-thickness text-decoration-skip-ink text-underline-offset text-underline-position
    hyphens word-break overflow-wrap word-wrap line-break tab-size quotes orphans widows text-overflow text-size-adjust
    margin margin-top margin-right margin-bottom margin-left padding padding-top padding-right padding-bottom padding-left
    box-sizing vertical-align float position top left right bottom z-index object-fit max-width min-width max-height min-height
    overflow overflow-x overflow-y caret-color accent-color appearance resize scroll-behavior font-smoothing
    text-align-last text-decoration-skip tap-highlight-color transform-origin transform-box`,
    'unseen',
  ),
  ...effect('any', 'filter', 'filter backdrop-filter', NONE),
  ...effect('any', 'transform by style', 'transform translate rotate scale offset-path', NONE),
  ...effect('any', 'animation', 'animation animation-name', NONE),
  ...effect(
    'any',
    'pixels shown otherwise',
    'image-rendering',
    /^(auto|optimizequality|optimizespeed|smooth|high-quality|inherit)$/i,
  ),
  ...effect('any', 'colours mixed otherwise', 'color-interpolation', /^(auto|srgb)$/i),
  ...effect('any', 'all properties at once', 'all', /^$/),
  ...effect('line', 'line width that does not scale', 'vector-effect', NONE),
  ...effect('root', 'ground by style', 'background background-color background-image', /^(none|transparent)$/),
  ...effect('root', 'edge by style', 'border border-style outline box-shadow', /^(none|0)$/),
  ...effect('text', 'letter spacing', 'letter-spacing', /^(normal|[+-]?[\d.]+(px|pt|pc|mm|cm|in|em|ex|rem|%)?)\s*$/i),
  ...effect('text', 'word spacing', 'word-spacing', /^(normal|0(px|em)?)$/),
  ...effect('text', 'text with a line', 'text-decoration text-decoration-line', /^none\b/),
  ...effect('text', 'shifted baseline', 'baseline-shift', /^(baseline|0(px|%)?)$/),
  ...effect('text', 'baseline', 'dominant-baseline alignment-baseline', /^(auto|alphabetic|baseline|no-change|use-script)$/),
  ...effect('text', 'writing direction', 'writing-mode', /^(lr-tb|lr|horizontal-tb)$/),
  ...effect('text', 'writing from right to left', 'direction', /^ltr$/),
  ...effect('text', 'writing direction', 'unicode-bidi', /^(normal|embed|isolate|plaintext)$/),
  ...effect(
    'text',
    'turned letters',
    'text-orientation glyph-orientation-vertical glyph-orientation-horizontal',
    /^(mixed|auto|0(deg)?)$/,
  ),
  ...effect('text', 'narrow or wide letters', 'font-stretch font-width', /^(normal|100%)$/),
  ...effect(
    'text',
    'other forms of letters',
    `font-variant font-variant-caps font-variant-position font-variant-east-asian font-variant-numeric font-variant-alternates
    font-variant-ligatures font-feature-settings font-variation-settings font-palette`,
    /^(normal|none|no-contextual|common-ligatures)$/,
  ),
  ...effect('text', 'letters set closer', 'font-kerning kerning', /^(auto|normal)$/),
  ...effect('text', 'letters sized otherwise', 'font-size-adjust', NONE),
  ...effect('text', 'letters by another case', 'text-transform', NONE),
  ...effect('text', 'letters with a shadow or marks', 'text-shadow text-emphasis text-emphasis-style text-combine-upright', NONE),
  ...effect('text', 'text that flows', 'inline-size shape-inside shape-subtract columns', /^(auto|none|0)$/),
]);

/** Properties of what holds it that reach what is in it (SVG 1.1, Appendix N; CSS). */
const STAYS = new Set(
  `opacity display clip-path mask filter backdrop-filter mix-blend-mode vector-effect stop-color stop-opacity mask-type transform
  translate rotate scale offset-path animation animation-name all baseline-shift alignment-baseline unicode-bidi`.split(/\s+/),
);
export const isInherited = (name: string): boolean => {
  const known = PROPERTIES.get(name);
  return known !== undefined && known !== 'unseen' && !STAYS.has(name) && !(typeof known === 'object' && known.where === 'root');
};

/** Properties that are never attributes, so that an attribute of that name is another thing or nothing. */
const STYLE_ALONE = new Set(['translate', 'rotate', 'scale', 'all', 'transform', 'font']);
/** Whether an attribute says a property (SVG 1.1, 6.1). */
export const isPresentation = (name: string): boolean => PROPERTIES.has(name) && !STYLE_ALONE.has(name);

/** Properties of CSS that say the shape of an element (SVG 2, 7.4 and 9), by the elements that they count for. */
const GEOMETRY: Readonly<Record<string, readonly string[]>> = {
  rect: ['x', 'y', 'width', 'height', 'rx', 'ry'],
  circle: ['cx', 'cy', 'r'],
  ellipse: ['cx', 'cy', 'rx', 'ry'],
  image: ['x', 'y', 'width', 'height'],
  use: ['x', 'y', 'width', 'height'],
  svg: ['x', 'y', 'width', 'height'],
  path: ['d'],
};
/** Attributes of shapes and pictures that are single lengths. */
const LENGTHS = ['x', 'y', 'width', 'height', 'cx', 'cy', 'r', 'rx', 'ry', 'x1', 'y1', 'x2', 'y2'];
const ANY_GEOMETRY = new Set(Object.values(GEOMETRY).flat());

type Attributes = Readonly<Record<string, string>>;

/** The attributes of an element with what its style says of its shape in their place; itself where that is nothing. */
export function withGeometry<T extends { readonly name: string; readonly attributes: Attributes }>(
  element: T,
  properties: Attributes,
): T {
  const { attributes } = element;
  const said: Record<string, string> = {};
  for (const name of GEOMETRY[element.name] ?? []) {
    if (!(name in properties) || properties[name] === 'auto') continue;
    const value = properties[name]!;
    said[name] = name === 'd' ? (/^path\(\s*['"](.*)['"]\s*\)$/.exec(value)?.[1] ?? '') : value;
  }
  for (const name of LENGTHS) {
    const value = said[name] ?? attributes[name];
    if (value !== undefined && /[\d.]\s*r?e[mx]\s*$/i.test(value))
      said[name] = inUserUnits(value, Number.parseFloat(properties['font-size'] ?? '16'));
  }
  for (const _ in said) return { ...element, attributes: { ...attributes, ...said } };
  return element;
}

/** Attributes that are read where they count, or that nobody sees. */
const ATTRIBUTES = new Set(
  `id class style lang tabindex role focusable x y width height rx ry cx cy r x1 y1 x2 y2 points d href viewBox preserveAspectRatio
  transform transform-origin transform-box dx dy rotate textLength lengthAdjust pathLength version baseProfile zoomAndPan
  contentScriptType contentStyleType requiredFeatures externalResourcesRequired target rel type media download hreflang ping
  referrerpolicy crossorigin decoding loading fetchpriority title name xmlns slot part itemscope itemprop autofocus nonce space
  xml:space offset gradientTransform`.split(/\s+/),
);
/** Conditions (SVG 1.1, 5.8.2) that a reader of a drawing can't decide: another viewer may show it, or not. */
const CONDITIONS: Readonly<Record<string, string>> = {
  systemLanguage: 'shown in some languages only',
  requiredExtensions: 'shown by some programs only',
};

/** Values that take over, or take back, whatever the property is (CSS Cascade 4, 7.3). */
const WIDE = /^(inherit|initial|unset|revert|revert-layer)$/;
/** Values that are only known once something is reckoned (CSS Values 4). */
const RECKONED = /(^|[^-\w])(var|calc|env|attr|min|max|clamp|round|light-dark|if)\(/;
/** What an unknown property may say without doing anything. */
const IDLE = /^(none|auto|normal|0|inherit|initial|unset)$/;

/** A property as it is called without the prefix of a program. */
const unprefixed = (name: string): string => name.replace(/^-(webkit|moz|ms|o|khtml)-/, '');

function wordsFor(property: string, value: string, where: ReadonlySet<Where>): string | null {
  const name = unprefixed(property);
  // Variables say nothing until somebody uses them; notes of other programs have a prefix of theirs.
  if (name.startsWith('-')) return null;
  const known = PROPERTIES.get(name);
  if (known === 'unseen') return null;
  const reckoned = RECKONED.test(value);
  if (ANY_GEOMETRY.has(name)) {
    if (where.has('root') && /^(width|height)$/.test(name))
      return /^(auto|[\d.]+%|[\d.]+v[wh])$/.test(value) ? null : 'size by style';
    return reckoned ? `reckoned value of ${name}` : null;
  }
  if (known === undefined) return IDLE.test(value.trim()) ? null : `style property ${name}`;
  if (known === 'read') return reckoned || /^revert/.test(value) ? `reckoned value of ${name}` : null;
  if (name === 'all') return known.words;
  if (!where.has(known.where) || known.plain.test(value.trim().toLowerCase()) || WIDE.test(value)) return null;
  // A name or a number says what it is without taking much room.
  return /^[a-z-]+$/.test(value) && known.where !== 'root' ? `${known.words} (${value})` : known.words;
}

const ANY: ReadonlySet<Where> = new Set(['any']);
export const OF_LINES: ReadonlySet<Where> = new Set(['line']);
const OF_TEXTS: ReadonlySet<Where> = new Set(['any', 'text']);
const OF_ROOTS: ReadonlySet<Where> = new Set(['any', 'root']);
const where = (element: string): ReadonlySet<Where> =>
  element === 'text' || element === 'tspan' ? OF_TEXTS : element === 'svg' ? OF_ROOTS : ANY;

const noted = new WeakMap<Attributes, Map<ReadonlySet<Where>, readonly string[]>>();

/** Properties in force that are not understood, each in words: "narrow or wide letters (condensed)". */
export function unknownProperties(properties: Attributes, of: ReadonlySet<Where>): readonly string[] {
  let known = noted.get(properties);
  if (!known) noted.set(properties, (known = new Map()));
  let found = known.get(of);
  if (!found) {
    const words = Object.entries(properties).map(([name, value]) => wordsFor(name, value, of));
    known.set(of, (found = words.filter((one) => one !== null)));
  }
  return found;
}

/** What of an element is not understood: attributes, and properties in force that count for it. */
export function unknownIn(
  { name, attributes }: { readonly name: string; readonly attributes: Attributes },
  properties: Attributes,
): readonly string[] {
  let found: string[] | undefined;
  const note = (words: string) => void (found ??= []).push(words);
  for (const attribute in attributes) {
    if (ATTRIBUTES.has(attribute) || isPresentation(attribute)) continue;
    if (attribute in CONDITIONS) note(CONDITIONS[attribute]!);
    else if (/^on[a-z]+$/.test(attribute)) note('script');
    else if (!/:|^(data|aria)-/.test(attribute)) note(`attribute ${attribute}`);
  }
  const origin = attributes['transform-origin'] ?? properties['transform-origin'];
  if (origin && attributes['transform'] && !/^0(px|%)?\s+0(px|%)?$/.test(origin.trim())) note('turned about a place of its own');
  const own = unknownProperties(properties, where(name));
  return found ? [...found, ...own] : own;
}
