import { Injectable, inject } from '@angular/core';
import { Clip, Failure, copyItems, nodeInWords, pasteItems, removeItems } from '@inkwell-twin/core/web';
import { PartRoom } from '../../content/part-room';
import { type CameIn, PicturesIn } from '../keep/pictures-in';
import { BoardRoom } from './board-room';
import { isTyping } from '../../shared/shortcuts';

/** What objects go by on the clipboard. */
const CLIP = 'application/x-inkwell-items+json';

/** Takes objects up and lays them down, and pictures that come as files. */
@Injectable()
export class BoardClipboard {
  private readonly room = inject(PartRoom);
  private readonly at = inject(BoardRoom);
  private readonly picturesIn = inject(PicturesIn);
  /** How often what was taken up was laid down here: each a little farther. */
  private laid = 0;

  /** Takes what is selected up, for this board or another. @param away whether it goes from here */
  copied(event: ClipboardEvent, away: boolean): void {
    const master = this.room.master();
    if (!master || !this.at.selection().length || isTyping(event.target)) return;
    // Words that are marked somewhere on the page are what is meant.
    if (getSelection()?.toString()) return;
    const clip = copyItems(master, this.at.selection());
    if (!clip || !event.clipboardData) return;
    event.preventDefault();
    event.clipboardData.setData(CLIP, JSON.stringify(clip));
    event.clipboardData.setData('text/plain', clip.items.map(nodeInWords).join('\n'));
    this.laid = 0;
    if (away) this.at.run(removeItems(master, this.at.selection()));
  }

  pasted({ clipboardData, target }: ClipboardEvent): void {
    const clip = clipboardData?.getData(CLIP);
    if (clip && !isTyping(target)) return this.lay(clip);
    void this.bring([...(clipboardData?.files ?? [])]);
  }

  private lay(text: string): void {
    const [master, board] = [this.room.master(), this.at.board()];
    if (!master || !board || this.room.fixed()) return;
    try {
      const by = ++this.laid * 5;
      const { command, ids, left } = pasteItems(master, board, Clip.parse(JSON.parse(text)), [by, -by]);
      this.at.run(command);
      this.at.selection.set(ids);
      this.room.say(left.length ? `Not laid down: ${left.join('; ')}.` : '');
    } catch (error) {
      this.room.say(error instanceof Failure ? error.message : 'What was taken up can’t be read here.');
    }
  }

  /** Keeps pictures with the master and puts them on the board that one looks at. */
  async bring(files: readonly File[]): Promise<void> {
    const board = this.at.board();
    if (!files.length || !board || this.room.fixed()) return;
    this.lie(await this.picturesIn.bring(this.room.masterId(), files, board));
  }

  private lie({ command, ids, words }: CameIn): void {
    if (command) this.at.run(command(this.room.master()!));
    if (ids.length) this.at.selection.set(ids);
    this.room.say(words);
  }
}
