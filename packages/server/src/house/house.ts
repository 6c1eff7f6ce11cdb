import type { HouseView } from '@inkwell-twin/api';
import {
  Failure,
  type HouseRules,
  type NamingRule,
  NO_RULES,
  type Preset,
  declarationOf,
  fileName,
  houseRules,
  nameByRule,
  namingOf,
  parseOptions,
  withPreset,
} from '@inkwell-twin/core';
import { SELECT_NAMED, type NamedMaster, plainName } from '../copies/names';
import { type CopyRow, recipeOfRow } from '../copies/rows';
import { type Database, type Queryable, lockInTransaction } from '../database/database';

/** The rules of the house, and who said them when. */
export async function houseOf(client: Queryable): Promise<{ rules: HouseRules; by: string; at: string | null }> {
  const { rows } = await client.query<{ rules: unknown; by: string; at: Date }>('select rules, by, at from house');
  const [row] = rows;
  return row ? { rules: houseRules(row.rules), by: row.by, at: row.at.toISOString() } : { rules: NO_RULES, by: '', at: null };
}

/** How the house writes names. */
export const namingOfHouse = async (client: Queryable): Promise<{ rule: NamingRule; pattern: string }> =>
  namingOf((await houseOf(client)).rules);

/**
 * Says the rules anew.
 * @param knows when those were said that the new ones go on from; null where there were none
 * @throws Failure `conflict` where somebody said others meanwhile, `rules-invalid`
 */
export async function sayHouse(database: Database, value: unknown, by: string, knows: string | null): Promise<HouseView> {
  const rules = houseRules(value);
  return changeHouse(database, by, (before) => {
    if (before.at !== knows)
      throw new Failure(
        'conflict',
        `${before.by || 'Somebody'} changed the house rules meanwhile. Look at those first; yours are still here.`,
      );
    return rules;
  });
}

/**
 * Keeps settings of copies under a name, beside what else the rules say just then.
 * @param replace whether those go that have the name
 * @throws Failure `name-taken`, and those of options that the target has not
 */
export async function keepPreset(database: Database, preset: Preset, by: string, replace: boolean): Promise<HouseView> {
  const declaration = declarationOf(preset.target);
  const options = parseOptions(declaration, preset.options);
  return changeHouse(database, by, ({ rules }) => {
    const there = rules.presets.find(({ name }) => name.toLowerCase() === preset.name.toLowerCase());
    if (there && !replace)
      throw new Failure(
        'name-taken',
        `There are settings called “${there.name}” already, for ${declarationOf(there.target).label}. Replace them, or choose another name.`,
      );
    return houseRules(withPreset(rules, { ...preset, options }));
  });
}

type House = Awaited<ReturnType<typeof houseOf>>;

/** Changes the rules, one after the other. */
async function changeHouse(database: Database, by: string, change: (before: House) => HouseRules): Promise<HouseView> {
  return database.transaction(async (client) => {
    await lockInTransaction(client, 'house rules');
    const rules = change(await houseOf(client));
    // To the millisecond, as it is told and asked for again.
    const { rows } = await client.query<{ at: Date }>(
      `insert into house (rules, by, at) values ($1, $2, date_trunc('milliseconds', clock_timestamp()))
       on conflict (is_it) do update set rules = $1, by = $2, at = date_trunc('milliseconds', clock_timestamp()) returning at`,
      [JSON.stringify(rules), by],
    );
    return { rules, by, at: rows[0]!.at.toISOString() };
  });
}

/** A file on the shelf whose name is not as the house writes it, and how it would be. */
interface WrongName {
  readonly kind: 'master' | 'copy';
  readonly id: string;
  readonly file: string;
  readonly proposed: string;
}

/** The files of a master and its copies that are not called as the house has it. @param file of the master */
export async function wrongNames(database: Database, id: string, file: string): Promise<WrongName[]> {
  const { rule, pattern } = await namingOfHouse(database);
  const [master] = await database.rows<NamedMaster & { title: string }>(SELECT_NAMED, [id]);
  if (!master) throw new Failure('not-found', 'There is no such master on this Desk.');
  // Masters end in what the format says, whatever the house does with the endings of copies.
  const own: NamingRule = { ...rule, ending: 'lower' };
  const wrong: WrongName[] = [];
  if (nameByRule(file, own) !== file)
    wrong.push({
      kind: 'master',
      id,
      file,
      proposed: fileName('{title}', { title: master.title }, file.slice(file.lastIndexOf('.') + 1), own),
    });
  const copies = await database.rows<CopyRow>('select * from copy_now where master = $1 order by created_at, recipe', [id]);
  for (const row of copies)
    // It gets another name when it is derived again, from the newest revision.
    if (nameByRule(row.file, rule) !== row.file) {
      const proposed = plainName(master, recipeOfRow(row), row.label, master.head, { rule, pattern });
      wrong.push({ kind: 'copy', id: row.id, file: row.file, proposed });
    }
  return wrong.filter((one) => one.proposed !== one.file);
}
