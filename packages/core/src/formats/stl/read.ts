import { plainNumber } from '../../base/bytes/numbers';
import type { Mesh } from '../../contracts/mesh';
import { Failure } from '../../base/failure/failure';
import { type FrameOf, MOST_TRIANGLES, meshFrom } from '../solids/frame';
import { FACET, HEAD } from './declare';

/** What stands in a file of triangles. */
export interface ReadStl {
  readonly mesh: Mesh;
  /** Its header, or the name of its first solid. */
  readonly name: string;
  readonly encoding: 'binary' | 'text';
  /** Triangles whose stated normal points another way than their corners. */
  readonly against: number;
  /** Bytes of triangles that say something besides: colours of some programs. */
  readonly attributes: number;
  /** Bytes after the last triangle. */
  readonly rest: number;
}

const damaged = (message: string, where: object = {}): Failure => new Failure('stl-damaged', message, where);

/** A text file begins with `solid` and has facets; some programs begin binary ones so, too. */
function isText(bytes: Uint8Array): boolean {
  const head = new TextDecoder().decode(bytes.subarray(0, 2048));
  if (!/^\s*solid\b/i.test(head)) return false;
  if (bytes.length >= HEAD) {
    const count = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength).getUint32(80, true);
    if (HEAD + FACET * count === bytes.length) return false;
  }
  return !head.includes('\0');
}

/** @throws Failure `stl-damaged`, `mesh-damaged` with the place */
export function readStl(bytes: Uint8Array, frame: FrameOf): ReadStl {
  return isText(bytes) ? readText(bytes, frame) : readBinary(bytes, frame);
}

/** How many stated normals point against the corners: then a reader that trusts them sees the inside. */
function againstOf(normals: Float32Array | Float64Array, corners: Float32Array | Float64Array): number {
  let against = 0;
  for (let t = 0; 3 * t < normals.length; t++) {
    const [a, b, c] = [9 * t, 9 * t + 3, 9 * t + 6];
    const [ux, uy, uz] = [corners[b]! - corners[a]!, corners[b + 1]! - corners[a + 1]!, corners[b + 2]! - corners[a + 2]!];
    const [vx, vy, vz] = [corners[c]! - corners[a]!, corners[c + 1]! - corners[a + 1]!, corners[c + 2]! - corners[a + 2]!];
    const n = [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx] as const;
    const along = n[0] * normals[3 * t]! + n[1] * normals[3 * t + 1]! + n[2] * normals[3 * t + 2]!;
    const size = Math.hypot(...n) * Math.hypot(normals[3 * t]!, normals[3 * t + 1]!, normals[3 * t + 2]!);
    if (along < -0.5 * size && size > 1e-12) against++;
  }
  return against;
}

function readBinary(bytes: Uint8Array, frame: FrameOf): ReadStl {
  if (bytes.length < HEAD)
    throw damaged(`This is no STL: it has ${bytes.length} bytes, and a binary one has ${HEAD} before its first triangle.`);
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const count = view.getUint32(80, true);
  const there = Math.floor((bytes.length - HEAD) / FACET);
  if (count > there)
    throw damaged(
      `The file says that it holds ${count} triangles, and there are bytes for ${there}: it was cut off, or its count is wrong. Ask for it again.`,
      { byte: HEAD + there * FACET },
    );
  if (count > MOST_TRIANGLES) throw damaged(`${count} triangles are more than the ${MOST_TRIANGLES} that can be read.`);
  const corners = new Float32Array(9 * count);
  const normals = new Float32Array(3 * count);
  let attributes = 0;
  for (let t = 0; t < count; t++) {
    const at = HEAD + FACET * t;
    for (let k = 0; k < 3; k++) normals[3 * t + k] = view.getFloat32(at + 4 * k, true);
    for (let k = 0; k < 9; k++) corners[9 * t + k] = view.getFloat32(at + 12 + 4 * k, true);
    if (view.getUint16(at + 48, true)) attributes++;
  }
  const rest = bytes.length - HEAD - FACET * count;
  return {
    mesh: meshFrom(corners, undefined, frame, (corner) => `triangle ${Math.floor(corner / 3) + 1}`),
    name: new TextDecoder('latin1').decode(bytes.subarray(0, 80)).replace(/\0.*$/s, '').trim(),
    encoding: 'binary',
    against: againstOf(normals, corners),
    attributes,
    rest: rest === 0 ? 0 : rest,
  };
}

const WORDS = /[^\s]+/g;

/** Walks through the words of a text file: `facet normal`, `outer loop`, three of `vertex`, `endloop`, `endfacet`. */
function readText(bytes: Uint8Array, frame: FrameOf): ReadStl {
  const text = new TextDecoder().decode(bytes);
  const lineAt = (at: number) => text.slice(0, at).split('\n').length;
  const refuse = (message: string, at: number) => damaged(`${message} in line ${lineAt(at)}.`, { line: lineAt(at) });
  const corners: number[] = [];
  const normals: number[] = [];
  let name = '';
  let open: 'file' | 'solid' | 'facet' | 'loop' = 'file';
  let inLoop = 0;
  // Names of solids go on to the end of their line.
  const lines = /[^\r\n]+/g;
  for (let line = lines.exec(text); line; line = lines.exec(text)) {
    const words = line[0].match(WORDS);
    if (!words) continue;
    const at = line.index;
    for (let i = 0; i < words.length;) {
      const word = words[i]!.toLowerCase();
      const numbers = (count: number): void => {
        for (let k = 1; k <= count; k++) {
          const said = words[i + k];
          const value = plainNumber(said ?? '');
          if (Number.isNaN(value)) throw refuse(`“${said ?? 'the end of the line'}” stands where a number is needed`, at);
          (count === 3 && word === 'vertex' ? corners : normals).push(value);
        }
      };
      if (word === 'vertex') {
        if (open !== 'loop') throw refuse('A corner stands outside of a triangle', at);
        numbers(3);
        if (++inLoop > 3) throw refuse('A facet has more than three corners', at);
        i += 4;
      } else if (word === 'facet') {
        if (open !== 'solid') throw refuse('A facet begins within another', at);
        open = 'facet';
        i += 1;
        if (words[i]?.toLowerCase() === 'normal') {
          numbers(3);
          i += 4;
        } else normals.push(0, 0, 0);
      } else if (word === 'outer') {
        if (open !== 'facet') throw refuse('A loop stands outside of a facet', at);
        open = 'loop';
        inLoop = 0;
        i += 2;
      } else if (word === 'endloop') {
        if (open !== 'loop' || inLoop !== 3) throw refuse(`A facet has ${inLoop} corners`, at);
        open = 'facet';
        i += 1;
      } else if (word === 'endfacet') {
        if (open !== 'facet') throw refuse('A facet ends that did not begin', at);
        open = 'solid';
        i += 1;
      } else if (word === 'solid') {
        if (open !== 'file') throw refuse('A solid begins within another', at);
        open = 'solid';
        name ||= words.slice(i + 1).join(' ');
        i = words.length;
      } else if (word === 'endsolid') {
        if (open !== 'solid') throw refuse('A solid ends in the middle of a facet', at);
        open = 'file';
        i = words.length;
      } else throw refuse(`“${words[i]!.slice(0, 30)}” is no word of an STL`, at);
    }
    if (corners.length > 9 * MOST_TRIANGLES) throw refuse(`There are more than ${MOST_TRIANGLES} triangles`, at);
  }
  if (open !== 'file')
    throw damaged('The file ends in the middle of a solid: it was cut off. Ask for it again.', { line: lineAt(text.length) });
  const [places, facing] = [Float64Array.from(corners), Float64Array.from(normals)];
  return {
    mesh: meshFrom(places, undefined, frame, (corner) => `triangle ${Math.floor(corner / 3) + 1}`),
    name,
    encoding: 'text',
    against: againstOf(facing, places),
    attributes: 0,
    rest: 0,
  };
}
