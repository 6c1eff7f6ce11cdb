import { Tally } from '../../contracts/tally';
import { PathStore } from '../../base/geometry/paths';
import type { DrawingSink } from '../../content/drawing/sink';
import { Failure, asFailure } from '../../base/failure/failure';
import { type Matrix, invert } from '../../base/geometry/matrix';
import { type Measure, roughly } from '../../document/items';
import { parseMark } from '../../contracts/mark';
import type { Budget } from '../../document/limits';
import { type OpenFont, TooManyLetters } from '../../contracts/carried-font';
import { unknownIn } from './known';
import { CarriedFonts } from './font-faces';
import { Looks } from './looks';
import { MARK } from './mark';
import { StyleSheet } from './style';
import type { Properties } from './properties';
import { breaksOff } from './transform';
import type { Around, SvgReading, StandingPicture } from './reading';
import type { Viewport } from './viewport';
import { textOf } from './xml';
import type { XmlElement } from './xml-element';

/** Elements that change a drawing once it is shown (SVG 1.1, 18 and 19). */
const MOVING = new Set(['animate', 'animateColor', 'animateMotion', 'animateTransform', 'set', 'script', 'handler']);
export const isMoving = ({ name }: XmlElement): boolean => MOVING.has(name);

/** A document that is being read. */
export class DocumentReading implements SvgReading {
  tally = new Tally();
  private readonly broken = new Map<string, string>();
  /** Says that something is drawn up to an error, with the first line where that is so. */
  breaksOff(what: string, line: number): void {
    const kind = this.broken.get(what) ?? `${what}, first in line ${line}`;
    this.broken.set(what, kind);
    this.tally.add(kind);
  }
  readonly sheet = new StyleSheet();
  readonly ids = new Map<string, XmlElement>();
  /** Filled anew for each shape. */
  readonly paths = new PathStore();
  readonly looks = new Looks(this);
  /** Layers by visibility and name, all sheets together. */
  readonly layers = new Map<string, number>();
  mark: string | null = null;
  viewport!: Viewport;
  /** From the board's millimetres to the sheet's user units. */
  fromBoard!: Matrix;

  readonly carried: CarriedFonts | null;

  /** What is being defined: patterns and masks that hold themselves never end. */
  private readonly definitions = new Set<XmlElement>();

  constructor(
    public sink: DrawingSink,
    readonly budget: Budget,
    /** How any element is read: the table of elements, handed in so that its parts can call each other. */
    readonly read: (element: XmlElement, around: Around, reading: DocumentReading) => void,
    root: XmlElement,
    /** Pictures that stand in it, by what refers to them. */
    readonly pictures: ReadonlyMap<string, StandingPicture>,
    /** How far letters run. */
    readonly width: Measure = roughly,
    /** Opens fonts that the drawing carries: its texts in them become outlines. */
    openFont: OpenFont | null = null,
  ) {
    this.collect(root);
    this.mark ??= root.attributes[MARK] ?? null;
    this.carried = openFont && new CarriedFonts(this.sheet.faces, openFont);
    for (const selector of this.sheet.unknown) this.tally.add(selector);
    for (const words of root.unknown ?? []) this.tally.add(words);
  }

  /** Ids, style sheets and the mark, wherever they stand. */
  private collect(element: XmlElement): void {
    const id = element.attributes['id'];
    if (id && !this.ids.has(id)) this.ids.set(id, element);
    if (element.name === 'style' && /^(text\/css)?$/i.test(element.attributes['type']?.trim() ?? ''))
      this.sheet.add(textOf(element), element.attributes['media']);
    // Wherever they stand: what they change may be anything, and elsewhere.
    if (MOVING.has(element.name)) this.tally.add(`element ${element.name}`);
    if (element.name === 'metadata') {
      const text = textOf(element);
      if (parseMark(text)) this.mark ??= text;
    }
    for (const child of element.children) if (typeof child !== 'string') this.collect(child);
  }

  look(viewport: Viewport): void {
    this.viewport = viewport;
    this.fromBoard = invert(viewport.toBoard)!;
  }

  /** Whether something is told only to be measured: what it is clipped and masked by does not matter then. */
  measuring = false;

  /** Tells something to be measured, and counts nothing of it. */
  measure(sink: DrawingSink, emit: () => void): void {
    const before = [this.sink, this.tally, this.measuring] as const;
    [this.sink, this.tally, this.measuring] = [sink, new Tally(), true];
    try {
      emit();
    } finally {
      [this.sink, this.tally, this.measuring] = before;
    }
  }

  /** Defines something to paint with. @throws Failure `svg-use-cycle` where it holds itself */
  defining<T>(element: XmlElement, define: () => T): T {
    if (this.definitions.has(element) || this.definitions.size > 16)
      throw new Failure('svg-use-cycle', `The ${element.name} “${element.attributes['id'] ?? ''}” is used inside itself.`, {
        line: element.line,
      });
    this.definitions.add(element);
    try {
      return define();
    } finally {
      this.definitions.delete(element);
    }
  }

  /** Counts what of an element is not understood. */
  noteUnknown(element: XmlElement, properties: Properties): void {
    for (const words of unknownIn(element, properties)) this.tally.add(words);
  }

  /** Whether nothing is drawn; a group may be invisible and still hold something visible (SVG 1.1, 11.5). */
  isHidden(properties: Properties, group = false): boolean {
    const hidden =
      properties['display'] === 'none' ||
      (!group && (properties['visibility'] === 'hidden' || properties['visibility'] === 'collapse'));
    if (hidden) this.tally.addUnseen('hidden element');
    return hidden;
  }

  /** Another program's own notes draw nothing (SVG 1.1, 23.1); nobody is told of them: there is nothing to be done about them. */
  isForeign({ name }: XmlElement): boolean {
    return name.includes(':');
  }

  /** Reads an element; whatever goes wrong in it gets its line. */
  guarded(element: XmlElement, around: Around, read = this.read): void {
    const stated = element.attributes['transform'];
    if (stated && breaksOff(stated)) {
      this.tally.add('transform that breaks off');
      return this.guarded({ ...element, attributes: { ...element.attributes, transform: '' } }, around, read);
    }
    try {
      read(element, around, this);
    } catch (error) {
      if (error instanceof TooManyLetters) throw error;
      const failure = asFailure(error);
      if (failure.where.line !== undefined) throw failure;
      throw new Failure(failure.code, `<${element.name}>: ${failure.message}`, { ...failure.where, line: element.line });
    }
  }
}
