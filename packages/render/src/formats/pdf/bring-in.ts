import {
  Budget,
  type Master,
  type Services,
  MasterSink,
  type OpenFont,
  type PartWishes,
  type ReadMaster,
  TOO_MANY_LETTERS,
  TooManyLetters,
  assertOpens,
  digest,
  idFrom,
  partWishes,
} from '@inkwell-twin/core';
import { emitPdf } from './read';

/**
 * A PDF as a new master: a board for each page, its layers kept, clipped and masked things in groups.
 * @throws Failure `pdf-encrypted`, `pdf-damaged`, `pdf-too-large`, `too-many-objects`
 */
export async function bringInPdf(
  bytes: Uint8Array,
  name: string,
  services: Partial<Services> = {},
  wishes: PartWishes = partWishes(),
): Promise<ReadMaster> {
  const told = async (openFont?: OpenFont) => {
    const sink = new MasterSink(new Budget(), 'p');
    return { sink, ...(await emitPdf(bytes, { bleed: 0, around: 0 }, sink, services, openFont)) };
  };
  const openFont = wishes.fonts === 'as outlines' ? services.fonts?.carried : undefined;
  const { sink, mark, notUnderstood, asOutlines } = await told(openFont).catch(async (error: unknown) => {
    if (!(error instanceof TooManyLetters)) throw error;
    const again = await told();
    return { ...again, notUnderstood: [{ kind: TOO_MANY_LETTERS, count: 1, shows: true }, ...again.notUnderstood] };
  });
  if (!sink.layers.length) sink.layer({ name: 'Drawing', colour: '#000000', visible: true, locked: false, process: 'print' });
  const master: Master = {
    id: idFrom(`brought in ${digest(bytes)}`),
    title: (name.replace(/\.[^.]*$/, '') || 'Pages').slice(0, 200),
    owner: '',
    purpose: 'sheet',
    unit: 'mm',
    layers: sink.layers,
    symbols: sink.symbols,
    boards: sink.boards.map((board, i) => ({ ...board, name: (board.name || `Page ${i + 1}`).slice(0, 200) })),
    resources: sink.pictures,
    description: '',
  };
  for (const board of master.boards) assertOpens(master, board);
  return { master, mark, notUnderstood, asOutlines, resources: sink.resources };
}
