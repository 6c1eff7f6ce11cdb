// Lets tests of drawings speak of display lists and bytes: one board, one file, at once.
import {
  type CarryReport,
  CarryLines,
  type Codec,
  type CopyFile,
  type Comparison,
  type DisplayList,
  type Drawing,
  type Leaf,
  type Master,
  type NotUnderstood,
  type Options,
  type ReadCopy,
  type ReadMaster,
  type Recipe,
  type ToolPath,
  ToolPathBuilder,
  carriesOf,
  codecOf,
  declarationOf,
  derive,
  flatten,
  fromPoints,
  kindById,
  packDrawing,
  parseOptions as parse,
  plainStyle,
  strokePoints,
  unpackDrawing,
} from '../src';
import { shippedFonts } from '../../render/src';

export const services = { fonts: shippedFonts() };

/** A tool path with its strokes as outlines, on a layer for each tool. */
function listOfStrokes(path: ToolPath): DisplayList {
  return {
    kind: 'display-list',
    sheet: null,
    background: null,
    layers: path.tools.map(({ name }) => ({ name, colour: null })),
    entries: Array.from({ length: path.count }, (_, i) => {
      const flat = strokePoints(path, i);
      const points = Array.from({ length: flat.length / 2 }, (__, k) => [flat[2 * k]!, flat[2 * k + 1]!] as const);
      const [first, last] = [points[0]!, points.at(-1)!];
      const closed = points.length > 3 && Math.hypot(first[0] - last[0], first[1] - last[1]) < 1e-9;
      const source = path.sources[path.source[i]!];
      return {
        kind: 'path' as const,
        outlines: [fromPoints(closed ? points.slice(0, -1) : points, closed)],
        layer: path.tools[path.tool[i]!]!.name,
        style: plainStyle,
        ...(source === undefined ? {} : { source }),
      };
    }),
  };
}

function strokesOf(list: DisplayList): ToolPath {
  const builder = new ToolPathBuilder();
  for (const entry of list.entries) {
    if (entry.kind !== 'path') continue;
    const number = Number(/\d+$/.exec(entry.layer)?.[0] ?? 1);
    for (const outline of entry.outlines) {
      const points = flatten(outline, 0.001);
      for (let i = 0; i < points.length; i += 2) builder.point(points[i]!, points[i + 1]!);
      builder.stroke(builder.tool(number, entry.layer), NaN, entry.source);
    }
  }
  return builder.finish();
}

const FORMS: Readonly<Record<string, { open: (body: never) => DisplayList; close: (list: DisplayList) => unknown }>> = {
  drawing: { open: (body: Drawing) => unpackDrawing(body), close: packDrawing },
  toolPath: { open: (body: ToolPath) => listOfStrokes(body), close: strokesOf },
};
const listOfLeaf = ({ kind, body }: Leaf): DisplayList => FORMS[kind]!.open(body as never);
const kindOf = (target: string, options: Options) => Object.keys(declarationOf(target).carries(options))[0]!;

export interface CompareOptions {
  readonly tolerance: number;
  readonly order: 'none' | 'paint' | 'sequence';
  readonly nameOf?: ((source: string) => string | undefined) | undefined;
}

/** Compares two lists: as work of a machine where the order is a sequence, as drawings otherwise. */
export function compare(a: DisplayList, b: DisplayList, { tolerance, order, nameOf }: CompareOptions): Comparison {
  const kind = order === 'sequence' ? 'toolPath' : 'drawing';
  const carries = { order: order === 'none' ? 'left out' : 'kept', speed: 'left out' };
  return kindById(kind).compare(FORMS[kind]!.close(a), FORMS[kind]!.close(b), { tolerance, carries, nameOf });
}

/** What a copy of one board says, and the report. */
export function project(master: Master, recipe: Recipe): { projection: DisplayList; report: CarryReport } {
  const [[id, carries]] = Object.entries(carriesOf(recipe)) as [[string, object]];
  const lines = new CarryLines();
  const kind = kindById(id);
  const body = kind.adapt(kind.resolve(master, recipe.scope, services, carries)[0]!.source, carries, lines, services);
  return { projection: FORMS[id]!.open(body as never), report: lines.report() };
}

/** A target whose reader and writer answer at once. */
export interface FlatTarget {
  readonly id: string;
  readonly write: (list: DisplayList, options: Options, mark: string) => Uint8Array;
  readonly read: (bytes: Uint8Array) => { list: DisplayList; mark: string | null; notUnderstood: readonly NotUnderstood[] };
  readonly bringIn?: (bytes: Uint8Array, name: string) => ReadMaster;
  readonly tolerance: number;
  readonly order: (options: Options) => CompareOptions['order'];
}

const codecs = new Map<string, Codec>();
for (const id of ['svg', 'dxf', 'hpgl']) codecs.set(id, await codecOf(id));

export function targetById(id: string): FlatTarget {
  const codec = codecs.get(id)!;
  const orders = { drawing: 'paint', toolPath: 'sequence' } as const;
  return {
    id,
    write: (list, options, mark) => {
      const kind = kindOf(id, options);
      const says = { leaves: [{ kind, key: '', label: '', body: FORMS[kind]!.close(list) }] };
      return (codec.write(says, options, mark, services) as readonly CopyFile[])[0]!.bytes;
    },
    read: (bytes) => {
      const { leaves, mark, notUnderstood } = codec.read([{ part: '', bytes }], {}, services) as ReadCopy;
      return { list: listOfLeaf(leaves[0]!), mark, notUnderstood };
    },
    ...(codec.bringIn ? { bringIn: codec.bringIn as (bytes: Uint8Array, name: string) => ReadMaster } : {}),
    tolerance: Object.values(codec.declaration.tolerance)[0]!,
    order: (options) => {
      const kind = kindOf(id, options) as keyof typeof orders;
      const { order } = codec.declaration.carries(options)[kind] as { order: string };
      return order === 'left out' ? 'none' : orders[kind];
    },
  };
}

export const parseOptions = (target: { readonly id: string }, given: object): Options =>
  parse(declarationOf(target.id), given as Record<string, unknown>);

/** A copy of one board, made whole, with what it says as a list. */
export async function deriveFlat(master: Master, recipe: Recipe) {
  const made = await derive({ master, rev: 1, time: '2026-11-20T10:00:00.000Z' }, recipe, services);
  return { ...made, bytes: made.files[0]!.bytes, projection: listOfLeaf(made.projection.leaves[0]!) };
}
