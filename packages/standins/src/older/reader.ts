import type { Age } from './ages';
import { type Entity, isSet, number, place, sectionsOf, text } from './entities';
import { type Group, Refused } from './groups';
import { type Move, STAY, after, moved, planeOf } from './move';
import { OUTLINES, type Outline, chain } from './outlines';
import type { Seen, SeenLine, SeenText } from './seen';
import { Pen, type Place } from './shapes';
import { Tables } from './tables';

/** How deep blocks may lie in each other, and how much there may be to draw when all are opened. */
const [DEEPEST, THINGS, POINTS] = [16, 500_000, 4_000_000];
/** How far from the origin something may lie to be drawn, drawing units. */
const FARTHEST = 1e12;

/** Flags of polylines, of their corners, and of attributes. */
const [CLOSED, MESHES, FRAME, UNSEEN] = [1, 16 | 64, 16, 1];
/** Entities whose own plane is that of the drawing, whatever normal they state. */
const IN_SPACE = new Set(['LINE', 'ELLIPSE', 'SPLINE', 'MTEXT', '3DFACE', 'LEADER']);

/** What the use of a block hands on to what lies in it. */
interface Within {
  readonly move: Move;
  readonly depth: number;
  readonly layer: string | null;
  readonly colour: string | number | null;
}

/** Signs that a text states by two of their own: of three the percent sign is left. */
const lettered = (words: string): string =>
  words.replace(/%%([%dpc])/gi, (_, sign: string) => ({ '%': '%', d: '°', p: '±', c: '⌀' })[sign.toLowerCase()]!);

/** Draws what a file holds, as a program of an age does. */
export class Reader {
  readonly lines: SeenLine[] = [];
  readonly texts: SeenText[] = [];
  pictures = 0;
  private readonly dropped = new Map<string, number>();
  private readonly handles = new Map<string, number>();
  private things = 0;
  private points = 0;
  /** Where the entity stands that is being drawn. */
  private at = 0;
  private tables!: Tables;
  private readonly pen = new Pen((points) => {
    this.points += points;
    if (this.points > POINTS) throw new Refused(this.at, `there are more than ${POINTS} points to draw`);
  });

  constructor(private readonly age: Age) {}

  get passedOver(): Seen['dropped'] {
    return [...this.dropped].map(([what, count]) => ({ what, count }));
  }
  private drop(what: string): void {
    this.dropped.set(what, (this.dropped.get(what) ?? 0) + 1);
  }

  /** @throws Refused */
  read(groups: readonly Group[]): void {
    const sections = sectionsOf(groups);
    this.tables = new Tables(this.age, sections, (what) => this.drop(what));
    const entities = sections.get('ENTITIES');
    if (!entities) throw new Refused(0, 'there is no section ENTITIES');
    this.draw(entities.entities, { move: STAY, depth: 0, layer: null, colour: null });
  }

  private draw(entities: readonly Entity[], within: Within): void {
    if (within.depth > DEEPEST) throw new Refused(entities[0]?.at ?? 0, 'blocks lie in each other without end');
    for (let i = 0; i < entities.length; i++) {
      const entity = entities[i]!;
      this.at = entity.at;
      if (++this.things > THINGS) throw new Refused(entity.at, `there are more than ${THINGS} things to draw`);
      const parts = partsOf(entities, i);
      i += parts.skip;
      if (this.knows(entity)) this.one(entity, parts.inner, within);
    }
  }

  /** Whether a reader of this age knows an entity. @throws Refused where it gives up over one that it does not know */
  private knows(entity: Entity): boolean {
    const { type, at, groups } = entity;
    if (!this.age.draws.has(type)) {
      if (this.age.stops) throw new Refused(at, `${type} is not known`);
      this.drop(type);
      return false;
    }
    if (this.tables.classes) this.hasClasses(entity);
    else if (this.age.stops && groups.some(({ code }) => code === 100 || code === 370 || code === 420))
      throw new Refused(at, `${type} has a group that is not known`);
    return true;
  }

  private hasClasses({ type, at, groups }: Entity): void {
    const handle = groups.find(({ code }) => code === 5)?.value;
    if (!handle || !groups.some(({ code }) => code === 100)) throw new Refused(at, `${type} has no handle, or no class`);
    // In a block that is used twice the same handle comes again: of the same place.
    if ((this.handles.get(handle) ?? at) !== at) throw new Refused(at, `handle ${handle} is there twice`);
    this.handles.set(handle, at);
  }

  private one(entity: Entity, inner: readonly Entity[], within: Within): void {
    const { type, at } = entity;
    const named = this.tables.words(text(entity, 8) ?? '0');
    // What lies on layer 0 of a block lies on the layer of its use.
    const layer = named === '0' && within.layer !== null ? within.layer : named;
    const table = this.tables.layers.get(layer.toUpperCase());
    if (!table) throw new Refused(at, `layer ${layer} is in no table`);
    const lineType = text(entity, 6);
    if (lineType && !this.tables.types.has(this.tables.words(lineType).toUpperCase()))
      throw new Refused(at, `line type ${lineType} is in no table`);
    const own = this.tables.colourIn(entity);
    const colour = (own === 0 ? (within.colour ?? 7) : own) ?? table.colour;
    // What lies on a sheet of paper, and what is hidden, is not seen.
    if (number(entity, 67) === 1 || number(entity, 60) === 1) return;
    const move = IN_SPACE.has(type) ? within.move : after(within.move, planeOf(entity));
    const under = { layer, colour };
    if (type === 'INSERT' && !table.frozen) this.insert(entity, { ...within, move, ...under });
    if (type === 'DIMENSION' && !table.frozen) this.open(entity, { ...within, ...under });
    if (type === 'INSERT') for (const one of inner) if (this.knows(one)) this.one(one, [], within);
    if (!table.shown) return;
    if (type === 'POLYLINE') this.polyline(entity, inner, move, under);
    else if (OUTLINES[type]) for (const outline of OUTLINES[type](this.pen, entity)) this.line(outline, move, under);
    else if (this.age.texts.has(type)) this.text(entity, move, within.depth, layer);
    else if (type === 'IMAGE') this.pictures++;
    else if (type === 'SHAPE') this.drop('signs whose file is not there');
  }

  private line(outline: Outline, move: Move, under: { layer: string; colour: string | number }): void {
    const points: Place[] = outline.points.map((point) => moved(move, point));
    if (points.every(([x, y]) => Math.abs(x) < FARTHEST && Math.abs(y) < FARTHEST))
      this.lines.push({ ...outline, ...under, points });
    else this.drop('lines that lie too far off');
  }

  private text(entity: Entity, move: Move, depth: number, layer: string): void {
    const { type } = entity;
    const isAttribute = type === 'ATTRIB' || type === 'ATTDEF';
    // What a block says of its attributes is seen where each use states them.
    if (isAttribute && (isSet(entity, UNSEEN) || (type === 'ATTDEF' && depth > 0))) return;
    const words = entity.groups.flatMap(({ code, value }) => (code === 1 || (code === 3 && type === 'MTEXT') ? [value] : []));
    const at = moved(move, place(entity, 10));
    if (!at.every((value) => Math.abs(value) < FARTHEST)) return this.drop('texts that lie too far off');
    this.texts.push({ layer, words: lettered(this.tables.words(words.join(''))), at, height: number(entity, 40) ?? 0 });
  }

  private polyline(
    entity: Entity,
    corners: readonly Entity[],
    move: Move,
    under: { layer: string; colour: string | number },
  ): void {
    if (isSet(entity, MESHES)) return this.drop('meshes');
    const closed = isSet(entity, CLOSED);
    const seen = corners.filter((corner) => !isSet(corner, FRAME));
    const points = chain(
      this.pen,
      seen.map((corner) => [place(corner, 10), number(corner, 42) ?? 0]),
      closed,
    );
    this.line({ points, closed, filled: false }, move, under);
  }

  /** The block that an entity names, drawn where the drawing itself is. */
  private open(entity: Entity, within: Within): void {
    const block = this.tables.blocks.get(this.tables.name(entity, 2).toUpperCase());
    if (!block) return this.drop(`${entity.type} without its drawing`);
    this.draw(block.entities, { ...within, depth: within.depth + 1 });
  }

  /** The uses of a block: one, or rows and columns of it. */
  private insert(entity: Entity, within: Within): void {
    const name = this.tables.name(entity, 2);
    const block = this.tables.blocks.get(name.toUpperCase());
    if (!block) throw new Refused(entity.at, `block ${name} is in no table`);
    const [x, y] = place(entity, 10);
    const angle = ((number(entity, 50) ?? 0) * Math.PI) / 180;
    const [c, s] = [Math.cos(angle), Math.sin(angle)];
    const [sx, sy] = [number(entity, 41) ?? 1, number(entity, 42) ?? 1];
    const [columns, rows] = [number(entity, 70) ?? 1, number(entity, 71) ?? 1].map((count) => Math.max(1, count)) as [
      number,
      number,
    ];
    const [across, up] = [number(entity, 44) ?? 0, number(entity, 45) ?? 0];
    const [bx, by] = block.base;
    for (let row = 0; row < rows; row++)
      for (let column = 0; column < columns; column++) {
        if (++this.things > THINGS) throw new Refused(entity.at, `there are more than ${THINGS} things to draw`);
        const turned: Move = [c, s, -s, c, x, y];
        const placed = after(after(turned, [1, 0, 0, 1, column * across, row * up]), [sx, 0, 0, sy, -sx * bx, -sy * by]);
        this.draw(block.entities, { ...within, move: after(within.move, placed), depth: within.depth + 1 });
      }
  }
}

/**
 * The parts that follow an entity: corners of a polyline, attributes of a use.
 * @returns them, and how many entities they and their end are. @throws Refused where the end is missing
 */
function partsOf(entities: readonly Entity[], i: number): { inner: readonly Entity[]; skip: number } {
  const entity = entities[i]!;
  const part = entity.type === 'POLYLINE' ? 'VERTEX' : entity.type === 'INSERT' && number(entity, 66) === 1 ? 'ATTRIB' : '';
  if (!part) return { inner: [], skip: 0 };
  let end = i + 1;
  while (entities[end]?.type === part) end++;
  if (entities[end]?.type !== 'SEQEND')
    throw new Refused(entity.at, part === 'VERTEX' ? 'a polyline has no end' : 'the attributes of a symbol have no end');
  return { inner: entities.slice(i + 1, end), skip: end - i };
}
