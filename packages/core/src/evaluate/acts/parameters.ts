import { scopeOfMaster } from '../drawn/drawn';
import { Failure } from '../../base/failure/failure';
import { type Command, set, wordOf } from '../../document/commands';
import { newId } from '../../document/ids';
import { type Parameter, isQuantity, readExpression, stretchesOf, withNames, wrongName } from '../../document/parameters';
import type { Patch } from '../../document/patches';
import type { Master, Node } from '../../document/schema';
import { allItems, nodeInWords, pathTo } from '../../document/tree';

/** A place that names parameters: an attribute of a node, and what stands there. */
interface Place {
  readonly node: Node;
  /** The attribute to set where it is to be written anew. */
  readonly attribute: string;
  readonly text: string;
  /** Whether it is a wording with slots rather than one expression. */
  readonly wording: boolean;
}

function* placesIn(master: Master): Generator<Place> {
  for (const parameter of master.parameters ?? [])
    if (typeof parameter.value === 'string')
      yield { node: parameter, attribute: 'value', text: parameter.value, wording: parameter.measure === 'text' };
  const holders = [...master.boards, ...master.symbols];
  for (const holder of holders) {
    if ('formulas' in holder && holder.formulas)
      for (const [attribute, text] of Object.entries(holder.formulas))
        yield { node: holder, attribute: `formulas.${attribute}`, text, wording: false };
    for (const item of allItems(holder.items)) {
      for (const [attribute, text] of Object.entries(item.formulas ?? {}))
        yield { node: item, attribute: `formulas.${attribute}`, text, wording: false };
      if ('slots' in item && item.slots) yield { node: item, attribute: 'text', text: item.text, wording: true };
    }
  }
}

const namesIn = ({ text, wording }: Place): ReadonlySet<string> => {
  try {
    if (!wording) return readExpression(text).names;
    return new Set(stretchesOf(text).flatMap(({ expression }) => (expression ? [...readExpression(expression).names] : [])));
  } catch {
    return new Set();
  }
};
const renamedIn = ({ text, wording }: Place, names: ReadonlyMap<string, string>): string =>
  wording
    ? stretchesOf(text)
        .map(({ from, to, expression }) =>
          expression === undefined ? text.slice(from, to) : `{${withNames(expression, names)}}`,
        )
        .join('')
    : withNames(text, names);

/** Where a parameter is used: nodes and the attribute, in words. */
export function usesOfParameter(master: Master, name: string): { node: Node; words: string }[] {
  return [...placesIn(master)].flatMap((place) =>
    namesIn(place).has(name) ? [{ node: place.node, words: `${nodeInWords(place.node)}: ${wordOf(place.attribute)}` }] : [],
  );
}

const another = (master: Master): string => {
  const taken = new Set((master.parameters ?? []).map(({ name }) => name));
  for (let i = 1; ; i++) if (!taken.has(`value${i}`)) return `value${i}`;
};

/** Adds a parameter at the end of the list. */
export function addParameter(master: Master, about: Partial<Omit<Parameter, 'id'>> = {}, id = newId()): Command {
  const node: Parameter = { id, name: another(master), value: 100, measure: 'length', ...about };
  return {
    label: `Parameter ${node.name}: added`,
    patches: [{ op: 'insert', parent: master.id, list: 'parameters', after: master.parameters?.at(-1)?.id ?? null, node }],
  };
}

/** Gives a parameter another name; whatever names it follows. @throws Failure `formula` for a name that can't be */
export function renameParameter(master: Master, id: string, name: string): Command {
  const parameter = master.parameters?.find((one) => one.id === id);
  if (!parameter || parameter.name === name) return { label: 'nothing', patches: [] };
  const wrong = wrongName(
    name,
    master.parameters!.filter((one) => one !== parameter).map((one) => one.name),
  );
  if (wrong) throw new Failure('formula', wrong, { node: id });
  const names = new Map([[parameter.name, name]]);
  const patches = [...placesIn(master)].flatMap((place): Patch[] =>
    namesIn(place).has(parameter.name) ? [set(place.node.id, place.attribute, renamedIn(place, names))] : [],
  );
  return { label: `Parameter ${parameter.name}: called ${name}`, patches: [set(id, 'name', name), ...patches] };
}

/** Takes a parameter away; what named it keeps what it was worth. */
export function removeParameter(master: Master, id: string): Command {
  const parameter = master.parameters?.find((one) => one.id === id);
  if (!parameter) return { label: 'nothing', patches: [] };
  let worth: string | undefined;
  try {
    const value = scopeOfMaster(master).named(parameter.name);
    worth = isQuantity(value)
      ? `(${Number(value.value.toPrecision(12))}${value.length === 1 ? ' mm' : value.angle === 1 ? ' deg' : ''})`
      : JSON.stringify(value);
  } catch (error) {
    if (!(error instanceof Failure)) throw error;
  }
  const names = worth === undefined ? null : new Map([[parameter.name, worth]]);
  const patches = names
    ? [...placesIn(master)].flatMap((place): Patch[] =>
        namesIn(place).has(parameter.name) ? [set(place.node.id, place.attribute, renamedIn(place, names))] : [],
      )
    : [];
  return {
    label: `Parameter ${parameter.name}: deleted`,
    patches: [...patches, { op: 'remove', parent: master.id, list: 'parameters', node: id }],
  };
}

/** Lets an attribute be computed. The last value stays where it is, for whoever can't compute. */
export function setFormula(master: Master, id: string, attribute: string, formula: string): Command {
  const path = pathTo(master, id);
  const node = path?.at(-1);
  const board = path?.find((one) => 'background' in one);
  const what = node ? `${nodeInWords(node)}${board && board !== node ? ` on ${nodeInWords(board)}` : ''}` : id;
  return {
    label: `${what}: ${wordOf(attribute)} now ${formula}`.slice(0, 300),
    patches: [set(id, `formulas.${attribute}`, formula)],
  };
}
