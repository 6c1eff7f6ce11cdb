import { toBase64 } from '../../base/bytes/base64';
import type { Leaf } from '../../contracts/leaf';
import type { Mesh } from '../../contracts/mesh';
import type { Options } from '../../contracts/declaration';
import { placed } from '../solids/frame';

/** A part of a colour as light: glTF states colours so (2.0, 3.9.2). */
const light = (value: number): number => (value <= 0.04045 ? value / 12.92 : ((value + 0.055) / 1.055) ** 2.4);
const factorOf = (colour: string): number[] => [
  ...[1, 3, 5].map((at) => Number(light(parseInt(colour.slice(at, at + 2), 16) / 255).toFixed(6))),
  1,
];

/** Solids as glTF: a node, a mesh and a pair of lists of numbers each. */
export function writeGltf(leaves: readonly Leaf[], options: Options, mark: string): Uint8Array {
  const meshes = leaves.map(({ body }) => body as Mesh);
  const colours = [...new Set(meshes.map(({ colour }) => colour).filter(Boolean))];
  const pieces: Uint8Array[] = [];
  const views: object[] = [];
  const accessors: object[] = [];
  let length = 0;
  const add = (bytes: Uint8Array, target: number): number => {
    views.push({ buffer: 0, byteOffset: length, byteLength: bytes.length, target });
    pieces.push(bytes);
    length += bytes.length;
    return views.length - 1;
  };
  const bytesOf = (view: ArrayBufferView) => new Uint8Array(view.buffer, view.byteOffset, view.byteLength);
  for (const mesh of meshes) {
    const corners = Float32Array.from(placed(mesh.positions, { unit: 'm', up: 'y' }));
    const [min, max] = [Math.min, Math.max].map((best, which) =>
      [0, 1, 2].map((k) => {
        let value = which ? -Infinity : Infinity;
        for (let i = k; i < corners.length; i += 3) value = best(value, corners[i]!);
        return value;
      }),
    );
    const place = add(bytesOf(corners), 34962);
    accessors.push({ bufferView: place, componentType: 5126, count: corners.length / 3, type: 'VEC3', min, max });
    const indices = add(bytesOf(mesh.triangles.slice()), 34963);
    accessors.push({ bufferView: indices, componentType: 5125, count: mesh.triangles.length, type: 'SCALAR' });
  }
  const document = (buffer: object) =>
    JSON.stringify({
      asset: { version: '2.0', extras: { origin: mark } },
      scene: 0,
      scenes: [{ nodes: meshes.map((_, i) => i) }],
      nodes: leaves.map(({ label }, i) => ({ ...(label ? { name: label } : {}), mesh: i })),
      meshes: meshes.map(({ colour }, i) => ({
        primitives: [
          {
            attributes: { POSITION: 2 * i },
            indices: 2 * i + 1,
            ...(colour ? { material: colours.indexOf(colour) } : {}),
            mode: 4,
          },
        ],
      })),
      ...(colours.length
        ? {
            materials: colours.map((colour) => ({
              pbrMetallicRoughness: { baseColorFactor: factorOf(colour), metallicFactor: 0, roughnessFactor: 0.8 },
            })),
          }
        : {}),
      accessors,
      bufferViews: views,
      buffers: [buffer],
    });
  const data = new Uint8Array(length);
  let at = 0;
  for (const piece of pieces) {
    data.set(piece, at);
    at += piece.length;
  }
  if (options['encoding'] === 'text')
    return new TextEncoder().encode(
      `${document({ byteLength: length, uri: `data:application/octet-stream;base64,${toBase64(data)}` })}\n`,
    );
  return binary(document({ byteLength: length }), data);
}

/** The binary container (2.0, chapter 4): a head, the document and the numbers, each as long as a multiple of four. */
function binary(document: string, data: Uint8Array): Uint8Array {
  const text = new TextEncoder().encode(document);
  const padded = (length: number) => (length + 3) & ~3;
  const bytes = new Uint8Array(12 + 8 + padded(text.length) + 8 + padded(data.length));
  const view = new DataView(bytes.buffer);
  view.setUint32(0, 0x46546c67, true);
  view.setUint32(4, 2, true);
  view.setUint32(8, bytes.length, true);
  view.setUint32(12, padded(text.length), true);
  view.setUint32(16, 0x4e4f534a, true);
  bytes.fill(0x20, 20, 20 + padded(text.length));
  bytes.set(text, 20);
  const at = 20 + padded(text.length);
  view.setUint32(at, padded(data.length), true);
  view.setUint32(at + 4, 0x004e4942, true);
  bytes.set(data, at + 8);
  return bytes;
}
