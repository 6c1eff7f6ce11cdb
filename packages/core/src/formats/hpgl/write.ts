import { ByteWriter } from '../../base/bytes/byte-writer';
import type { ToolPath } from '../../content/tool-path/tool-path';
import { MM_PER_CM, UNITS_PER_MM } from './declare';

/** HP-GL bytes: one pen move per stroke, in order. The mark goes into a comment (CO, of HP-GL/2). */
export function writeHpgl({ tools, count, tool, speed, firstPoint, points }: ToolPath, mark: string): Uint8Array {
  const out = new ByteWriter();
  out.text(`IN;\nCO "${mark}";\n`);
  let [pen, pace] = [-1, NaN];
  const point = (i: number) => {
    out.number(Math.round(points[2 * i]! * UNITS_PER_MM), 0);
    out.text(',');
    out.number(Math.round(points[2 * i + 1]! * UNITS_PER_MM), 0);
  };
  for (let i = 0; i < count; i++) {
    if (tool[i] !== pen) {
      pen = tool[i]!;
      out.text(`SP${tools[pen]!.number};\n`);
    }
    if (!Number.isNaN(speed[i]!) && speed[i] !== pace) {
      pace = speed[i]!;
      out.text(`VS${Number((pace / MM_PER_CM).toFixed(2))};\n`);
    }
    out.text('PU');
    point(firstPoint[i]!);
    out.text(';\nPD');
    for (let p = firstPoint[i]! + 1; p < firstPoint[i + 1]!; p++) {
      if (p > firstPoint[i]! + 1) out.text(',');
      point(p);
    }
    out.text(';\n');
  }
  out.text('PU;\nSP0;\n');
  return out.bytes();
}
