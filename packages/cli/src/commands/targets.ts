import { optionValues, parseOptions, TARGETS } from '@inkwell-twin/core';
import type { Answer } from '../output';

export function targets(): Answer {
  const list = TARGETS.map((target) => {
    const defaults = parseOptions(target, {});
    const carries = target.carries(defaults);
    return {
      id: target.id,
      label: target.label,
      standard: target.standard,
      options: Object.entries(target.options.shape).map(([name, schema]) => {
        return {
          name,
          values: [...optionValues(target, name)],
          default: String(defaults[name]),
          words: schema.description ?? '',
        };
      }),
      carries: {
        layers: carries.processes === 'all' ? 'all' : `only ${carries.processes.join(', ')}`,
        'layer names': carries.layerNames,
        text: carries.text === 'outlines' ? 'restated as outlines' : 'kept',
        arcs: carries.arcs === 'kept' ? 'kept' : 'approximated by short lines',
        'free curves':
          carries.cubics === 'kept' ? 'kept' : `approximated by ${carries.cubics === 'arcs' ? 'arcs' : 'short lines'}`,
        fills: carries.fill ? 'kept' : 'left out',
        'line colours': !carries.stroke ? 'left out' : carries.palette ? 'approximated, nearest of a list' : 'kept',
        'line widths': !carries.strokeWidth
          ? 'left out'
          : carries.strokeWidth === true
            ? 'kept'
            : 'approximated, nearest of a list',
        opacity: carries.opacity ? 'kept' : 'left out',
        'sheet size': carries.sheet ? 'kept' : 'left out',
      },
    };
  });
  return {
    code: 0,
    output: { command: 'targets', targets: list },
    lines: list.flatMap(({ id, label, standard, options, carries }) => [
      `${id}: ${label} (${standard})`,
      ...options.map(
        ({ name, values, default: standardValue, words }) =>
          `  --set ${name}=${values.length ? values.join('|') : '…'}  (${standardValue}) ${words}`,
      ),
      ...Object.entries(carries).map(([what, outcome]) => `  ${what}: ${outcome}`),
    ]),
  };
}
