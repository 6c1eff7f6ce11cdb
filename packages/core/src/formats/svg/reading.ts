import type { Matrix } from '../../base/geometry/matrix';
import type { PathStore } from '../../base/geometry/paths';
import type { DrawnPicture } from '../../contracts/drawn-picture';
import type { Tally } from '../../contracts/tally';
import type { DrawingSink } from '../../content/drawing/sink';
import { multiply } from '../../base/geometry/matrix';
import type { Properties } from './properties';
import type { StyleSheet } from './style';
import { parseTransform } from './transform';
import type { Viewport } from './viewport';
import type { XmlElement } from './xml-element';
import { textOf } from './xml';

/** A picture that stands in a document, or why it can't be shown. */
export type StandingPicture = DrawnPicture | string;

/** What is in force where an element stands. */
export interface Around {
  /** The properties of what holds it. */
  readonly properties: Properties;
  /** From its user units to those of the sheet. */
  readonly matrix: Matrix;
  /** Its layer, by number in the sink. */
  readonly layer: number;
  /** How deep in uses. */
  readonly depth: number;
}

/** What the elements of a document share while it is read. */
export interface SvgReading {
  readonly sink: DrawingSink;
  readonly tally: Tally;
  readonly sheet: StyleSheet;
  readonly ids: ReadonlyMap<string, XmlElement>;
  /** Filled anew for each shape. */
  readonly paths: PathStore;
  readonly viewport: Viewport;
  /** From the board's millimetres to the sheet's user units. */
  readonly fromBoard: Matrix;
  /** Pictures that stand in it, by what refers to them. */
  readonly pictures: ReadonlyMap<string, StandingPicture>;
  /** Defines something to paint with. @throws Failure `svg-use-cycle` where it holds itself */
  defining<T>(element: XmlElement, define: () => T): T;
  /** Reads an element; whatever goes wrong in it gets its line. */
  guarded(element: XmlElement, around: Around): void;
}

/** What a person calls an element: its title, else its id. */
export function titleOf(element: XmlElement): string | undefined {
  const title = element.children.find((child): child is XmlElement => typeof child !== 'string' && child.name === 'title');
  return (title && textOf(title).trim()) || element.attributes['id'] || undefined;
}

export const childrenOf = ({ children }: XmlElement): XmlElement[] =>
  children.filter((child): child is XmlElement => typeof child !== 'string');

/** The axes of an element: those around it, with its own transform. */
export const axesOf = ({ attributes }: XmlElement, { matrix }: Around): Matrix =>
  attributes['transform'] ? multiply(matrix, parseTransform(attributes['transform'])) : matrix;
