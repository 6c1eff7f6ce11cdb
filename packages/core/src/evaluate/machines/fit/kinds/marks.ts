import { boxOfJob } from '../../jobs';
import { bedOf } from '../../lay-out';
import { joinBoxes } from '../../../../base/geometry/measure';
import { type Look, mm } from '../look';

const WITHOUT = { words: 'Make no marks', options: { marks: 'none' } };

/** Marks that the machine has no tool for, or that lie beside its bed. */
export const marksThatFail: Look = ({ marks, settings: { machine, marks: how } }) => {
  const [first] = marks;
  if (!first) return [];
  const common = { objects: [], place: null };
  if (!first.tool) {
    const does = how === 'drilled' ? 'drills' : 'engraves or draws';
    const words = `Marks are to be ${how}, and the ${machine.name} has no tool that ${does}.`;
    return [{ ...common, kind: 'no tool', words, amount: null, unit: '', mends: [WITHOUT] }];
  }
  const [box, bed] = [joinBoxes(marks.map(boxOfJob)), bedOf(machine)];
  const over = Math.max(bed.minX - box.minX, box.maxX - bed.maxX, bed.minY - box.minY, box.maxY - bed.maxY);
  if (over <= 0.0005) return [];
  const words = `The marks go ${mm(over)} beyond the bed of the ${machine.name} (${machine.area.width} × ${machine.area.height} mm).`;
  const inside = { words: 'Begin at the machine’s corner', options: { place: 'at the origin' } };
  return [{ ...common, kind: 'off the bed', words, amount: over, unit: 'mm', mends: [inside, WITHOUT] }];
};
