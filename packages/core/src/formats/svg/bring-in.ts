import type { StandingPicture } from './reading';
import { digest } from '../../base/bytes/hasher';
import { type OpenFont, TOO_MANY_LETTERS, TooManyLetters } from '../../contracts/carried-font';
import { measureBy } from '../../evaluate/fonts/font-book';
import { type Measure, roughly } from '../../document/items';
import { assertOpens } from '../../document/count';
import { idFrom } from '../../document/ids';
import { Budget } from '../../document/limits';
import type { Master } from '../../document/schema';
import type { ReadMaster } from '../../contracts/codec';
import type { NotUnderstood } from '../../contracts/not-understood';
import { takeWords } from './html-words';
import { MasterSink } from '../master-sink';
import type { MaybePromise, Services } from '../../contracts/services';
import { type OpenedSvg, openSvg, emitSvg } from './document';
import { openPictures } from './images';
import { type PartWishes, partWishes } from '../../contracts/wishes';
import { type TakenParts, takeParts } from './parts';

/**
 * An SVG document as a new master: groups become layers or groups, `use` becomes symbol uses, everything in board millimetres.
 * @throws Failure that names the line; nothing is left out without being counted in `notUnderstood`
 */
export function bringInSvg(bytes: Uint8Array, name: string): ReadMaster;
export function bringInSvg(
  bytes: Uint8Array,
  name: string,
  services?: Partial<Services>,
  wishes?: PartWishes,
): MaybePromise<ReadMaster>;
export function bringInSvg(
  bytes: Uint8Array,
  name: string,
  services: Partial<Services> = {},
  wishes: PartWishes = partWishes(),
): MaybePromise<ReadMaster> {
  const opened = openSvg(bytes);
  const width = services.fonts && measureBy(services.fonts);
  const openFont = wishes.fonts === 'as outlines' ? services.fonts?.carried : undefined;
  const { notes } = takeWords(opened.root, width ?? roughly);
  const standing = openPictures(opened.root, services.pictures);
  const parts = takeParts(opened.root, services.pictures, wishes);
  if (!(standing instanceof Promise) && !(parts instanceof Promise))
    return withNotes(masterOf(opened, name, standing, parts, width, openFont), notes);
  return Promise.all([standing, parts]).then(([pictures, taken]) =>
    withNotes(masterOf(opened, name, pictures, taken, width, openFont), notes),
  );
}

const withNotes = (read: ReadMaster, notes: readonly NotUnderstood[]): ReadMaster =>
  notes.length ? { ...read, notUnderstood: [...notes, ...read.notUnderstood] } : read;

function masterOf(...[opened, name, standing, parts, width, openFont]: Parameters<typeof masterWith>): ReadMaster {
  try {
    return masterWith(opened, name, standing, parts, width, openFont);
  } catch (error) {
    if (!(error instanceof TooManyLetters)) throw error;
    const read = masterWith(opened, name, standing, parts, width, undefined);
    return { ...read, notUnderstood: [{ kind: TOO_MANY_LETTERS, count: 1, shows: true }, ...read.notUnderstood] };
  }
}

function masterWith(
  opened: OpenedSvg,
  name: string,
  standing: ReadonlyMap<string, StandingPicture>,
  { pictures: ofParts, asPictures, left, bySize }: TakenParts,
  width: Measure | undefined,
  openFont: OpenFont | undefined,
): ReadMaster {
  const pictures = ofParts.size ? new Map([...standing, ...ofParts]) : standing;
  const budget = new Budget();
  const sink = new MasterSink(budget, 'i');
  const { title, mark, notUnderstood, asOutlines, text } = emitSvg(opened, sink, budget, pictures, width, openFont);
  const master: Master = {
    id: idFrom(`brought in ${digest(text)}`),
    title: (title || name.replace(/\.[^.]*$/, '') || 'Drawing').slice(0, 200),
    owner: '',
    purpose: 'sheet',
    unit: 'mm',
    layers: sink.layers,
    symbols: sink.symbols,
    boards: sink.boards.map((board) => ({ ...board, name: (board.name || 'Drawing').slice(0, 200) })),
    resources: sink.pictures,
    description: '',
  };
  for (const board of master.boards) assertOpens(master, board);
  const told = (kind: string, count: number): NotUnderstood[] => (count ? [{ kind, count, shows: true }] : []);
  const stayed = [
    ...told('part with a filter, left out as asked', left),
    ...told('part with light or a filter of pixels, which looks otherwise at every resolution', bySize),
  ];
  return { master, mark, notUnderstood: [...stayed, ...notUnderstood], asPictures, asOutlines, resources: sink.resources };
}
