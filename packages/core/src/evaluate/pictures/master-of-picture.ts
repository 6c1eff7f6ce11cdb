import { idFrom } from '../../document/ids';
import { digest } from '../../base/bytes/hasher';
import type { Master, PictureItem, Resource } from '../../document/schema';
import type { ReadMaster } from '../../contracts/codec';
import type { NotUnderstood } from '../../contracts/not-understood';
import type { PictureFacts } from '../../contracts/pictures';

/** Pixels on an inch where a picture does not say (CSS Values 4, 6.2). */
export const USUAL_PPI = 96;
const INCH = 25.4;

/** The size that a picture asks for, mm. */
export const sizeOfPicture = ({
  width,
  height,
  ppi,
  stretch = 1,
}: Pick<PictureFacts, 'width' | 'height' | 'ppi'> & { readonly stretch?: number }) => ({
  width: (width / (ppi ?? USUAL_PPI)) * INCH,
  height: ((height * stretch) / (ppi ?? USUAL_PPI)) * INCH,
});

/** A picture among what a master keeps. */
export function resourceOfPicture(bytes: Uint8Array, name: string, { mediaType, width, height, ppi }: PictureFacts): Resource {
  return {
    id: digest(bytes),
    name: name.slice(0, 300),
    mediaType,
    size: bytes.length,
    role: 'picture',
    width,
    height,
    ...(ppi === null ? {} : { ppi }),
  };
}

/** What of a picture's file does not arrive, or is taken as something. */
export function notesOn({ frames, ppi, mediaType, taken }: PictureFacts): NotUnderstood[] {
  const notes: NotUnderstood[] = [];
  const what = mediaType === 'image/tiff' ? 'page' : 'frame';
  if (frames > 1) notes.push({ kind: `${what} after the first`, count: frames - 1, shows: true });
  for (const kind of taken) notes.push({ kind, count: 1, shows: true });
  if (ppi === null) notes.push({ kind: `no density stated, taken as ${USUAL_PPI} pixels per inch`, count: 1, shows: false });
  return notes;
}

/** A picture as a new document: a board of its size at its density, with the picture on it. */
export function masterOfPicture(bytes: Uint8Array, name: string, facts: PictureFacts): ReadMaster {
  const resource = resourceOfPicture(bytes, name, facts);
  const { width, height } = sizeOfPicture(facts);
  const title = (name.replace(/\.[^.]*$/, '') || 'Picture').slice(0, 200);
  const style = { fill: null, stroke: null, strokeWidth: 0 };
  const item: PictureItem = {
    kind: 'picture',
    id: 'picture',
    layer: 'layer-1',
    style,
    resource: resource.id,
    x: 0,
    y: 0,
    width,
    height,
  };
  const master: Master = {
    id: idFrom(`brought in ${resource.id}`),
    title,
    owner: '',
    purpose: 'picture',
    unit: 'mm',
    layers: [{ id: 'layer-1', name: 'Picture', colour: '#14213a', visible: true, locked: false, process: 'print' }],
    symbols: [],
    boards: [{ id: 'board-1', name: title, width, height, background: null, items: [item] }],
    resources: [resource],
    description: '',
  };
  return { master, mark: null, notUnderstood: notesOn(facts), resources: new Map([[resource.id, bytes]]) };
}
