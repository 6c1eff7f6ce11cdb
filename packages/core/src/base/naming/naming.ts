/** How a house writes names. */
export interface NamingRule {
  readonly letters: 'lower_underscore' | 'CamelParts';
  /** Longest file name, extension included. */
  readonly length: number;
  /** What stands between the parts of a name; an underscore where it is not said. */
  readonly separator?: string;
  /** Letters that no name holds, one behind the other. */
  readonly forbidden?: string;
  readonly ending?: 'lower' | 'upper';
}

export const DEFAULT_RULE: NamingRule = { letters: 'lower_underscore', length: 80 };

/** Names that some file systems keep for devices. */
export const DEVICE_NAMES = /^(con|prn|aux|nul|com[0-9]|lpt[0-9])$/i;

/** One part of a name in plain letters, digits and hyphens. */
function plainPart(text: string, rule: NamingRule): string {
  const words = text
    .replace(/ß/g, 'ss')
    .replace(/[øØ]/g, 'o')
    .normalize('NFD')
    .replace(/[\u0300-\u036f]/g, '')
    .split(/[^A-Za-z0-9-]+/)
    .filter(Boolean);
  return without(
    rule,
    rule.letters === 'CamelParts'
      ? words.map((word) => word.charAt(0).toUpperCase() + word.slice(1)).join('')
      : words.join('_').toLowerCase(),
  );
}

/** A text without the letters that a rule forbids. */
const without = ({ forbidden = '' }: NamingRule, text: string): string =>
  forbidden ? [...text].filter((letter) => !forbidden.includes(letter)).join('') : text;

/** A stem that is safe on every common file system, and its ending, cut to the length of the rule. */
function finished(filled: string, extension: string, rule: NamingRule): string {
  const { separator = '_', ending = 'lower', length } = rule;
  const stem = without(rule, filled)
    .replace(/[^A-Za-z0-9._-]+/g, separator)
    .replace(/_{2,}/g, '_')
    .replace(separator === '_' ? /_{2,}/g : separator === '-' ? /-{2,}/g : /\.{2,}/g, separator)
    .replace(/^[_.-]+|[_.-]+$/g, '');
  const safe = !stem || DEVICE_NAMES.test(stem) ? `copy${stem ? `${separator}${stem}` : ''}` : stem;
  const written = ending === 'upper' ? extension.toUpperCase() : extension.toLowerCase();
  return `${safe.slice(0, length - extension.length - 1).replace(/[_.-]+$/, '')}.${written}`;
}

/**
 * A file name from a pattern with parts in braces, safe on every common file system.
 * @param pattern for instance `{owner}_{title}_{board}_r{rev}_{version}`; parts that are unknown or empty go, with their separator
 */
export function fileName(
  pattern: string,
  parts: Readonly<Record<string, string | number>>,
  extension: string,
  rule = DEFAULT_RULE,
): string {
  const filled = pattern.replace(/\{([a-z]+)\}/g, (_, name: string) => plainPart(String(parts[name] ?? ''), rule));
  return finished(filled, extension, rule);
}

/**
 * A name as a rule would have it, part by part; the very same where it keeps to the rule.
 * @param file a name with its ending
 */
export function nameByRule(file: string, rule: NamingRule): string {
  const { separator = '_' } = rule;
  const dot = file.lastIndexOf('.');
  const [stem, extension] = dot > 0 ? [file.slice(0, dot), file.slice(dot + 1)] : [file, ''];
  // Revisions are written the same way whatever the letters are.
  const parts = stem.split(separator).map((part) => (/^r\d+$/.test(part) ? part : plainPart(part, rule)));
  const named = finished(parts.filter(Boolean).join(separator), extension, rule);
  return extension ? named : named.slice(0, -1);
}

export const DEFAULT_PATTERN = '{title}_{board}_r{rev}_{version}';

/** The first of `name`, `name_2`, `name_3` … that is free; names that differ only in case count as the same. */
export function freeName(name: string, taken: Iterable<string>): string {
  const used = new Set([...taken].map((one) => one.toLowerCase()));
  const dot = name.lastIndexOf('.');
  const [stem, extension] = dot > 0 ? [name.slice(0, dot), name.slice(dot)] : [name, ''];
  let free = name;
  for (let i = 2; used.has(free.toLowerCase()); i++) free = `${stem}_${i}${extension}`;
  return free;
}

/**
 * The name of a further file of a copy: that of the first, with the part before its ending. A part with an ending of its own is
 * a file that stands beside it under that name; one that begins with a dot is added to the whole name.
 */
export const partName = (file: string, part: string): string =>
  part.startsWith('.')
    ? file + part
    : part.includes('.')
      ? file.replace(/[^/]*$/, part)
      : part
        ? file.replace(/(\.[^./]*)?$/, `_${part}$1`)
        : file;
