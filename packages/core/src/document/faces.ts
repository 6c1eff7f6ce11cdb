/** A shipped family of fonts, all of them open (SIL Open Font License 1.1). */
interface Family {
  /** What it is called in the world. */
  readonly name: string;
  /** Its package, `@fontsource/…`. */
  readonly home: string;
  readonly generic: 'sans-serif' | 'serif' | 'monospace' | 'cursive';
  /** Height of a capital in ems, of the regular and of the bold letters: measured on the shipped files. */
  readonly caps: readonly [regular: number, bold: number];
  readonly italics: boolean;
  /** Other families that it stands for where they are not at hand: letters of the same widths, or of the same kind. */
  readonly standsFor?: RegExp;
}

/** The families, asked in this order for what stands for another. */
const FAMILIES = [
  { name: 'Commissioner', home: 'commissioner', generic: 'sans-serif', caps: [0.713, 0.713], italics: false },
  {
    name: 'Archivo Narrow',
    home: 'archivo-narrow',
    generic: 'sans-serif',
    caps: [0.686, 0.686],
    italics: true,
    standsFor: /narrow|condensed|\bcond\b/,
  },
  { name: 'Oswald', home: 'oswald', generic: 'sans-serif', caps: [0.81, 0.81], italics: false, standsFor: /impact|gothic/ },
  {
    name: 'Spline Sans Mono',
    home: 'spline-sans-mono',
    generic: 'monospace',
    caps: [0.727, 0.727],
    italics: true,
    standsFor: /sans mono|^monospace$|console|consol/,
  },
  {
    name: 'Courier Prime',
    home: 'courier-prime',
    generic: 'monospace',
    caps: [0.58, 0.58],
    italics: true,
    standsFor: /typewriter/,
  },
  {
    name: 'Cousine',
    home: 'cousine',
    generic: 'monospace',
    caps: [0.659, 0.659],
    italics: true,
    standsFor: /courier|mono/,
  },
  {
    name: 'Zilla Slab',
    home: 'zilla-slab',
    generic: 'serif',
    caps: [0.65, 0.65],
    italics: true,
    standsFor: /slab|egyptian|rockwell|clarendon|charter/,
  },
  {
    name: 'Playfair Display',
    home: 'playfair-display',
    generic: 'serif',
    caps: [0.708, 0.708],
    italics: true,
    standsFor: /bodoni|didot|didone/,
  },
  {
    name: 'Libre Baskerville',
    home: 'libre-baskerville',
    generic: 'serif',
    caps: [0.77, 0.77],
    italics: true,
    standsFor: /baskerville|bookman|century|schoolbook|georgia/,
  },
  {
    name: 'Source Serif 4',
    home: 'source-serif-4',
    generic: 'serif',
    caps: [0.67, 0.657],
    italics: true,
    standsFor: /source serif|garamond|caslon|palatino|minion|vera serif|dejavu serif/,
  },
  {
    name: 'Tinos',
    home: 'tinos',
    generic: 'serif',
    caps: [0.655, 0.655],
    italics: true,
    standsFor: /times|roman|(^|[^-\w])serif|^serif$/,
  },
  {
    name: 'Caveat',
    home: 'caveat',
    generic: 'cursive',
    caps: [0.701, 0.723],
    italics: false,
    standsFor: /cursive|script|hand|brush|comic|fantasy/,
  },
  {
    name: 'Alegreya Sans',
    home: 'alegreya-sans',
    generic: 'sans-serif',
    caps: [0.641, 0.643],
    italics: true,
    standsFor: /optima|humanist|gill/,
  },
  {
    name: 'Work Sans',
    home: 'work-sans',
    generic: 'sans-serif',
    caps: [0.66, 0.66],
    italics: true,
    standsFor: /vera|dejavu|verdana|tahoma|myriad|frutiger/,
  },
  {
    name: 'Arimo',
    home: 'arimo',
    generic: 'sans-serif',
    caps: [0.688, 0.688],
    italics: true,
    standsFor: /arial|helvetica|nimbus sans|liberation sans|sans/,
  },
] as const satisfies readonly Family[];
type FamilyName = (typeof FAMILIES)[number]['name'];

/** A shipped font: a family in one weight, upright or slanted. */
export type FontName = FamilyName | `${FamilyName} Bold` | `${FamilyName} Italic` | `${FamilyName} Bold Italic`;

export interface Face {
  readonly name: FontName;
  readonly family: FamilyName;
  readonly home: string;
  readonly generic: Family['generic'];
  readonly bold: boolean;
  readonly italic: boolean;
  /** Height of a capital in ems: what formats that give text height by its capitals need. */
  readonly capHeight: number;
}

const STYLES = [
  [false, false],
  [true, false],
  [false, true],
  [true, true],
] as const;

const nameOf = (family: string, bold: boolean, italic: boolean): FontName =>
  `${family}${bold ? ' Bold' : ''}${italic ? ' Italic' : ''}` as FontName;

/** Every shipped font, family by family. */
export const FACES: readonly Face[] = FAMILIES.flatMap(({ name, home, generic, caps, italics }) =>
  STYLES.filter(([, italic]) => italics || !italic).map(([bold, italic]): Face => ({
    name: nameOf(name, bold, italic),
    family: name,
    home,
    generic,
    bold,
    italic,
    capHeight: caps[bold ? 1 : 0],
  })),
);

export const FONTS = FACES.map(({ name }) => name) as [FontName, ...FontName[]];

const byName = new Map(FACES.map((face) => [face.name, face]));
export const faceOf = (name: FontName): Face => byName.get(name) ?? FACES[0]!;
export const capHeight = (name: FontName): number => faceOf(name).capHeight;

/** Whether a family is one that ships with the application, as a drawing names it. */
export const isShipped = (family: string): boolean => FACES.some((face) => face.family.toLowerCase() === family.toLowerCase());

/**
 * The shipped font that is asked for, or stands for what is asked for.
 * @param families in the order in which they are wished; none at all asks for nothing special
 * @returns `exact`: whether it is just what was asked for
 */
export function nearestFace(families: readonly string[], bold: boolean, italic: boolean): { font: FontName; exact: boolean } {
  const wished = families.map((one) => one.trim().toLowerCase()).filter(Boolean);
  const own = (name: string): Family | undefined => FAMILIES.find((family) => family.name.toLowerCase() === name);
  const first = wished[0];
  let found = first === undefined ? FAMILIES[0] : own(first);
  const exact = found !== undefined;
  for (const name of wished) found ??= own(name) ?? FAMILIES.find((family: Family) => family.standsFor?.test(name));
  found ??= FAMILIES[0];
  const slanted = italic && found.italics;
  return { font: nameOf(found.name, bold, slanted), exact: exact && slanted === italic };
}
