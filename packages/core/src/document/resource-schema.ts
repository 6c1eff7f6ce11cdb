import * as z from 'zod';
import { Id } from './schema-parts-base';

function isLinkPath(path: string): boolean {
  return path.split('/').every((part) => part !== '' && part !== '.' && part !== '..' && !/[\\\0]/.test(part));
}

/** What became of a linked file since it was last seen. */
export const LINK_STATES = ['here', 'changed', 'missing', 'not a file'] as const;
export type LinkState = (typeof LINK_STATES)[number];

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
  /** What is said of a picture, for people and for the file of its description. */
  said: z
    .object({
      keywords: z.array(z.string().min(1).max(64)).max(64),
      caption: z.string().max(5000),
      rights: z.string().max(1000),
    })
    .optional(),
  /**
   * Where the file itself lies, for one that is linked: a path with forward slashes, looked for in the folder of the master's
   * file and in each one above it. Its bytes are not in the master's file then; `id` is their checksum when they were last seen.
   */
  link: z
    .string()
    .min(1)
    .max(500)
    .refine(isLinkPath, 'is a path below a folder, with forward slashes and without . or ..')
    .optional(),
});
export type Resource = z.infer<typeof Resource>;
