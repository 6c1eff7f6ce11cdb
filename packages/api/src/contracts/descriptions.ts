import * as z from 'zod';
import { OutsideDescription } from '../shapes';
import { Described, Failed } from './parts';
import { route } from './route';

/** What is said of masters, here and in files outside. */
export const DESCRIPTIONS = {
  describe: route(
    'post',
    '/api/describe',
    'Says something of several masters at once: keywords added and taken off, caption, rights, owner. Each gets a revision where that changes it',
    z.object({
      masters: z.array(z.string().max(80)).min(1).max(500),
      add: z.array(z.string().max(64)).max(64).default([]),
      remove: z.array(z.string().max(64)).max(64).default([]),
      caption: z.string().max(5000).optional(),
      rights: z.string().max(1000).optional(),
      owner: z.string().max(200).optional(),
    }),
    z.object({
      changed: z.number(),
      failed: z.array(z.object({ master: z.string(), message: z.string() })),
    }),
  ),
  outsideDescriptions: route(
    'get',
    '/api/descriptions',
    'Descriptions of masters that have a file outside, or are to have one; ?all= those in step, too',
    null,
    z.object({ descriptions: z.array(OutsideDescription) }),
    ['all'],
  ),
  writeDescriptions: route(
    'post',
    '/api/descriptions/write',
    'Writes the descriptions of masters out, each into a file beside it; none that someone changed is written over',
    Described,
    Failed,
  ),
  settleDescriptions: route(
    'post',
    '/api/descriptions/settle',
    'Settles descriptions that were changed outside: which side counts, field by field; where none is said, the side that changed, and ours where both did',
    Described.extend({
      choices: z
        .partialRecord(z.enum(['keywords', 'caption', 'rights', 'corrections']), z.enum(['inside', 'outside']))
        .default({}),
    }),
    Failed,
  ),
  orderDescriptions: route(
    'post',
    '/api/descriptions/order',
    'Says of masters whether every update writes their description out',
    Described.extend({ on: z.boolean() }),
    Failed,
  ),
} as const;
