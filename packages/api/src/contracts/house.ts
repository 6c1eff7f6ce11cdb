import * as z from 'zod';
import { Preset } from '@inkwell-twin/core/shapes';
import { HouseView } from '../shapes';
import { route } from './route';

/** The rules of the house. */
export const HOUSE = {
  house: route('get', '/api/house', 'The rules of the house, and who said them when', null, HouseView),
  sayHouse: route(
    'put',
    '/api/house',
    'Says the rules of the house anew. 409 where they are not those of the time `knows` any more',
    z.object({ rules: z.record(z.string(), z.unknown()), knows: z.string().max(40).nullable() }),
    HouseView,
  ),
  keepPreset: route(
    'post',
    '/api/house/presets',
    'Keeps settings of copies under a name in the rules of the house. 409 where others have it, unless they are to be replaced',
    z.object({ preset: Preset, replace: z.boolean().default(false) }),
    HouseView,
  ),
  houseFile: route('get', '/api/house/file', 'The rules of the house as a file to take along', null, z.unknown()),
  wrongNames: route(
    'get',
    '/api/masters/:id/wrong-names',
    'Files of a master and its copies that are not called as the house writes names, and how they would be',
    null,
    z.object({
      names: z.array(z.object({ kind: z.enum(['master', 'copy']), id: z.string(), file: z.string(), proposed: z.string() })),
    }),
  ),
} as const;
