import type { ContentKind } from '../../contracts/kind';
import type { Machining } from '../../contracts/machining';
import { packObject, unpackObject } from '../../contracts/packing';
import type { ResolvedBoard } from '../../evaluate/resolve';
import { sizeOfJob } from '../../evaluate/machines/estimate';
import { resolveBoards } from '../../evaluate/boards/source';
import { sampleMachining } from '../machining/sample';
import { compareStitches } from './compare';
import { digestStitches } from './digest';
import { type StitchingCarries, stitchesOf } from './features';
import { declaration } from './index';

/** Stitches of a needle: moves that end in a stitch, and jumps with the thread cut before them. */
export const kind: ContentKind<ResolvedBoard, Machining, StitchingCarries> = {
  ...declaration,
  resolve: resolveBoards,
  label: () => '',
  // Stitches are seldom made: what makes them is loaded with the first.
  adapt: async (...of) => (await import('./adapt')).adaptStitches(...of),
  fit: async (...of) => (await import('./adapt')).fitOfStitches(...of),
  size: (body, carries) => sizeOfJob(body, stitchesOf(carries).settings.machine),
  digest: digestStitches,
  sample: sampleMachining,
  compare: compareStitches,
  pack: packObject,
  unpack: unpackObject,
};
