import type { Box3 } from '../../contracts/mesh';
import type { Command } from '../../document/commands';
import { newId } from '../../document/ids';
import type { Patch } from '../../document/patches';
import type { Amount, Feature, FeatureOp, Parameter, Solid } from '../../document/solids/schema';
import { numberOf, readExpression } from '../../document/parameters';
import { renamed } from '../tables/formula';
import { namesOf } from '../tables/names';

/** What each kind of feature is called. */
export const OP_WORDS: Readonly<Record<FeatureOp, string>> = {
  extrude: 'Extrude',
  revolve: 'Revolve',
  hole: 'Hole',
  row: 'Row',
  ring: 'Ring',
  fillet: 'Fillet',
  chamfer: 'Chamfer',
  file: 'From a file',
};

type Json = unknown;
type Loose = Record<string, Json> | Json[];

/** A value within a feature, by the names on the way to it; undefined where there is none. */
export function valueAt(feature: Feature, path: readonly (string | number)[]): Json {
  return path.reduce<Json>((at, name) => (at as Record<string, Json> | undefined)?.[name as string], feature);
}

function withValue(node: Json, [name, ...rest]: readonly (string | number)[], value: Json): Json {
  if (name === undefined) return value;
  const copy: Loose = Array.isArray(node) ? [...(node as Json[])] : { ...(node as Record<string, Json>) };
  const inner = withValue((copy as Record<string, Json>)[name as string], rest, value);
  if (inner === undefined && !Array.isArray(copy)) delete copy[name as string];
  else (copy as Record<string, Json>)[name as string] = inner;
  return copy;
}

/** Sets a value within a feature; undefined takes it away. */
export function setInFeature(feature: Feature, path: readonly (string | number)[], value: Json, what: string): Command {
  const [attribute] = path as [string];
  const next = (withValue(feature, path, value) as Record<string, Json>)[attribute];
  return { label: `${feature.name}: ${what}`, patches: [{ op: 'set', node: feature.id, attribute, value: next }] };
}

/** What units an amount of a kind may be written in. */
const WRITTEN = { length: 'mm|cm|m|in|inch|ft|pt', angle: 'deg|rad', number: '(?!)' } as const;

/** What is typed without a name in it, worked out; undefined where that can't be. */
function worth(words: string, wanted: keyof typeof WRITTEN): number | undefined {
  try {
    const expression = readExpression(words);
    return expression.names.size
      ? undefined
      : Number(
          numberOf(
            expression.evaluate(() => ''),
            wanted,
          ).toFixed(9),
        );
  } catch {
    return undefined;
  }
}

/**
 * An amount as people write it: a number with either decimal mark, with a unit (`12 in`, `3/8 in`), or a formula of parameters, in
 * which what has a unit is written in mm or degrees.
 * @param wanted what it measures
 */
export function amountFrom(words: string, wanted: keyof typeof WRITTEN = 'length'): Amount {
  const plain = words.trim();
  const number = Number(/^[-+]?\d+,\d+$/.test(plain) ? plain.replace(',', '.') : plain);
  if (plain !== '' && Number.isFinite(number)) return number;
  const whole = worth(plain.replace(/(\d),(\d+\s*[a-z])/g, '$1.$2'), wanted);
  if (whole !== undefined) return whole;
  const literal = new RegExp(`(\\d+(?:\\.\\d+)?)\\s*(${WRITTEN[wanted]})\\b`, 'g');
  return plain.replace(literal, (all) => String(worth(all, wanted) ?? all));
}

const freeName = (base: string, names: readonly string[]): string => {
  let name = base;
  for (let i = 2; names.includes(name); i++) name = `${base} ${i}`;
  return name;
};

/** A feature to begin with, about where the solid is. */
function begun(op: Exclude<FeatureOp, 'file'>, { features }: Solid, box: Box3 | null): Feature {
  const id = newId();
  const name = freeName(
    OP_WORDS[op],
    features.map((one) => one.name),
  );
  const round = (value: number) => Number(value.toFixed(2));
  const [low, high] = [box?.min ?? [-20, -20, 0], box?.max ?? [20, 20, 10]];
  const middle = [0, 1, 2].map((k) => round((low[k]! + high[k]!) / 2)) as [number, number, number];
  const top = round(high[2]);
  const size = Math.max(2, round(Math.min(high[0] - low[0], high[1] - low[1]) / 4));
  const repeated = [...features].reverse().find((one) => one.op !== 'fillet' && one.op !== 'chamfer' && one.op !== 'file');
  switch (op) {
    case 'extrude':
      return {
        id,
        name,
        op,
        plane: 'xy',
        offset: features.length ? top : 0,
        outline: { shape: 'rectangle', x: middle[0], y: middle[1], width: 2 * size, height: 2 * size },
        by: 10,
        join: 'add',
      };
    case 'revolve':
      return {
        id,
        name,
        op,
        plane: 'xz',
        outline: { shape: 'rectangle', x: size, y: top, width: size, height: size },
        angle: 360,
        join: 'add',
      };
    case 'hole':
      return { id, name, op, axis: 'z', at: [middle[0], middle[1], top], diameter: Math.max(1, round(size / 4)) };
    case 'row':
      return { id, name, op, of: repeated?.id ?? 'none', count: 2, step: [round(size), 0, 0] };
    case 'ring':
      return { id, name, op, of: repeated?.id ?? 'none', count: 4, axis: 'z', centre: [middle[0], middle[1], 0], angle: 90 };
    case 'fillet':
      return { id, name, op, edges: [{ along: 'z' }], radius: 2 };
    case 'chamfer':
      return { id, name, op, edges: [{ on: { axis: 'z', value: top } }], distance: 1 };
  }
}

/** Adds a feature after another, or at the end. @returns the command, and the feature's id */
export function addFeature(
  solid: Solid,
  op: Exclude<FeatureOp, 'file'>,
  box: Box3 | null,
  after: string | null = solid.features.at(-1)?.id ?? null,
): { command: Command; id: string } {
  const node = begun(op, solid, box);
  return {
    command: { label: `Add ${node.name}`, patches: [{ op: 'insert', parent: solid.id, list: 'features', after, node }] },
    id: node.id,
  };
}

/** Removes a feature, and what repeats it. */
export function removeFeature(solid: Solid, id: string): Command {
  const gone = new Set([id]);
  for (const feature of solid.features)
    if ((feature.op === 'row' || feature.op === 'ring') && gone.has(feature.of)) gone.add(feature.id);
  const { name } = solid.features.find((one) => one.id === id)!;
  const also = gone.size > 1 ? `, and ${gone.size - 1} that repeat it` : '';
  return {
    label: `Remove ${name}${also}`,
    patches: [...gone].reverse().map((node): Patch => ({ op: 'remove', parent: solid.id, list: 'features', node })),
  };
}

/** Puts a feature earlier or later. */
export function moveFeature(solid: Solid, id: string, by: -1 | 1): Command | null {
  const at = solid.features.findIndex((one) => one.id === id);
  const to = at + by;
  if (at < 0 || to < 0 || to >= solid.features.length) return null;
  const node = solid.features[at]!;
  const rest = solid.features.filter((one) => one.id !== id);
  return {
    label: `${node.name} ${by < 0 ? 'earlier' : 'later'}`,
    patches: [
      { op: 'remove', parent: solid.id, list: 'features', node: id },
      { op: 'insert', parent: solid.id, list: 'features', after: rest[to - 1]?.id ?? null, node },
    ],
  };
}

/** The words by which formulas call the parameters of a solid. */
export const parameterWords = ({ parameters }: Pick<Solid, 'parameters'>): string[] => [
  ...namesOf(
    [],
    parameters.map(({ name }) => name),
  ).summaries.keys(),
];

/** Every amount of a value that is computed, rewritten. */
function respelled(value: Json, names: ReadonlyMap<string, string>, within: string): Json {
  if (Array.isArray(value)) return value.map((one: Json) => respelled(one, names, within));
  if (typeof value === 'object' && value !== null)
    return Object.fromEntries(Object.entries(value).map(([key, inner]) => [key, respelled(inner, names, key)]));
  return typeof value === 'string' && !WORDS.has(within) ? renamed(value, names) : value;
}
/** What holds words that are no formulas. */
const WORDS: ReadonlySet<string> = new Set([
  'id',
  'name',
  'op',
  'plane',
  'join',
  'axis',
  'along',
  'form',
  'shape',
  'object',
  'of',
  'resource',
  'format',
]);

/** Gives a parameter another name, in all amounts that use it, too. */
export function renameParameter(solid: Solid, id: string, name: string): Command {
  const before = parameterWords(solid);
  const parameters = solid.parameters.map((one) => (one.id === id ? { ...one, name } : one));
  const after = parameterWords({ parameters });
  const names = new Map(before.flatMap((word, i) => (word === after[i] ? [] : [[word, after[i]!] as const])));
  const patches: Patch[] = [{ op: 'set', node: id, attribute: 'name', value: name }];
  if (names.size)
    for (const node of [...solid.parameters, ...solid.features])
      for (const [attribute, value] of Object.entries(node)) {
        const next = respelled(value, names, attribute);
        if (JSON.stringify(next) !== JSON.stringify(value)) patches.push({ op: 'set', node: node.id, attribute, value: next });
      }
  return { label: `Rename to ${name}`, patches };
}

export const setParameter = ({ id, name }: Parameter, value: Amount): Command => ({
  label: `${name}: ${value}`,
  patches: [{ op: 'set', node: id, attribute: 'value', value }],
});

export function addParameter(solid: Solid): Command {
  const name = freeName(
    'size',
    solid.parameters.map((one) => one.name),
  );
  const node: Parameter = { id: newId(), name, value: 10 };
  return {
    label: `Add ${name}`,
    patches: [{ op: 'insert', parent: solid.id, list: 'parameters', after: solid.parameters.at(-1)?.id ?? null, node }],
  };
}

export const removeParameter = (solid: Solid, { id, name }: Parameter): Command => ({
  label: `Remove ${name}`,
  patches: [{ op: 'remove', parent: solid.id, list: 'parameters', node: id }],
});

/** Adds a solid to a master. */
export function addSolid(master: { readonly id: string; readonly solids?: readonly Solid[] | undefined }): {
  command: Command;
  id: string;
} {
  const id = newId();
  const name = freeName(
    'Solid',
    (master.solids ?? []).map((one) => one.name),
  );
  const node: Solid = {
    id,
    name,
    parameters: [],
    features: [begun('extrude', { id, name, parameters: [], features: [] }, null)],
  };
  return {
    command: {
      label: `Add ${name}`,
      patches: [{ op: 'insert', parent: master.id, list: 'solids', after: master.solids?.at(-1)?.id ?? null, node }],
    },
    id,
  };
}
