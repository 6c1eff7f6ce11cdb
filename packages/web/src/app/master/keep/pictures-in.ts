import { Injectable, inject } from '@angular/core';
import { firstValueFrom } from 'rxjs';
import type { AnswerOf } from '@inkwell-twin/api';
import { type Board, type Command, type Master, type Patch, type PictureItem, newId } from '@inkwell-twin/core/web';
import { Api } from '../../services/api.service';

/** What became of pictures that were brought in. */
export interface CameIn {
  /** Puts them on their board; null where none came in. */
  readonly command: ((master: Master) => Command) | null;
  readonly ids: readonly string[];
  /** What there is to say of them. */
  readonly words: string;
}

/** A picture fills at most this share of its board when it is put there. */
const ROOM = 0.6;

/** Brings pictures into an open master. */
@Injectable()
export class PicturesIn {
  private readonly api = inject(Api);

  /** Keeps files with a master. @returns those that are pictures, and what there is to say of them all */
  async keep(master: string, files: readonly File[]): Promise<{ kept: AnswerOf<'addPicture'>[]; words: string }> {
    const came: AnswerOf<'addPicture'>[] = [];
    const words: string[] = [];
    for (const file of files)
      try {
        const kept = await firstValueFrom(this.api.send('addPicture', file, master));
        came.push(kept);
        for (const { kind, count } of kept.notUnderstood) words.push(`${file.name}: ${kind}${count > 1 ? ` (${count})` : ''}`);
      } catch (error) {
        words.push(`${file.name} did not come in: ${(error as Error).message}`);
      }
    return { kept: came, words: words.join('. ') };
  }

  async bring(master: string, files: readonly File[], board: Board): Promise<CameIn> {
    const { kept, words } = await this.keep(master, files);
    return this.laid(kept, words, board);
  }

  /** Links a picture on the shelf. @throws what the server says of it */
  async link(master: string, path: string, board: Board): Promise<CameIn> {
    const kept = await firstValueFrom(this.api.call('linkPicture', { id: master }, { path }));
    const words = kept.notUnderstood.map(({ kind, count }) => `${path}: ${kind}${count > 1 ? ` (${count})` : ''}`);
    return this.laid([kept], words.join('. '), board);
  }

  /** Pictures that are kept by now, each in the middle of a board. */
  private laid(came: readonly AnswerOf<'addPicture'>[], words: string, board: Board): CameIn {
    const ids = came.map(() => newId());
    const command = (now: Master): Command => {
      const layer = now.layers.find(({ visible, locked }) => visible && !locked) ?? now.layers[0]!;
      const known = new Set(now.resources.map(({ id }) => id));
      let last = now.resources.at(-1)?.id ?? null;
      const sheet = now.boards.find(({ id }) => id === board.id) ?? now.boards[0]!;
      let under = sheet.items.at(-1)?.id ?? null;
      const patches: Patch[] = [];
      came.forEach(({ resource, width, height }, i) => {
        if (!known.has(resource.id)) {
          patches.push({ op: 'insert', parent: now.id, list: 'resources', after: last, node: resource });
          last = resource.id;
          known.add(resource.id);
        }
        const shrink = Math.min(1, (ROOM * board.width) / width, (ROOM * board.height) / height);
        const [w, h] = [width * shrink, height * shrink];
        const item: PictureItem = {
          kind: 'picture',
          id: ids[i]!,
          name: resource.name.replace(/\.[^.]*$/, '').slice(0, 200) || 'Picture',
          layer: layer.id,
          style: { fill: null, stroke: null, strokeWidth: 0 },
          resource: resource.id,
          x: (board.width - w) / 2 + 4 * i,
          y: (board.height - h) / 2 - 4 * i,
          width: w,
          height: h,
        };
        patches.push({ op: 'insert', parent: sheet.id, list: 'items', after: under, node: item });
        under = item.id;
      });
      return { label: came.length === 1 ? 'Picture added' : `${came.length} pictures added`, patches };
    };
    return { command: came.length ? command : null, ids, words };
  }
}
