import { carriedFeatures, declarations, optionFields, parseOptions, targetsPage } from '@inkwell-twin/core';
import type { Answer } from '../output';
import type { Arguments } from './shared';

export function targets({ page }: Pick<Arguments, 'page'>): Answer {
  const list = declarations().map((declaration) => ({
    id: declaration.id,
    label: declaration.label,
    standard: declaration.standard,
    options: optionFields(declaration).map(({ name, words, choices, default: usual, unit, min, max }) => ({
      name,
      values: choices.map(({ value }) => value),
      range: min === null && max === null ? '' : `${min ?? ''}…${max ?? ''}${unit ? ` ${unit}` : ''}`,
      default: String(usual),
      words,
    })),
    carries: Object.fromEntries(
      carriedFeatures(declaration, parseOptions(declaration, {})).map(({ words, becomes }) => [words, becomes]),
    ),
  }));
  return {
    code: 0,
    output: { command: 'targets', targets: list },
    lines: page
      ? [targetsPage().trimEnd()]
      : list.flatMap(({ id, label, standard, options, carries }) => [
          `${id}: ${label} (${standard})`,
          ...options.map(
            ({ name, values, range, default: usual, words }) =>
              `  --set ${name}=${values.length ? values.join('|') : range || '…'}  (${usual}) ${words}`,
          ),
          ...Object.entries(carries).map(([what, outcome]) => `  ${what}: ${outcome}`),
        ]),
  };
}
