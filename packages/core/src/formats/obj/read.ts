import { plainNumber } from '../../base/bytes/numbers';
import type { Leaf } from '../../contracts/leaf';
import { Failure } from '../../base/failure/failure';
import type { NotUnderstood } from '../../contracts/not-understood';
import { MOST_CORNERS, trianglesOf } from '../solids/faces';
import { type FrameOf, MOST_TRIANGLES, meshFrom } from '../solids/frame';

interface ReadObj {
  readonly leaves: readonly Leaf<'mesh'>[];
  readonly mark: string | null;
  readonly notUnderstood: readonly NotUnderstood[];
}

/**
 * What says nothing of the shape: directions and pictures of surfaces, smoothing, groups within an object. Colours stand in another
 * file and are no part of such a copy.
 */
const NEUTRAL: ReadonlySet<string> = new Set(['vn', 'vt', 's', 'g', 'usemtl', 'mtllib']);

/**
 * Reads the polygonal part of an OBJ. Faces of more than three corners become triangles.
 * @throws Failure `obj-damaged`, `mesh-damaged` with the line
 */
export function readObj(bytes: Uint8Array, frame: FrameOf): ReadObj {
  const text = new TextDecoder().decode(bytes);
  const corners: number[] = [];
  const objects: { name: string; triangles: number[] }[] = [];
  const told = new Map<string, number>();
  let current: { name: string; triangles: number[] } | undefined;
  let mark: string | null = null;
  let number = 0;
  let all = 0;
  const report = (kind: string) => told.set(kind, (told.get(kind) ?? 0) + 1);
  const damaged = (message: string) => new Failure('obj-damaged', `${message} in line ${number}.`, { line: number });
  for (let line of text.replace(/\\\r?\n/g, ' ').split(/\r\n|\n|\r/)) {
    number++;
    // A name is all that stands there: programs that write names with # outnumber those that write remarks behind them.
    const named = /^\s*o\s/.exec(line)?.[0];
    if (named !== undefined) {
      objects.push((current = { name: line.slice(named.length).trim().replace(/\s+/g, ' '), triangles: [] }));
      continue;
    }
    const note = line.indexOf('#');
    if (note >= 0) {
      const words = line.slice(note + 1).trim();
      if (words.startsWith('inkwell-twin;')) mark ??= words;
      line = line.slice(0, note);
    }
    const words = line.trim().split(/\s+/);
    const [key, ...values] = words;
    if (!key) continue;
    if (key === 'v') {
      const place = values.slice(0, 3).map(plainNumber);
      if (values.length < 3 || place.some((value) => Number.isNaN(value)))
        throw damaged(`A corner is not three numbers (“${line.trim().slice(0, 60)}”)`);
      corners.push(...place);
      // Some programs paint corners; a fourth number alone is a weight.
      if (values.length > 4) report('colour of a corner');
      else if (values.length === 4 && Number(values[3]) !== 1) report('weight of a corner');
    } else if (key === 'f') {
      const count = corners.length / 3;
      const ids = values.map((value) => {
        const said = plainNumber(value.split('/')[0]!);
        const at = said < 0 ? count + said : said - 1;
        if (!Number.isInteger(said) || at < 0 || at >= count)
          throw damaged(`A face names corner ${value.split('/')[0]}, and there are ${count} before it`);
        return at;
      });
      if (ids.length < 3) throw damaged(`A face has ${ids.length} corners`);
      if (!current) objects.push((current = { name: '', triangles: [] }));
      all += ids.length - 2;
      if (all > MOST_TRIANGLES) throw damaged(`There are more than ${MOST_TRIANGLES} triangles`);
      const triangles = trianglesOf(ids, corners);
      if (triangles) for (const corner of triangles) current.triangles.push(corner);
      else report(`face of more than ${MOST_CORNERS} corners that turns inwards`);
    } else if (key === 'o') objects.push((current = { name: '', triangles: [] }));
    else if (!NEUTRAL.has(key)) report(`“${key.slice(0, 20)}” of an OBJ`);
  }
  const places = Float64Array.from(corners);
  const leaves = objects
    .filter(({ triangles }) => triangles.length)
    .map(({ name, triangles }): Leaf<'mesh'> => ({
      kind: 'mesh',
      key: '',
      label: name,
      body: meshFrom(places, Uint32Array.from(triangles), frame, (corner) => `corner ${corner + 1}`),
    }));
  return {
    leaves: leaves.map(withOwnCorners),
    mark,
    notUnderstood: [...told].map(([kind, count]) => ({ kind, count, shows: true })),
  };
}

/** Each object keeps the corners that it uses: those of all stand in one list in the file. */
function withOwnCorners(leaf: Leaf<'mesh'>): Leaf<'mesh'> {
  const { positions, triangles } = leaf.body;
  const of = new Int32Array(positions.length / 3).fill(-1);
  const own: number[] = [];
  const named = triangles.map((corner) => {
    if (of[corner]! < 0) {
      of[corner] = own.length / 3;
      own.push(positions[3 * corner]!, positions[3 * corner + 1]!, positions[3 * corner + 2]!);
    }
    return of[corner]!;
  });
  return { ...leaf, body: { ...leaf.body, positions: Float64Array.from(own), triangles: named } };
}
