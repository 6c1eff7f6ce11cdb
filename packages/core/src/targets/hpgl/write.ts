import { endOf } from '../../geometry/outline';
import { near } from '../../geometry/point';
import type { DisplayList } from '../../projection/display-list';
import { encodeText } from '../bytes';
import type { OptionValues } from '../target';
import { UNITS_PER_MM } from './carries';

/** HP-GL bytes: one pen move per outline, in the order of the list. The mark goes into a comment (CO, of HP-GL/2). */
export function writeHpgl(list: DisplayList, _options: OptionValues, mark: string): Uint8Array {
  const lines = ['IN;', `CO "${mark}";`];
  let pen = '';
  const unit = (value: number) => String(Math.round(value * UNITS_PER_MM));
  for (const entry of list.entries) {
    if (entry.kind !== 'path') continue;
    if (entry.layer !== pen) {
      pen = entry.layer;
      lines.push(`SP${Number(/\d+$/.exec(pen)?.[0] ?? 1)};`);
    }
    for (const outline of entry.outlines) {
      const points = outline.segments.map(({ to }) => `${unit(to[0])},${unit(to[1])}`);
      if (outline.closed && !near(endOf(outline), outline.start, 1e-9))
        points.push(`${unit(outline.start[0])},${unit(outline.start[1])}`);
      lines.push(`PU${unit(outline.start[0])},${unit(outline.start[1])};`, `PD${points.join(',')};`);
    }
  }
  lines.push('PU;', 'SP0;', '');
  return encodeText(lines.join('\n'));
}
