import { kindDeclaration } from '../content/declarations';
import type { Carry } from '../contracts/kind';
import { kindById } from '../content/kinds';
import { listsOf } from './recipe';
import { PARTS } from '../contracts/schemas';
import type { Declaration, Options } from '../contracts/declaration';
import { declarations, optionFields, parseOptions } from '../formats/declarations';

/** What becomes of a feature, in words. */
export const carryInWords = (carry: Carry | undefined): string =>
  carry === undefined ? 'left out' : typeof carry === 'string' ? carry : `${carry.outcome}: ${carry.words}`;

export interface CarriedFeature {
  readonly name: string;
  readonly words: string;
  readonly becomes: string;
  /** What it is a feature of: “Drawing”. */
  readonly of: string;
}

/**
 * What a target carries under some options: the name of each feature, and what becomes of it. What a kind shares with one before it is
 * said once.
 */
export function carriedFeatures(declaration: Declaration, options: Options): CarriedFeature[] {
  const said = new Set<unknown>();
  return Object.entries(declaration.carries(options)).flatMap(([kind, carries]) =>
    Object.entries(kindDeclaration(kind)?.features ?? {}).flatMap(([name, row]) => {
      const key = `${kindById(kind).says ?? kind} ${name}`;
      if (said.has(key)) return [];
      said.add(key);
      return [
        { name, words: row.words, becomes: carryInWords((carries as Record<string, Carry>)[name]), of: kindById(kind).words },
      ];
    }),
  );
}

/** “several boards and texts”. */
function heldInWords(declaration: Declaration, options: Options): string {
  const many = declaration.holds.leaves === 'many';
  const words = listsOf(declaration, options).map((list) => (many ? `${PARTS[list]}s` : PARTS[list]));
  return many ? `several ${words.join(' and ')}` : `one ${words.join(' or one ')}`;
}

/** What may stand where neither choices nor numbers do, by the kind of option. */
const IN_WORDS: Readonly<Record<string, string>> = {
  machine: 'the id of a machine, or its profile as JSON',
  objects: 'ids, with blanks between',
  'yes or no': 'true, false',
};

const table = (head: readonly string[], rows: readonly (readonly string[])[]): string =>
  [head, head.map(() => '---'), ...rows]
    .map((row) => `| ${row.map((cell) => cell.replaceAll('|', '\\|')).join(' | ')} |`)
    .join('\n');

/** The page of all targets, generated: what each is for, its options, and what it carries, version by version. */
export function targetsPage(): string {
  const parts = declarations().map((declaration) => {
    const standard = parseOptions(declaration, {});
    const { versions } = declaration;
    const columns = versions
      ? versions.values.map((value) => ({ head: value, options: parseOptions(declaration, { [versions.option]: value }) }))
      : [{ head: 'Becomes', options: standard }];
    const features = carriedFeatures(declaration, standard);
    const kinds = Object.keys(declaration.carries(standard)).map((id) => kindById(id).words.toLowerCase());
    return [
      `## ${declaration.id}: ${declaration.label}`,
      `${declaration.standard}. What it says is a ${kinds.join(', a ')}; it holds ${heldInWords(declaration, standard)}.`,
      table(
        ['Option', 'Standard', 'What may stand there', 'What for'],
        optionFields(declaration).map(({ name, kind, default: value, choices, min: least, max: most, unit, words }) => [
          name,
          String(value),
          choices.length
            ? choices.map((one) => one.value).join(', ')
            : least === null && most === null
              ? (IN_WORDS[kind] ?? 'any words')
              : `${least ?? ''} to ${most ?? ''} ${unit}`.trim(),
          words,
        ]),
      ),
      table(
        ['Feature', ...(kinds.length > 1 ? ['Of'] : []), ...columns.map(({ head }) => head)],
        features.map(({ words, of }, i) => [
          words,
          ...(kinds.length > 1 ? [of.toLowerCase()] : []),
          ...columns.map(({ options }) => carriedFeatures(declaration, options)[i]!.becomes),
        ]),
      ),
    ].join('\n\n');
  });
  return `# Targets\n\nGenerated from the tables in the code (\`twin targets --page\`); a test holds it against them. Do not edit it by hand.\n\n${parts.join('\n\n')}\n`;
}
