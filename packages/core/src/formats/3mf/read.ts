import { plainNumber } from '../../base/bytes/numbers';
import { Tally } from '../../contracts/tally';
import { type Attributes, attributeOf, strangersAmong, walkXml } from '../../base/bytes/walk-xml';
import type { Leaf } from '../../contracts/leaf';
import type { Mesh } from '../../contracts/mesh';
import { Failure } from '../../base/failure/failure';
import { unpackEntries } from '../../document/native/zip';
import type { NotUnderstood } from '../../contracts/not-understood';
import { relationsOf } from '../relations';
import { MOST_PARTS, MOST_TRIANGLES, meshFrom } from '../solids/frame';
import type { UnitName } from '../../base/bytes/units';
import { MODEL } from './declare';
import { MARK_ENTRY } from './write';

interface ReadThreeMf {
  readonly leaves: readonly Leaf<'mesh'>[];
  readonly mark: string | null;
  readonly notUnderstood: readonly NotUnderstood[];
}

/** Millimetres of a unit (core specification, 3.4); a thousandth of one is read as millimetres scaled. */
const UNITS: Readonly<Record<string, { unit: UnitName; scale: number }>> = {
  micron: { unit: 'mm', scale: 1e-3 },
  millimeter: { unit: 'mm', scale: 1 },
  centimeter: { unit: 'cm', scale: 1 },
  inch: { unit: 'inch', scale: 1 },
  foot: { unit: 'ft', scale: 1 },
  meter: { unit: 'm', scale: 1 },
};

/** Twelve numbers, row by row, the last of places (3.3). */
type Transform = readonly number[];
const IDENTITY: Transform = [1, 0, 0, 0, 1, 0, 0, 0, 1, 0, 0, 0];

interface Part {
  readonly name: string;
  readonly colour: string;
  /** What its triangles say that they are made of: how many say what. */
  readonly materials: Map<string, number>;
  readonly corners: number[];
  readonly triangles: number[];
  readonly components: { readonly object: string; readonly at: Transform }[];
}

const damaged = (message: string): Failure => new Failure('3mf-damaged', message);

function numberOf(attributes: Attributes, name: string, where: string): number {
  const said = attributeOf(attributes, name);
  const value = plainNumber(said ?? '');
  if (Number.isNaN(value))
    throw damaged(
      `${where}: “${name}” is ${said === undefined ? 'not there' : `“${said.slice(0, 30)}”`}, and a number is needed.`,
    );
  return value;
}

function transformOf(words: string | undefined, where: string): Transform {
  if (words === undefined) return IDENTITY;
  const numbers = words.trim().split(/\s+/).map(plainNumber);
  if (numbers.length !== 12 || numbers.some(Number.isNaN)) throw damaged(`${where}: its transform is not twelve numbers.`);
  return numbers;
}

/** First by `a`, then by `b`. */
function after(a: Transform, b: Transform): Transform {
  const at = (m: Transform, row: number, column: number) => (row < 3 ? m[3 * row + column]! : m[9 + column]!);
  return Array.from({ length: 12 }, (_, i) => {
    const [row, column] = [Math.floor(i / 3), i % 3];
    let sum = row === 3 ? at(b, 3, column) : 0;
    for (let k = 0; k < 3; k++) sum += at(a, row, k) * at(b, k, column);
    return sum;
  });
}

/** Elements that are known, with the attributes of each that are read or say nothing of shape, name and colour (core specification). */
const KNOWN: ReadonlyMap<string, ReadonlySet<string>> = new Map(
  Object.entries({
    model: ['unit', 'lang', 'requiredextensions', 'recommendedextensions'],
    metadata: ['name', 'preserve', 'type'],
    metadatagroup: [],
    resources: [],
    build: ['uuid'],
    object: ['id', 'type', 'name', 'pid', 'pindex', 'partnumber', 'thumbnail', 'uuid'],
    mesh: [],
    vertices: [],
    vertex: ['x', 'y', 'z'],
    triangles: [],
    triangle: ['v1', 'v2', 'v3', 'pid', 'p1', 'p2', 'p3'],
    components: [],
    component: ['objectid', 'transform', 'uuid'],
    item: ['objectid', 'transform', 'partnumber', 'printable', 'uuid'],
    basematerials: ['id'],
    base: ['name', 'displaycolor'],
  }).map(([name, attributes]) => [name, new Set(attributes)]),
);

class Reader {
  readonly parts = new Map<string, Part>();
  readonly items: { object: string; at: Transform }[] = [];
  readonly colours = new Map<string, string[]>();
  readonly told = new Tally();
  unit = 'millimeter';
  private part: Part | undefined;
  private materials = '';
  private count = 0;
  private outside = 0;

  open(name: string, attributes: Attributes): void {
    const known = KNOWN.get(name);
    if (this.outside || !known) {
      if (!this.outside++) this.told.add(`element “${name.slice(0, 40)}”`);
      return;
    }
    for (const attribute of strangersAmong(attributes, known))
      // An id of the production extension says nothing of the shape.
      if (!/:uuid$/i.test(attribute)) this.told.add(`attribute “${attribute.slice(0, 40)}” of “${name}”`);
    const has = (key: string) => attributeOf(attributes, key);
    switch (name) {
      case 'model':
        this.unit = has('unit') ?? 'millimeter';
        if (has('requiredextensions')?.trim()) this.told.add(`extension that must be known (${has('requiredextensions')})`);
        break;
      case 'basematerials':
        this.materials = has('id') ?? '';
        this.colours.set(this.materials, []);
        break;
      case 'base':
        this.colours.get(this.materials)?.push(colourOf(has('displaycolor') ?? '', this.told));
        break;
      case 'object': {
        const id = has('id') ?? '';
        const type = has('type') ?? 'model';
        if (type !== 'model') this.told.add(`object of the type “${type}”`);
        const colour = has('pid') === undefined ? '' : (this.colours.get(has('pid')!)?.[Number(has('pindex') ?? 0)] ?? '');
        this.part = { name: has('name') ?? '', colour, materials: new Map(), corners: [], triangles: [], components: [] };
        if (this.parts.has(id)) throw damaged(`Two objects have the id ${id}.`);
        this.parts.set(id, this.part);
        break;
      }
      case 'vertex': {
        const where = `Corner ${this.part ? this.part.corners.length / 3 + 1 : 0}`;
        this.part?.corners.push(
          numberOf(attributes, 'x', where),
          numberOf(attributes, 'y', where),
          numberOf(attributes, 'z', where),
        );
        break;
      }
      case 'triangle': {
        if (++this.count > MOST_TRIANGLES) throw damaged(`There are more than ${MOST_TRIANGLES} triangles.`);
        const where = `Triangle ${this.part ? this.part.triangles.length / 3 + 1 : 0}`;
        this.part?.triangles.push(
          numberOf(attributes, 'v1', where),
          numberOf(attributes, 'v2', where),
          numberOf(attributes, 'v3', where),
        );
        this.material(has('pid'), [has('p1'), has('p2'), has('p3')]);
        break;
      }
      case 'component':
        this.part?.components.push({ object: has('objectid') ?? '', at: transformOf(has('transform'), 'A component') });
        break;
      case 'item':
        if (/^\s*(1|true)\s*$/.test(has('printable') ?? '1'))
          this.items.push({ object: has('objectid') ?? '', at: transformOf(has('transform'), 'An item of the build') });
        else this.told.add('item that is not to be built');
        break;
    }
  }

  /** Counts what a triangle is made of: one thing, or another at each corner (4.1.4). */
  private material(pid: string | undefined, [first, ...others]: readonly (string | undefined)[]): void {
    if (!this.part) return;
    const isOne = others.every((one) => one === undefined || one === first);
    const said = first === undefined ? '' : isOne ? `${pid ?? ''}/${first}` : 'several';
    this.part.materials.set(said, (this.part.materials.get(said) ?? 0) + 1);
  }

  /** The colour of an object whose triangles all say the same; what else they say is told. */
  colourOf({ colour, materials }: Part): string {
    const [[said, count] = ['', 0]] = materials;
    if (materials.size === 1 && said.includes('/')) {
      const [pid, index] = said.split('/') as [string, string];
      // Without a group of its own it is that of the object, which names its colour already.
      const own = this.colours.get(pid)?.[Number(index)];
      if (own !== undefined) return own;
    }
    const several = [...materials].reduce((sum, [one, many]) => sum + (one ? many : 0), 0);
    if (count && several) this.told.add('triangle of another material', several);
    return colour;
  }

  close(): void {
    if (this.outside) this.outside--;
  }
}

/** `#RRGGBB` or `#RRGGBBAA`. */
function colourOf(words: string, told: Tally): string {
  const found = /^#([0-9a-f]{6})([0-9a-f]{2})?$/i.exec(words.trim());
  if (!found) {
    told.add('colour that can’t be read');
    return '';
  }
  if (found[2] && found[2].toLowerCase() !== 'ff') told.add('colour that lets through');
  return `#${found[1]!.toLowerCase()}`;
}

/** @throws Failure `package-damaged`, `3mf-damaged`, `mesh-damaged` */
export function readThreeMf(bytes: Uint8Array): ReadThreeMf {
  const entries = unpackEntries(bytes);
  const [start, ...others] = [...relationsOf(entries, '').values()].filter(({ type }) => type.toLowerCase() === '3dmodel');
  const path = start?.target ?? MODEL;
  const model = entries.get(path) ?? [...entries].find(([name]) => name.toLowerCase() === path.toLowerCase())?.[1];
  if (!model) throw damaged(`The package has no model: “${path}” is not in it.`);
  const reader = new Reader();
  // There is one at most (2.1.1), and another program may begin with any of them.
  for (const { target } of others) if (target !== path) reader.told.add('second model that the package begins with');
  walkXml(model, path, { open: (name, attributes) => reader.open(name, attributes), close: () => reader.close() });
  const unit = UNITS[reader.unit];
  if (!unit) throw damaged(`Its unit is “${reader.unit}”. Known: ${Object.keys(UNITS).join(', ')}.`);
  const placed = { parts: 0 };
  const leaves = reader.items.map(({ object, at }, i): Leaf<'mesh'> => {
    const part = reader.parts.get(object);
    if (!part) throw damaged(`Item ${i + 1} of the build names the object ${object}, which is not there.`);
    const corners: number[] = [];
    const triangles: number[] = [];
    gather(reader.parts, object, after(at, scaling(unit.scale)), corners, triangles, [], placed);
    const body: Mesh = {
      ...meshFrom(
        Float64Array.from(corners),
        Uint32Array.from(triangles),
        { unit: unit.unit, up: 'z' },
        (corner) => `corner ${corner + 1} of object ${object}`,
      ),
      colour: reader.colourOf(part),
    };
    return { kind: 'mesh', key: '', label: part.name, body };
  });
  const built = new Set(reader.items.map(({ object }) => object));
  const used = new Set([...reader.parts.values()].flatMap(({ components }) => components.map(({ object }) => object)));
  for (const id of reader.parts.keys()) if (!built.has(id) && !used.has(id)) reader.told.addUnseen('object that is not built');
  return { leaves, mark: markOf(entries), notUnderstood: reader.told.list() };
}

const scaling = (scale: number): Transform => [scale, 0, 0, 0, scale, 0, 0, 0, scale, 0, 0, 0];

/** An object and those that it is made of, in place. */
function gather(
  parts: ReadonlyMap<string, Part>,
  id: string,
  at: Transform,
  corners: number[],
  triangles: number[],
  open: readonly string[],
  placed: { parts: number },
): void {
  const part = parts.get(id);
  if (!part) throw damaged(`A component names the object ${id}, which is not there.`);
  if (open.includes(id) || open.length > 32) throw damaged(`Object ${id} is made of itself.`);
  if (++placed.parts > MOST_PARTS)
    throw damaged(`It puts together more than ${MOST_PARTS} parts: save it with its parts joined.`);
  const first = corners.length / 3;
  const own = part.corners.length / 3;
  for (let i = 0; i < part.corners.length; i += 3) {
    const [x, y, z] = [part.corners[i]!, part.corners[i + 1]!, part.corners[i + 2]!];
    for (let k = 0; k < 3; k++) corners.push(x * at[k]! + y * at[3 + k]! + z * at[6 + k]! + at[9 + k]!);
  }
  // A mirror turns a solid inside out: its triangles are turned back.
  const mirrored =
    at[0]! * (at[4]! * at[8]! - at[5]! * at[7]!) -
      at[1]! * (at[3]! * at[8]! - at[5]! * at[6]!) +
      at[2]! * (at[3]! * at[7]! - at[4]! * at[6]!) <
    0;
  for (let t = 0; t < part.triangles.length; t += 3) {
    const three = part.triangles.slice(t, t + 3);
    const wrong = three.find((corner) => !Number.isInteger(corner) || corner < 0 || corner >= own);
    if (wrong !== undefined) throw damaged(`Triangle ${t / 3 + 1} of object ${id} names corner ${wrong}, and there are ${own}.`);
    if (mirrored) three.reverse();
    triangles.push(three[0]! + first, three[1]! + first, three[2]! + first);
    if (triangles.length > 3 * MOST_TRIANGLES) throw damaged(`There are more than ${MOST_TRIANGLES} triangles.`);
  }
  for (const component of part.components)
    gather(parts, component.object, after(component.at, at), corners, triangles, [...open, id], placed);
}

function markOf(entries: ReadonlyMap<string, Uint8Array>): string | null {
  const bytes = entries.get(MARK_ENTRY);
  if (!bytes) return null;
  let mark = '';
  walkXml(bytes, MARK_ENTRY, { text: (piece) => void (mark += piece) });
  return mark.trim() || null;
}
