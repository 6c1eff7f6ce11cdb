import * as z from 'zod';
import { PointSchema } from './schema-parts-base';

export const SegmentSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('line'), to: PointSchema }),
  z.object({ kind: z.literal('arc'), to: PointSchema, centre: PointSchema, clockwise: z.boolean() }),
  z.object({ kind: z.literal('cubic'), to: PointSchema, c1: PointSchema, c2: PointSchema }),
]);
export const OutlineSchema = z.object({ start: PointSchema, segments: z.array(SegmentSchema), closed: z.boolean() });
