import { createHash } from 'node:crypto';
import { AGES, type Age } from './ages';
import { type Group, Refused, groupsOf } from './groups';
import { type Place, alongBulge, alongSpline, around } from './shapes';

/** A line as a reader sees it. */
export interface SeenLine {
  readonly layer: string;
  /** #rrggbb where the file says it so and the reader knows that, else the number of the format's palette. */
  readonly colour: string | number;
  readonly points: readonly Place[];
  readonly closed: boolean;
  readonly filled: boolean;
}
/** A text as a reader sees it. */
export interface SeenText {
  readonly layer: string;
  readonly words: string;
  readonly at: Place;
  readonly height: number;
}

/** What a reader of an age makes of a file. */
export interface Seen {
  readonly reader: string;
  readonly opens: boolean;
  /** Why not, and at which line or byte. */
  readonly refused: { readonly at: number; readonly words: string } | null;
  /** What it passed over, and how often. */
  readonly dropped: readonly { readonly what: string; readonly count: number }[];
  readonly sha256: string;
  readonly lines: readonly SeenLine[];
  readonly texts: readonly SeenText[];
  readonly pictures: number;
  readonly picture: string;
}

type Move = (place: Place) => Place;
interface Entity {
  readonly type: string;
  readonly at: number;
  readonly groups: Group[];
}

const PAGES: Readonly<Record<string, string>> = { '932': 'shift_jis', '936': 'gbk', '949': 'euc-kr', '950': 'big5' };
const DEEPEST = 16;

class Reader {
  readonly lines: SeenLine[] = [];
  readonly texts: SeenText[] = [];
  pictures = 0;
  private readonly dropped = new Map<string, number>();
  private readonly layers = new Map<string, string | number>();
  private readonly blocks = new Map<string, Entity[]>();
  private readonly types = new Set(['BYLAYER', 'BYBLOCK', 'CONTINUOUS']);
  /** The version that the file states: older ones have neither classes nor handles. */
  private number = 0;
  private get classes(): boolean {
    return this.age.classes && this.number >= 1012;
  }
  private decoder = new TextDecoder('windows-1252');
  private readonly handles = new Set<string>();

  constructor(private readonly age: Age) {}

  get passedOver(): Seen['dropped'] {
    return [...this.dropped].map(([what, count]) => ({ what, count }));
  }
  private drop(what: string): void {
    this.dropped.set(what, (this.dropped.get(what) ?? 0) + 1);
  }

  read(groups: readonly Group[]): void {
    const sections = sectionsOf(groups);
    this.header(sections.get('HEADER')?.head ?? []);
    this.tables(sections.get('TABLES')?.entities ?? []);
    this.blocksOf(sections.get('BLOCKS')?.entities ?? []);
    const entities = sections.get('ENTITIES');
    if (!entities) throw new Refused(0, 'there is no section ENTITIES');
    this.draw(entities.entities, (place) => place, 0);
  }

  private header(head: readonly Group[]): void {
    const value = (name: string): string | undefined => {
      const i = head.findIndex((group) => group.code === 9 && group.value.trim() === name);
      return i < 0 ? undefined : head[i + 1]?.value.trim();
    };
    const number = Number(/^AC(\d+)$/.exec(value('$ACADVER') ?? 'AC1009')?.[1] ?? 0); // term-guard: standard (DXF reference, HEADER section)
    if (number > this.age.number)
      throw new Refused(0, `the file is of version ${number}; known are those up to ${this.age.number}`);
    this.number = number;
    const page = /^ansi_(\d+)$/i.exec(value('$DWGCODEPAGE') ?? '')?.[1];
    this.decoder = new TextDecoder(
      this.age.unicode && number >= 1021 ? 'utf-8' : page ? (PAGES[page] ?? `windows-${page}`) : 'windows-1252',
    );
  }

  /** Letters of a value, those that stand by their number included. */
  private words(value: string): string {
    const bytes = Uint8Array.from(value, (letter) => letter.charCodeAt(0));
    return this.decoder.decode(bytes).replace(/\\U\+([0-9A-F]{4})/gi, (_, hex: string) => String.fromCharCode(parseInt(hex, 16)));
  }

  private tables(entities: readonly Entity[]): void {
    for (const entity of entities) {
      if (
        this.classes &&
        !['TABLE', 'ENDTAB'].includes(entity.type) &&
        !entity.groups.some(({ code }) => code === 5 || code === 105)
      )
        throw new Refused(entity.at, `${entity.type} has no handle`);
      const name = this.words(text(entity, 2) ?? '');
      if (entity.type === 'LTYPE') this.types.add(name.toUpperCase());
      if (entity.type === 'LAYER') {
        if (!this.types.has((text(entity, 6) ?? 'CONTINUOUS').toUpperCase()))
          throw new Refused(entity.at, `layer ${name}: its line type is in no table`);
        this.layers.set(name.toUpperCase(), this.colourIn(entity) ?? 7);
      }
    }
  }

  private blocksOf(entities: readonly Entity[]): void {
    let open: Entity[] | null = null;
    for (const entity of entities) {
      if (entity.type === 'BLOCK') this.blocks.set(this.words(text(entity, 2) ?? '').toUpperCase(), (open = []));
      else if (entity.type === 'ENDBLK') open = null;
      else if (open) open.push(entity);
      else throw new Refused(entity.at, `${entity.type} stands in no block`);
    }
  }

  /** The colour that an entity states; undefined where it is that of its layer. */
  private colourIn(entity: Entity): string | number | undefined {
    const exact = number(entity, 420);
    if (exact !== undefined && this.age.trueColour) return `#${exact.toString(16).padStart(6, '0')}`;
    if (exact !== undefined) this.drop('colours stated as red, green and blue');
    const index = number(entity, 62);
    return index === undefined || index === 256 ? undefined : Math.abs(index);
  }

  private draw(entities: readonly Entity[], move: Move, depth: number): void {
    if (depth > DEEPEST) throw new Refused(entities[0]?.at ?? 0, 'blocks lie in each other without end');
    for (let i = 0; i < entities.length; i++) {
      const entity = entities[i]!;
      const { type, at } = entity;
      if (!this.age.draws.has(type)) {
        if (this.age.stops) throw new Refused(at, `${type} is not known`);
        this.drop(type);
        continue;
      }
      if (this.classes) this.hasClasses(entity);
      else if (this.age.stops && entity.groups.some(({ code }) => code === 100 || code === 370 || code === 420))
        throw new Refused(at, `${type} has a group that is not known`);
      const layer = this.words(text(entity, 8) ?? '0');
      if (!this.layers.has(layer.toUpperCase())) throw new Refused(at, `layer ${layer} is in no table`);
      const lineType = text(entity, 6);
      if (lineType && !this.types.has(this.words(lineType).toUpperCase()))
        throw new Refused(at, `line type ${lineType} is in no table`);
      const colour = this.colourIn(entity) ?? this.layers.get(layer.toUpperCase())!;
      const add = (points: readonly Place[], closed = false, filled = false) =>
        this.lines.push({ layer, colour, points: points.map(move), closed, filled });
      if (type === 'POLYLINE') {
        const corners: Entity[] = [];
        while (entities[++i]?.type === 'VERTEX') corners.push(entities[i]!);
        if (entities[i]?.type !== 'SEQEND') throw new Refused(at, 'a polyline has no end');
        add(
          chain(
            corners.map((one) => [place(one, 10), number(one, 42) ?? 0]),
            isClosed(entity),
          ),
          isClosed(entity),
        );
      } else if (type === 'INSERT') this.insert(entity, move, depth);
      else if (type === 'TEXT' || type === 'MTEXT')
        this.texts.push({
          layer,
          words: lettered(this.words(text(entity, 1) ?? '')),
          at: move(place(entity, 10)),
          height: number(entity, 40) ?? 0,
        });
      else if (type === 'IMAGE') this.pictures++;
      else if (type === 'HATCH') for (const loop of loopsOf(entity)) add(loop, true, true);
      else if (type !== 'POINT') add(pointsOf(entity), type === 'CIRCLE' || (type === 'LWPOLYLINE' && isClosed(entity)));
    }
  }

  private hasClasses({ type, at, groups }: Entity): void {
    const handle = groups.find(({ code }) => code === 5)?.value;
    if (!handle || !groups.some(({ code }) => code === 100)) throw new Refused(at, `${type} has no handle, or no class`);
    // In a block that is used twice the same handle comes again: of the same place.
    const key = `${handle} ${at}`;
    if (!this.handles.has(key) && [...(this.byHandle.get(handle) ?? [])].some((other) => other !== at))
      throw new Refused(at, `handle ${handle} is there twice`);
    this.handles.add(key);
    this.byHandle.set(handle, new Set([...(this.byHandle.get(handle) ?? []), at]));
  }
  private readonly byHandle = new Map<string, Set<number>>();

  private insert(entity: Entity, move: Move, depth: number): void {
    const name = this.words(text(entity, 2) ?? '');
    const block = this.blocks.get(name.toUpperCase());
    if (!block) throw new Refused(entity.at, `block ${name} is in no table`);
    const [x, y] = place(entity, 10);
    const angle = ((number(entity, 50) ?? 0) * Math.PI) / 180;
    const [sx, sy] = [number(entity, 41) ?? 1, number(entity, 42) ?? 1];
    const [c, s] = [Math.cos(angle), Math.sin(angle)];
    this.draw(block, ([px, py]) => move([x + c * sx * px - s * sy * py, y + s * sx * px + c * sy * py]), depth + 1);
  }
}

/** Signs that a text states by two of their own: of three the percent sign is left. */
const lettered = (words: string): string =>
  words.replace(/%%([%dpc])/gi, (_, sign: string) => ({ '%': '%', d: '°', p: '±', c: '⌀' })[sign.toLowerCase()]!);

const text = ({ groups }: Entity, code: number): string | undefined => groups.find((group) => group.code === code)?.value;
function number(entity: Entity, code: number): number | undefined {
  const value = text(entity, code);
  if (value === undefined) return undefined;
  const found = Number(value);
  if (!Number.isFinite(found)) throw new Refused(entity.at, `group ${code} of ${entity.type} is no number`);
  return found;
}
const place = (entity: Entity, code: number): Place => [number(entity, code) ?? 0, number(entity, code + 10) ?? 0];
const all = ({ groups }: Entity, code: number): number[] =>
  groups.flatMap((group) => (group.code === code ? [Number(group.value)] : []));
const isClosed = (entity: Entity): boolean => ((number(entity, 70) ?? 0) & 1) === 1;

/** A polyline of corners, each with the bulge of the edge that begins there. */
function chain(corners: readonly (readonly [Place, number])[], closed: boolean): Place[] {
  const [first] = corners;
  if (!first) return [];
  const points: Place[] = [first[0]];
  const ring = closed ? [...corners, first] : corners;
  for (let i = 1; i < ring.length; i++) points.push(...alongBulge(ring[i - 1]![0], ring[i]![0], ring[i - 1]![1]));
  return points;
}

function pointsOf(entity: Entity): Place[] {
  const radians = (degrees: number): number => (degrees * Math.PI) / 180;
  const centre = place(entity, 10);
  const radius = number(entity, 40) ?? 0;
  if (entity.type === 'LINE') return [centre, place(entity, 11)];
  if (entity.type === 'CIRCLE') return around(centre, [radius, 0], [0, radius], 0, 2 * Math.PI);
  if (entity.type === 'ARC')
    return around(centre, [radius, 0], [0, radius], radians(number(entity, 50) ?? 0), radians(number(entity, 51) ?? 360));
  if (entity.type === 'ELLIPSE') {
    const [ux, uy] = place(entity, 11);
    const ratio = number(entity, 40) ?? 1;
    return around(centre, [ux, uy], [-uy * ratio, ux * ratio], number(entity, 41) ?? 0, number(entity, 42) ?? 2 * Math.PI);
  }
  if (entity.type === 'SPLINE') {
    const [xs, ys] = [all(entity, 10), all(entity, 20)];
    return alongSpline(
      number(entity, 71) ?? 3,
      all(entity, 40),
      xs.map((x, i): Place => [x, ys[i]!]),
    );
  }
  if (entity.type === 'LWPOLYLINE') return chain(cornersOf(entity.groups), isClosed(entity));
  return [10, 11, 12, 13].filter((code) => text(entity, code) !== undefined).map((code) => place(entity, code));
}

/** Corners as they follow each other, each with the bulge that comes after it. */
function cornersOf(groups: readonly Group[]): [Place, number][] {
  const corners: [Place, number][] = [];
  for (const { code, value } of groups) {
    if (code === 10) corners.push([[Number(value), 0], 0]);
    const last = corners.at(-1);
    if (last && code === 20) last[0] = [last[0][0], Number(value)];
    if (last && code === 42) last[1] = Number(value);
  }
  return corners;
}

/** The loops of a hatch: polylines, or edges of lines and splines. */
function loopsOf(entity: Entity): Place[][] {
  const from = entity.groups.findIndex(({ code }) => code === 91);
  const to = entity.groups.findIndex(({ code }, i) => i > from && code === 75);
  const loops: Place[][] = [];
  let part: Group[] = [];
  let polyline = false;
  const close = (): void => {
    if (!part.length) return;
    if (polyline) loops.push(chain(cornersOf(part), true));
    else loops.push(edgesOf(part));
    part = [];
  };
  for (const group of entity.groups.slice(from + 1, to)) {
    if (group.code === 92) {
      close();
      polyline = (Number(group.value) & 2) === 2;
    }
    part.push(group);
  }
  close();
  return loops;
}

function edgesOf(groups: readonly Group[]): Place[] {
  const edges: Group[][] = [];
  for (const group of groups) {
    if (group.code === 72) edges.push([]);
    edges.at(-1)?.push(group);
  }
  return edges.flatMap((edge) => {
    const entity: Entity = { type: 'edge', at: edge[0]!.at, groups: edge };
    if (edge[0]!.value.trim() === '1') return [place(entity, 10), place(entity, 11)];
    const [xs, ys] = [all(entity, 10), all(entity, 20)];
    return alongSpline(
      number(entity, 94) ?? 3,
      all(entity, 40),
      xs.map((x, i): Place => [x, ys[i]!]),
    );
  });
}

function sectionsOf(groups: readonly Group[]): Map<string, { head: Group[]; entities: Entity[] }> {
  const sections = new Map<string, { head: Group[]; entities: Entity[] }>();
  let open: { head: Group[]; entities: Entity[] } | null = null;
  groups.forEach((group, i) => {
    const value = group.value.trim();
    if (group.code === 0 && value === 'SECTION') {
      const name = groups[i + 1];
      if (name?.code !== 2) throw new Refused(group.at, 'a section has no name');
      sections.set(name.value.trim(), (open = { head: [], entities: [] }));
    } else if (group.code === 0 && (value === 'ENDSEC' || value === 'EOF')) {
      if (value === 'EOF' && open) throw new Refused(group.at, 'a section has no end');
      open = null;
    } else if (open && group.code === 0) open.entities.push({ type: value, at: group.at, groups: [] });
    else if (open) (open.entities.at(-1)?.groups ?? open.head).push(group);
    else if (group.code === 0) throw new Refused(group.at, `${value} stands in no section`);
  });
  return sections;
}

const nameOf = ({ name }: Age): string => `dxf-${name.toLowerCase()}`;

/** Opens a drawing as a reader of an age would. */
function openDrawing(bytes: Uint8Array, age: Age): Seen {
  const reader = new Reader(age);
  let refused: Seen['refused'] = null;
  try {
    const { groups } = groupsOf(bytes);
    reader.read(groups);
  } catch (error) {
    if (!(error instanceof Refused)) throw error;
    refused = { at: error.at, words: error.message };
  }
  const lines = refused ? [] : reader.lines;
  const texts = refused ? [] : reader.texts;
  return {
    reader: nameOf(age),
    opens: !refused,
    refused,
    dropped: reader.passedOver,
    sha256: createHash('sha256').update(bytes).digest('hex'),
    lines,
    texts,
    pictures: refused ? 0 : reader.pictures,
    picture: refused ? '' : pictureOf(lines, texts),
  };
}

const PALETTE: Readonly<Record<number, string>> = {
  1: '#ff0000',
  2: '#b8b800',
  3: '#00a000',
  4: '#00a0a0',
  5: '#0000ff',
  6: '#c000c0',
};

/** What is seen, as an SVG drawing. */
function pictureOf(lines: readonly SeenLine[], texts: readonly SeenText[]): string {
  const places = [...lines.flatMap(({ points }) => points), ...texts.map(({ at }) => at)];
  if (!places.length) return '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 1 1"/>';
  let [minX, minY, maxX, maxY] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const [x, y] of places)
    [minX, minY, maxX, maxY] = [Math.min(minX, x), Math.min(minY, y), Math.max(maxX, x), Math.max(maxY, y)];
  const colour = (of: string | number): string => (typeof of === 'string' ? of : (PALETTE[of] ?? '#202020'));
  const drawn = lines.map(({ points, colour: of, filled, closed }) => {
    const all = [...points, ...(closed ? points.slice(0, 1) : [])].map(
      ([x, y]) => `${(x - minX).toFixed(3)},${(maxY - y).toFixed(3)}`,
    );
    return `<polyline points="${all.join(' ')}" ${filled ? `fill="${colour(of)}" fill-opacity="0.4" stroke="none"` : `stroke="${colour(of)}"`}/>`;
  });
  const escaped = (words: string) => words.replaceAll('&', '&amp;').replaceAll('<', '&lt;');
  const written = texts.map(
    ({ at: [x, y], height, words }) =>
      `<text x="${(x - minX).toFixed(3)}" y="${(maxY - y).toFixed(3)}" font-size="${height}" fill="#202020" stroke="none">${escaped(words)}</text>`,
  );
  return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="-2 -2 ${(maxX - minX + 4).toFixed(3)} ${(maxY - minY + 4).toFixed(3)}" fill="none" stroke-width="0.4">${drawn.join('')}${written.join('')}</svg>`;
}

/** Readers of drawings by their age, oldest first. */
export const OLDER_READERS: Readonly<Record<string, (bytes: Uint8Array) => Seen>> = Object.fromEntries(
  AGES.map((age) => [nameOf(age), (bytes: Uint8Array) => openDrawing(bytes, age)]),
);
