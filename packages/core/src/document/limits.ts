import { Failure, type Where } from '../base/failure/failure';

/** Objects that a board may draw once all repeats are opened, and that a file may bring in. */
export const OBJECT_LIMIT = 250_000;
/** Pieces of outlines that a file may bring in. */
export const SEGMENT_LIMIT = 4_000_000;
/** How deep groups and symbol uses may stand in each other. */
export const NESTING_LIMIT = 100;

const grouped = (count: number): string =>
  count < 1e9 ? Math.round(count).toLocaleString('en').replaceAll(',', ' ') : `about ${count.toPrecision(1)}`;

export const tooManyObjects = (count: number, where: Where = {}): Failure =>
  new Failure(
    'too-many-objects',
    `This draws ${grouped(count)} objects once all repeats are opened; at most ${grouped(OBJECT_LIMIT)} can be kept. Split it, or repeat less.`,
    where,
  );
export const tooDeep = (depth: number, where: Where = {}): Failure =>
  new Failure(
    'too-deep',
    `Groups and symbols stand ${depth} deep in each other here; at most ${NESTING_LIMIT} can be kept. Take some groups apart.`,
    where,
  );

/** Counts what a reader makes while it makes it, so that a small file can't become more than there is room for. */
export class Budget {
  private objects = 0;
  private segments = 0;

  /** @throws Failure `too-many-objects` */
  object(where: Where = {}): number {
    if (++this.objects > OBJECT_LIMIT)
      throw new Failure(
        'too-many-objects',
        `The file holds more than ${grouped(OBJECT_LIMIT)} objects, which is as many as can be kept. Split it.`,
        where,
      );
    return this.objects;
  }

  /** @throws Failure `too-many-segments` */
  pieces(count: number, where: Where = {}): void {
    this.segments += count;
    if (this.segments > SEGMENT_LIMIT)
      throw new Failure(
        'too-many-segments',
        `The outlines of the file have more than ${grouped(SEGMENT_LIMIT)} pieces, which is as many as can be kept. Split it, or smooth it.`,
        where,
      );
  }
}
