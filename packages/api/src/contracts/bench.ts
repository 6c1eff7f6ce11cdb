import * as z from 'zod';
import { JobHead } from '../match-wire';
import { BenchView } from '../shapes';
import { FILE_TYPE, SVG_TYPE, route } from './route';

const File = z.string().min(1).max(300);

/** The machines and what they hold. */
export const BENCH_ROUTES = {
  bench: route('get', '/api/bench', 'All machines, with what they hold and how it stands', null, BenchView),
  sendToMachine: route(
    'post',
    '/api/bench/:machine/holds',
    'Lays a copy into the folder of a machine, as it was written; what that held of the same copy goes',
    z.object({ copy: z.string().max(64) }),
    z.object({ file: z.string() }),
  ),
  takeFromMachine: route(
    'post',
    '/api/bench/:machine/holds/remove',
    'Takes a file away from a machine',
    z.object({ file: File }),
    z.object({}),
  ),
  runOnMachine: route(
    'post',
    '/api/bench/:machine/runs',
    'Lets a machine run what it holds. 400 `reason-missing` for what is outdated, unless somebody says why',
    z.object({ file: File, reason: z.string().max(500).default('') }),
    z.object({ id: z.string() }),
  ),
  heldJob: route(
    'get',
    '/api/bench/:machine/jobs/:file',
    'What a machine does with a file that it holds, packed: its moves in their order, for looking only',
    null,
    JobHead,
    [],
    { answers: FILE_TYPE },
  ),
  machinePicture: route(
    'get',
    '/api/bench/:machine/pictures/:file',
    'What a machine drew of a file that it holds, or of a run by its id',
    null,
    z.unknown(),
    [],
    { answers: SVG_TYPE },
  ),
  forStick: route(
    'get',
    '/api/bench/:machine/stick',
    'A copy in a folder as the machine reads it from a stick, with its checksum, as a zip archive',
    null,
    z.unknown(),
    ['copy'],
    { answers: FILE_TYPE },
  ),
} as const;
