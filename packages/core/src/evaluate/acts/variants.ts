import type { Command } from '../../document/commands';
import { newId } from '../../document/ids';
import type { Parameter } from '../../document/parameters';
import type { Master, Table } from '../../document/schema';
import type { Cell, Column } from '../../document/tables/schema';

/** Units that the values of parameters are written in. */
const UNITS: Partial<Record<NonNullable<Parameter['measure']>, string>> = { length: 'mm', angle: 'deg' };

const isWords = ({ measure }: Parameter): boolean => measure === 'text' || measure === 'colour';
/** Whether a value is said and not computed of others: what a row can say in its place. */
const isSaid = (parameter: Parameter): boolean => isWords(parameter) || typeof parameter.value === 'number';

/**
 * Adds a table with a column for each parameter that is not computed of others, and one row with what they are worth now. Words
 * come first: they name the rows.
 */
export function addVariantTable(master: Master, id = newId()): Command {
  const said = (master.parameters ?? []).filter(isSaid);
  const ordered = [...said.filter(isWords), ...said.filter((one) => !isWords(one))];
  const columns = ordered.map((parameter): Column => {
    const unit = parameter.measure && UNITS[parameter.measure];
    return { id: newId(), name: parameter.name, type: isWords(parameter) ? 'text' : 'number', ...(unit ? { unit } : {}) };
  });
  const cells = Object.fromEntries(
    ordered.flatMap(({ value }, i): [string, Cell][] => (value === '' ? [] : [[columns[i]!.id, value]])),
  );
  const taken = new Set((master.tables ?? []).map(({ name }) => name));
  let name = 'Variants';
  for (let i = 2; taken.has(name); i++) name = `Variants ${i}`;
  const node: Table = {
    id,
    name,
    ...(columns[0]?.type === 'text' ? { key: columns[0].id } : {}),
    columns,
    rows: [{ id: newId(), cells }],
    summaries: [],
  };
  return {
    label: `Table ${name}: added`,
    patches: [{ op: 'insert', parent: master.id, list: 'tables', after: master.tables?.at(-1)?.id ?? null, node }],
  };
}
