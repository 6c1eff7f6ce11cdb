import { FEATURES, type Carry, declarations, optionFields, parseOptions } from '@inkwell-twin/core';
import type { Answer } from '../output';

/** What becomes of a feature, in words. */
const inWords = (carry: Carry): string => (typeof carry === 'string' ? carry : `${carry.outcome}: ${carry.words}`);

export function targets(): Answer {
  const list = declarations().map((declaration) => ({
    id: declaration.id,
    label: declaration.label,
    standard: declaration.standard,
    options: optionFields(declaration).map(({ name, words, choices, standard, unit, least, most }) => ({
      name,
      values: choices.map(({ value }) => value),
      range: least === null && most === null ? '' : `${least ?? ''}…${most ?? ''}${unit ? ` ${unit}` : ''}`,
      default: String(standard),
      words,
    })),
    carries: Object.fromEntries(
      Object.entries(declaration.carries(parseOptions(declaration, {}))).flatMap(([kind, carries]) =>
        Object.entries(carries as Record<string, Carry>).map(([name, carry]) => [
          FEATURES.get(kind)?.[name]?.words ?? name,
          inWords(carry),
        ]),
      ),
    ),
  }));
  return {
    code: 0,
    output: { command: 'targets', targets: list },
    lines: list.flatMap(({ id, label, standard, options, carries }) => [
      `${id}: ${label} (${standard})`,
      ...options.map(
        ({ name, values, range, default: standardValue, words }) =>
          `  --set ${name}=${values.length ? values.join('|') : range || '…'}  (${standardValue}) ${words}`,
      ),
      ...Object.entries(carries).map(([what, outcome]) => `  ${what}: ${outcome}`),
    ]),
  };
}
