import * as z from 'zod';
import { Id } from './schema-parts-base';

/** A file that came from outside and is kept byte for byte. */
export const Resource = z.object({
  id: Id,
  name: z.string().max(300),
  mediaType: z.string().max(100),
  size: z.number().int().nonnegative(),
  role: z.enum(['original', 'picture', 'solid']),
  /** Of a picture: its size in pixels as it is shown, and how many of them go on an inch where it says so. */
  width: z.number().int().positive().optional(),
  height: z.number().int().positive().optional(),
  ppi: z.number().positive().optional(),
});
export type Resource = z.infer<typeof Resource>;
