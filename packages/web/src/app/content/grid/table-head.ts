import type { ColumnValues } from '@inkwell-twin/core/tables';
import { SPREAD_BOX, spreadPath } from './spread';

const SVG = 'http://www.w3.org/2000/svg';

function line(className: string, text: string): HTMLElement {
  const element = document.createElement('span');
  element.className = className;
  element.textContent = text;
  return element;
}

/** The head of a column: its name and unit, what kind of thing stands in it or how it is computed, and how its values spread. */
export function headOf(values: ColumnValues, isKey: boolean): HTMLElement {
  const { column, problem, problems } = values;
  const head = document.createElement('span');
  head.className = 'head';
  const name = line('name', column.name);
  if (column.unit) name.append(line('unit', column.unit));
  const kind = column.formula === undefined ? `${column.type}${isKey ? ', tells rows apart' : ''}` : `= ${column.formula}`;
  const second = line(column.formula === undefined ? 'kind' : 'kind formula', kind);
  second.title = kind;
  const wrong = problem ? 'can’t be computed' : problems.size ? `${problems.size} odd` : '';
  head.append(name, second);
  if (wrong) head.append(line('wrong', wrong));
  else {
    const path = spreadPath(values);
    const picture = document.createElementNS(SVG, 'svg');
    picture.setAttribute('viewBox', SPREAD_BOX);
    picture.setAttribute('aria-hidden', 'true');
    const shape = document.createElementNS(SVG, 'path');
    shape.setAttribute('d', path);
    picture.append(shape);
    head.append(picture);
  }
  return head;
}
