import * as z from 'zod';
import { KeptPictureView, LinkView, ShelfFile } from '../shapes';
import { Hash } from './parts';
import { FILE_TYPE, PNG_TYPE, route } from './route';

/** Pictures of a master, kept or linked to. */
export const PICTURES = {
  addPicture: route(
    'post',
    '/api/masters/:id/pictures',
    'Keeps a picture (the request body; name in ?name=) with a master, byte for byte; a step of the draft puts it on a board',
    null,
    KeptPictureView,
    ['name'],
    { takes: FILE_TYPE },
  ),
  picture: route(
    'get',
    '/api/pictures/:sha',
    'A kept picture as a PNG of at most ?most= pixels each way, turned as it asks for, in sRGB',
    null,
    z.unknown(),
    ['most'],
    { answers: PNG_TYPE },
  ),
  links: route(
    'post',
    '/api/masters/:id/links',
    'How linked files stand, as a master or a draft of it names them, and where the same bytes lie instead',
    z.object({
      links: z
        .array(z.object({ resource: z.string().max(80), link: z.string().max(500), size: z.number().int().nonnegative() }))
        .max(2000),
    }),
    z.object({ links: z.array(LinkView) }),
  ),
  linkable: route(
    'get',
    '/api/masters/:id/links/files',
    'Pictures on the shelf that a master can link to; those of the name ?name= first',
    null,
    z.object({ files: z.array(ShelfFile) }),
    ['name'],
  ),
  linkPicture: route(
    'post',
    '/api/masters/:id/links/take',
    'A picture on the shelf for a master, linked; a step of the draft says where it is shown',
    z.object({ path: z.string().min(1).max(1000) }),
    KeptPictureView,
  ),
  putOut: route(
    'post',
    '/api/masters/:id/links/out',
    'Puts a kept file on the shelf so that the master can link to it: at a link of it that leads nowhere, or in a folder of the master’s own. Nothing is written over',
    z.object({ resource: Hash, link: z.string().min(1).max(500).nullable() }),
    z.object({ link: z.string() }),
  ),
} as const;
