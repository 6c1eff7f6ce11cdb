import { digest } from '../../hash';
import type { Item1, Project1 } from '../v1/schema';
import type { Document2, Item2, Package2 } from '../v2/schema';

type Path2 = Extract<Item2, { kind: 'path' }>;

/** Outlines from stretches: each M begins one, a Z closes it. */
function outlinesOf(d: Extract<Item1, { kind: 'path' }>['d']): Path2['outlines'] {
  const outlines: Path2['outlines'] = [];
  let at: [number, number] = [0, 0];
  let open: Path2['outlines'][number] | null = null;
  for (const stretch of d) {
    if (stretch[0] === 'M') {
      at = [stretch[1], stretch[2]];
      outlines.push((open = { start: at, segments: [], closed: false }));
      continue;
    }
    // After a Z, and at the very beginning, a line goes on from where the last outline began.
    if (!open) outlines.push((open = { start: at, segments: [], closed: false }));
    if (stretch[0] === 'Z') {
      open.closed = true;
      at = open.start as [number, number];
      open = null;
    } else if (stretch[0] === 'L') open.segments.push({ line: [stretch[1], stretch[2]] });
    else open.segments.push({ curve: stretch.slice(1) as [number, number, number, number, number, number] });
  }
  return outlines;
}

/** A project of version 1 as one of version 2: what version 2 added is not there, everything else is what it was. */
export function upgrade1to2({ index, boards, pictures }: Project1): Package2 {
  const shaOf = new Map([...pictures].map(([file, bytes]) => [file, digest(bytes)]));
  const item = (one: Item1): Item2 => {
    const { id, name, layer } = one;
    const base = { id, ...(name === undefined ? {} : { name }), layer };
    switch (one.kind) {
      case 'path':
        return {
          kind: 'path',
          ...base,
          fill: one.fill,
          stroke: one.stroke,
          width: one.width,
          opacity: 1,
          outlines: outlinesOf(one.d),
        };
      case 'text':
        return {
          kind: 'text',
          ...base,
          fill: one.fill,
          opacity: 1,
          text: one.text,
          x: one.x,
          y: one.y,
          size: one.size,
          bold: one.bold,
        };
      case 'picture': {
        const { file, x, y, width, height } = one;
        return { kind: 'picture', ...base, opacity: 1, picture: shaOf.get(file)!, x, y, width, height };
      }
    }
  };
  const seen = new Set<string>();
  const document: Document2 = {
    id: index.id,
    title: index.title,
    owner: index.owner,
    layers: index.layers.map((layer) => ({ ...layer, process: 'print' as const })),
    symbols: [],
    boards: boards.map(({ items, ...board }) => ({ ...board, items: items.map(item) })),
    // The same picture may lie there under two names.
    pictures: index.pictures
      .filter(({ sha256 }) => !seen.has(sha256) && seen.add(sha256))
      .map(({ file, sha256, mediaType, width, height }) => ({ sha256, name: file, mediaType, width, height })),
  };
  const kept = new Map([...pictures].map(([file, bytes]) => [shaOf.get(file)!, bytes]));
  return { document, rev: index.rev, time: index.saved, pictures: kept };
}
