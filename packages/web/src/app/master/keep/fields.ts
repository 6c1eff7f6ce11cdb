import { type Item, FONTS } from '@inkwell-twin/core/web';

/** A property that the slip shows: where it is, what it is called, and how it is edited. */
export interface Field {
  readonly attribute: string;
  readonly label: string;
  readonly kind: 'number' | 'text' | 'choice' | 'colour';
  readonly unit?: string;
  readonly choices?: readonly string[];
  /** Smallest value allowed. */
  readonly least?: number;
}

const number = (attribute: string, label: string, least?: number): Field => ({
  attribute,
  label,
  kind: 'number',
  unit: 'mm',
  ...(least === undefined ? {} : { least }),
});
const LOOK: readonly Field[] = [
  { attribute: 'style.fill', label: 'Fill', kind: 'colour' },
  { attribute: 'style.stroke', label: 'Line', kind: 'colour' },
  number('style.strokeWidth', 'Line width', 0),
];

const BY_KIND: Record<Item['kind'], readonly Field[]> = {
  text: [
    { attribute: 'text', label: 'Wording', kind: 'text' },
    { attribute: 'font', label: 'Font', kind: 'choice', choices: FONTS },
    number('size', 'Letter size', 0.1),
    number('x', 'Across'),
    number('y', 'Up'),
    ...LOOK.slice(0, 1),
  ],
  rectangle: [
    number('x', 'Across'),
    number('y', 'Up'),
    number('width', 'Width', 0.01),
    number('height', 'Height', 0.01),
    number('radius', 'Corner radius', 0),
    ...LOOK,
  ],
  ellipse: [
    number('cx', 'Centre across'),
    number('cy', 'Centre up'),
    number('rx', 'Half width', 0.01),
    number('ry', 'Half height', 0.01),
    ...LOOK,
  ],
  polyline: LOOK,
  path: LOOK,
  use: [],
  group: [],
};

/** The fields of an object's slip, by its kind. */
export const fieldsOf = (item: Item): readonly Field[] => BY_KIND[item.kind];

/** The value of an attribute, `style.fill` and the like included. */
export function valueOf(item: Item, attribute: string): unknown {
  const [first, second] = attribute.split('.') as [string, string | undefined];
  const value = (item as unknown as Record<string, unknown>)[first];
  return second ? (value as Record<string, unknown> | undefined)?.[second] : value;
}
