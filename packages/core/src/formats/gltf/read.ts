import { fromBase64 } from '../../base/bytes/base64';
import { saidTwice } from '../../base/bytes/said-twice';
import { Tally } from '../../contracts/tally';
import type { Leaf } from '../../contracts/leaf';
import { Failure } from '../../base/failure/failure';
import type { NotUnderstood } from '../../contracts/not-understood';
import { MOST_PARTS, MOST_TRIANGLES, meshFrom } from '../solids/frame';
import { reportUnknownMembers } from './known';
import { Gltf } from './schema';

interface ReadGltf {
  readonly leaves: readonly Leaf<'mesh'>[];
  readonly mark: string | null;
  readonly notUnderstood: readonly NotUnderstood[];
}

const damaged = (message: string): Failure => new Failure('gltf-damaged', message);

/** The document and its numbers out of the binary container, or the document alone (2.0, chapter 4). */
function opened(bytes: Uint8Array, told: Tally): { text: Uint8Array; data: Uint8Array | null } {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (bytes.length < 4 || view.getUint32(0, true) !== 0x46546c67) return { text: bytes, data: null };
  if (bytes.length < 20) throw damaged('The file ends within its head: it was cut off.');
  if (view.getUint32(4, true) !== 2) throw damaged(`Its container is of version ${view.getUint32(4, true)}; version 2 is read.`);
  const stated = view.getUint32(8, true);
  if (stated > bytes.length)
    throw damaged(`The file says that it has ${stated} bytes, and there are ${bytes.length}: it was cut off. Ask for it again.`);
  let text: Uint8Array | null = null;
  let data: Uint8Array | null = null;
  for (let at = 12; at + 8 <= stated;) {
    const length = view.getUint32(at, true);
    const kind = view.getUint32(at + 4, true);
    if (at + 8 + length > stated) throw damaged(`A part of the file says that it has ${length} bytes, more than there are.`);
    const part = bytes.subarray(at + 8, at + 8 + length);
    // One reader takes the first of two, another the last.
    if (kind === 0x4e4f534a) {
      if (text) told.addBeyondSight('second document');
      text ??= part;
    } else if (kind === 0x004e4942) {
      if (data) told.addBeyondSight('second list of numbers');
      data ??= part;
    }
    at += 8 + length;
  }
  if (stated < bytes.length) told.addBeyondSight('bytes after the end that the file states');
  if (!text) throw damaged('There is no document in it.');
  return { text, data };
}

function parsed(text: Uint8Array, told: Tally): Gltf {
  let value: unknown;
  try {
    const words = new TextDecoder('utf-8', { fatal: true }).decode(text).replace(/^\ufeff/, '');
    value = JSON.parse(words);
    for (const member of saidTwice(words)) told.addBeyondSight(`member “${member}” that is said twice`);
  } catch (error) {
    throw damaged(`Its document is no JSON: ${error instanceof Error ? error.message : ''}.`);
  }
  const found = Gltf.safeParse(value);
  if (found.success) return found.data;
  const issue = found.error.issues[0]!;
  throw damaged(`Its document is not as it should be: ${issue.path.join('.') || 'it'} ${issue.message}.`);
}

/** Four rows and columns, column by column, as the format states them. */
type Matrix = readonly number[];
const IDENTITY: Matrix = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1];

function times(a: Matrix, b: Matrix): Matrix {
  return Array.from({ length: 16 }, (_, i) => {
    const [column, row] = [Math.floor(i / 4), i % 4];
    return [0, 1, 2, 3].reduce((sum, k) => sum + a[4 * k + row]! * b[4 * column + k]!, 0);
  });
}

function matrixOf({
  matrix,
  translation = [0, 0, 0],
  rotation = [0, 0, 0, 1],
  scale = [1, 1, 1],
}: Gltf['nodes'][number]): Matrix {
  if (matrix) return matrix;
  const [x, y, z, w] = rotation as [number, number, number, number];
  const [a, b, c] = scale as [number, number, number];
  const [tx, ty, tz] = translation as [number, number, number];
  return [
    ...[a * (1 - 2 * (y * y + z * z)), a * 2 * (x * y + z * w), a * 2 * (x * z - y * w), 0],
    ...[b * 2 * (x * y - z * w), b * (1 - 2 * (x * x + z * z)), b * 2 * (y * z + x * w), 0],
    ...[c * 2 * (x * z + y * w), c * 2 * (y * z - x * w), c * (1 - 2 * (x * x + y * y)), 0],
    ...[tx, ty, tz, 1],
  ];
}

const SIZES: Readonly<Record<number, number>> = { 5120: 1, 5121: 1, 5122: 2, 5123: 2, 5125: 4, 5126: 4 };
const WIDTHS: Readonly<Record<string, number>> = { SCALAR: 1, VEC2: 2, VEC3: 3, VEC4: 4 };

class Numbers {
  constructor(
    private readonly document: Gltf,
    private readonly data: Uint8Array | null,
  ) {}

  private buffer(at: number): Uint8Array {
    const buffer = this.document.buffers[at];
    if (!buffer) throw damaged(`It names buffer ${at}, which is not there.`);
    const bytes = this.bytesOf(at, buffer.uri);
    if (buffer.byteLength > bytes.length)
      throw damaged(`Buffer ${at} says that it has ${buffer.byteLength} bytes, and there are ${bytes.length}.`);
    return bytes;
  }

  private bytesOf(at: number, uri: string | undefined): Uint8Array {
    if (uri === undefined) {
      if (at === 0 && this.data) return this.data;
      throw damaged(`The numbers of buffer ${at} are not in the file.`);
    }
    const inside = /^data:[^,]*;base64,/.exec(uri);
    if (inside) return fromBase64(uri.slice(inside[0].length));
    throw damaged(
      `Its numbers stand in another file, “${uri.slice(0, 80)}”. Bring in a zip with both, or ask for one file with all in it (.glb).`,
    );
  }

  /** The numbers that an accessor names, as they are meant. */
  of(at: number): Float64Array {
    const accessor = this.document.accessors[at];
    if (!accessor) throw damaged(`It names accessor ${at}, which is not there.`);
    const size = SIZES[accessor.componentType];
    const width = WIDTHS[accessor.type];
    if (!size || !width)
      throw damaged(`Accessor ${at} is of a kind that does not exist (${accessor.type}, ${accessor.componentType}).`);
    if (accessor.sparse)
      throw damaged(`Accessor ${at} states only what differs, which is not read yet. Ask for one with all numbers.`);
    const all = accessor.count * width;
    if (all > 9 * MOST_TRIANGLES) throw damaged(`Accessor ${at} has ${accessor.count} entries, more than are read.`);
    const out = new Float64Array(all);
    if (accessor.bufferView === undefined) return out;
    const view = this.document.bufferViews[accessor.bufferView];
    if (!view) throw damaged(`Accessor ${at} names a view that is not there.`);
    const bytes = this.buffer(view.buffer);
    if ((view.byteOffset ?? 0) + view.byteLength > bytes.length)
      throw damaged(`View ${accessor.bufferView} goes on beyond its buffer of ${bytes.length} bytes.`);
    const step = view.byteStride ?? size * width;
    const start = (view.byteOffset ?? 0) + (accessor.byteOffset ?? 0);
    const end = start + (accessor.count ? step * (accessor.count - 1) + size * width : 0);
    if (end > bytes.length || end > (view.byteOffset ?? 0) + view.byteLength)
      throw damaged(
        `Accessor ${at} goes on beyond its numbers: ${end} bytes are needed, and there are ${Math.min(bytes.length, (view.byteOffset ?? 0) + view.byteLength)}.`,
      );
    const data = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
    const read: Readonly<Record<number, (at: number) => number>> = {
      5120: (i) => data.getInt8(i),
      5121: (i) => data.getUint8(i),
      5122: (i) => data.getInt16(i, true),
      5123: (i) => data.getUint16(i, true),
      5125: (i) => data.getUint32(i, true),
      5126: (i) => data.getFloat32(i, true),
    };
    const one = read[accessor.componentType]!;
    const most: Readonly<Record<number, number>> = { 5120: 127, 5121: 255, 5122: 32767, 5123: 65535 };
    const share = accessor.normalized ? (most[accessor.componentType] ?? 1) : 1;
    for (let i = 0; i < accessor.count; i++)
      for (let k = 0; k < width; k++) {
        const value = one(start + i * step + k * size) / share;
        out[i * width + k] = accessor.normalized ? Math.max(value, -1) : value;
      }
    return out;
  }
}

const srgb = (value: number): number => (value <= 0.0031308 ? 12.92 * value : 1.055 * value ** (1 / 2.4) - 0.055);
const colourOf = (factor: readonly number[]): string =>
  `#${factor
    .slice(0, 3)
    .map((value) =>
      Math.round(255 * Math.min(1, Math.max(0, srgb(value))))
        .toString(16)
        .padStart(2, '0'),
    )
    .join('')}`;

/** What says nothing of shape, name or colour: directions and pictures of surfaces, and how they shine. */
const NEUTRAL = /^(NORMAL|TANGENT|TEXCOORD_\d+)$/;

class Reader {
  readonly leaves: Leaf<'mesh'>[] = [];
  private readonly numbers: Numbers;
  /** Nodes and triangles so far, each as often as it is named. */
  private placed = 0;
  private triangles = 0;

  constructor(
    private readonly document: Gltf,
    data: Uint8Array | null,
    private readonly told: Tally,
  ) {
    this.numbers = new Numbers(document, data);
    for (const name of document.extensionsRequired ?? []) this.told.add(`extension “${name.slice(0, 60)}” that must be known`);
    if (document.animations?.length) this.told.add('movement');
    if (document.skins?.length) this.told.add('skin that moves corners');
    reportUnknownMembers(document, this.told);
    const roots = document.scenes.length ? (document.scenes[document.scene ?? 0]?.nodes ?? []) : this.orphans();
    for (const root of roots) this.node(root, IDENTITY, []);
  }

  private orphans(): number[] {
    const children = new Set(this.document.nodes.flatMap((node) => node.children ?? []));
    return [...this.document.nodes.keys()].filter((at) => !children.has(at));
  }

  private node(at: number, around: Matrix, open: readonly number[]): void {
    const node = this.document.nodes[at];
    if (!node) throw damaged(`It names node ${at}, which is not there.`);
    if (open.includes(at) || open.length > 64) throw damaged(`Node ${at} stands within itself.`);
    if (++this.placed > MOST_PARTS)
      throw damaged(`It puts together more than ${MOST_PARTS} parts: save it with its parts joined.`);
    // A matrix alone, or the three that it is made of; and one that moves things, no more (2.0, 3.5.3).
    if (node.matrix && (node.translation || node.rotation || node.scale)) this.told.add('node that is placed twice');
    if (node.matrix?.some((value, i) => i % 4 === 3 && value !== (i === 15 ? 1 : 0))) this.told.add('matrix that is no place');
    const matrix = times(around, matrixOf(node));
    if (node.mesh !== undefined) this.mesh(node.mesh, matrix, node.name);
    for (const child of node.children ?? []) this.node(child, matrix, [...open, at]);
  }

  private colour(material: number | undefined): string {
    if (material === undefined) return '';
    const factor = this.document.materials[material]?.pbrMetallicRoughness?.baseColorFactor;
    if (factor && factor[3]! < 1) this.told.add('colour that lets through');
    if (JSON.stringify(this.document.materials[material] ?? {}).includes('Texture')) this.told.add('picture on a surface');
    return factor ? colourOf(factor) : '#ffffff';
  }

  /** Whether corners lie within what is said of them, and reach its ends: programs draw only what they expect there (2.0, 3.6.2.5). */
  private isBounded(at: number, places: Float64Array): boolean {
    const { min, max, normalized = false } = this.document.accessors[at]!;
    if (!min || !max || min.length !== 3 || max.length !== 3) return false;
    if (normalized || !places.length) return true;
    return [0, 1, 2].every((k) => {
      let [low, high] = [Infinity, -Infinity];
      for (let i = k; i < places.length; i += 3) {
        low = Math.min(low, places[i]!);
        high = Math.max(high, places[i]!);
      }
      const near = 1e-5 * Math.max(high - low, Math.abs(low), Math.abs(high));
      return Math.abs(low - min[k]!) <= near && Math.abs(high - max[k]!) <= near;
    });
  }

  private mesh(at: number, m: Matrix, name: string | undefined): void {
    const mesh = this.document.meshes[at];
    if (!mesh) throw damaged(`It names mesh ${at}, which is not there.`);
    const corners: number[] = [];
    const triangles: number[] = [];
    const colours = new Set<string>();
    for (const { attributes, indices, material, mode = 4 } of mesh.primitives) {
      for (const attribute of Object.keys(attributes))
        if (attribute !== 'POSITION' && !NEUTRAL.test(attribute)) this.told.add(`“${attribute.slice(0, 30)}” of corners`);
      if (attributes['POSITION'] === undefined) continue;
      if (mode < 4) {
        this.told.add(mode === 0 ? 'points' : 'lines');
        continue;
      }
      const places = this.numbers.of(attributes['POSITION']);
      if (!this.isBounded(attributes['POSITION'], places)) this.told.addBeyondSight('bounds that are not those of their corners');
      const count = places.length / 3;
      const order = indices === undefined ? Float64Array.from({ length: count }, (_, i) => i) : this.numbers.of(indices);
      const first = corners.length / 3;
      for (let i = 0; i < places.length; i += 3) {
        const [x, y, z] = [places[i]!, places[i + 1]!, places[i + 2]!];
        for (let k = 0; k < 3; k++) corners.push(m[k]! * x + m[4 + k]! * y + m[8 + k]! * z + m[12 + k]!);
      }
      const wrong = order.find((corner) => corner >= count);
      if (wrong !== undefined) throw damaged(`Mesh ${at} names corner ${wrong}, and there are ${count}.`);
      const add = (a: number, b: number, c: number) => triangles.push(order[a]! + first, order[b]! + first, order[c]! + first);
      if (mode === 4) for (let t = 0; t + 2 < order.length; t += 3) add(t, t + 1, t + 2);
      else if (mode === 5) for (let t = 0; t + 2 < order.length; t++) add(t, t + 1 + (t % 2), t + 2 - (t % 2));
      else for (let t = 1; t + 1 < order.length; t++) add(0, t, t + 1);
      if (this.triangles + triangles.length / 3 > MOST_TRIANGLES)
        throw damaged(`There are more than ${MOST_TRIANGLES} triangles.`);
      colours.add(this.colour(material));
    }
    if (!triangles.length) return;
    this.triangles += triangles.length / 3;
    const turned =
      m[0]! * (m[5]! * m[10]! - m[6]! * m[9]!) -
      m[4]! * (m[1]! * m[10]! - m[2]! * m[9]!) +
      m[8]! * (m[1]! * m[6]! - m[2]! * m[5]!);
    // A mirror turns a solid inside out: its triangles are turned back (2.0, 3.7.4).
    if (turned < 0)
      for (let t = 0; t < triangles.length; t += 3) [triangles[t], triangles[t + 1]] = [triangles[t + 1]!, triangles[t]!];
    if (colours.size > 1) this.told.add('solid of several colours');
    const [colour = ''] = colours;
    const body = meshFrom(
      Float64Array.from(corners),
      Uint32Array.from(triangles),
      { unit: 'm', up: 'y' },
      (corner) => `corner ${corner + 1} of mesh ${at}`,
    );
    this.leaves.push({ kind: 'mesh', key: '', label: name ?? mesh.name ?? '', body: { ...body, colour } });
  }
}

/** @throws Failure `gltf-damaged`, `base64-damaged`, `mesh-damaged` with the place */
export function readGltf(bytes: Uint8Array): ReadGltf {
  const told = new Tally();
  const { text, data } = opened(bytes, told);
  const document = parsed(text, told);
  const { version, minVersion = version } = document.asset;
  if (!/^2\./.test(version) || !/^2\.0/.test(minVersion)) {
    const needed = /^2\./.test(version) ? minVersion : version;
    throw damaged(`A reader of version ${needed.slice(0, 20)} is needed; 2.0 is read.`);
  }
  const { leaves } = new Reader(document, data, told);
  return { leaves, mark: document.asset.extras?.origin ?? null, notUnderstood: told.list() };
}
