import type { ContentKind } from '../../contracts/kind';
import type { Machining } from '../../contracts/machining';
import { packObject, unpackObject } from '../../contracts/packing';
import type { ResolvedBoard } from '../../evaluate/resolve';
import { sizeOfJob } from '../../evaluate/machines/estimate';
import { resolveBoards } from '../../evaluate/boards/source';
import { compareMachining } from './compare';
import { digestMachining } from './digest';
import { type MachiningCarries, settingsOf } from './features';
import { declaration } from './index';
import { sampleMachining } from './sample';

/** Moves of a machine whose tools go up and down, with feed, turns and arcs. */
export const kind: ContentKind<ResolvedBoard, Machining, MachiningCarries> = {
  ...declaration,
  resolve: resolveBoards,
  label: () => '',
  // Plans are seldom made: what makes them is loaded with the first.
  adapt: async (...of) => (await import('./adapt')).adaptMachining(...of),
  fit: async (...of) => (await import('./adapt')).fitOfBoard(...of),
  size: (body, carries) => sizeOfJob(body, settingsOf(carries).settings.machine),
  digest: digestMachining,
  sample: sampleMachining,
  compare: compareMachining,
  pack: packObject,
  unpack: unpackObject,
};
