import { decodeText } from '../../base/bytes/text';
import { Failure } from '../../base/failure/failure';
import { type Machining, MachiningBuilder } from '../../contracts/machining';
import type { NotUnderstood } from '../../contracts/not-understood';
import { Tally } from '../../contracts/tally';
import { HEAD, STEP } from './declare';

interface ReadStitches {
  readonly moves: Machining;
  readonly mark: string | null;
  readonly notUnderstood: NotUnderstood[];
}

/** How high a needle is whose thread is cut, mm. */
const CUT = 1;
/** The columns of a list, as its line says them. */
const COLUMNS = ['op', 'x', 'y', 'thread'];
/** Farther than this no hoop reaches, steps. */
const FAR = 1e6;

const damaged = (line: number, why: string) =>
  new Failure('stitches-damaged', `The list of stitches can’t be read further, line ${line}: ${why}.`, { line });

function whole(word: string | undefined, line: number, what: string): number {
  const value = /^[+-]?\d+$/.test(word ?? '') ? Number(word) : NaN;
  if (Number.isNaN(value)) throw damaged(line, `“${(word ?? '').slice(0, 20)}” is no whole number for ${what}`);
  if (Math.abs(value) > FAR) throw damaged(line, `${what} ${value} is out of all reason`);
  return value;
}

/**
 * What a needle sews with a list of stitches (docs/stitch-list.md); what is not known is told with its line.
 * @throws Failure `stitches-damaged` with the line at which reading stopped
 */
export function readStitches(bytes: Uint8Array): ReadStitches {
  const lines = decodeText(bytes).split(/\r\n|\r|\n/);
  if (lines[0]?.trim() !== HEAD) throw damaged(1, `a list begins with “${HEAD}”`);
  const tally = new Tally();
  const builder = new MachiningBuilder((value) => (Math.round(value / STEP) * STEP * 1e6) / 1e6);
  const colours = new Map<number, string>();
  let mark: string | null = null;
  let [inList, isOver, behind] = [false, false, 0];
  lines.forEach((text, i) => {
    const [line, plain] = [i + 1, text.trim()];
    if (!i || !plain) return;
    if (plain.startsWith('#')) {
      const note = plain.slice(1).trim();
      if (note.startsWith('inkwell-twin;')) mark ??= note;
      return;
    }
    if (isOver) return void behind++;
    const fields = plain.split(',').map((word) => word.trim());
    const [op = '', x, y, thread] = fields;
    if (fields.slice(COLUMNS.length).some(Boolean)) tally.add(`a field more, line ${line}`);
    if (op === 'op') {
      if (COLUMNS.some((name, k) => fields[k] !== name))
        throw damaged(line, `the columns are ${COLUMNS.join(', ')}, in this order`);
      inList = true;
    } else if (op === 'thread' && !inList) {
      const number = whole(x, line, 'a thread');
      if (!/^#[0-9a-fA-F]{6}$/.test(y ?? '')) throw damaged(line, `“${(y ?? '').slice(0, 20)}” is no colour (#rrggbb)`);
      if (colours.has(number)) throw damaged(line, `thread ${number} is said twice`);
      colours.set(number, y!.toLowerCase());
    } else if (op === 'end') isOver = true;
    else if (op === 'stitch' || op === 'jump' || op === 'cut') {
      if (!inList) throw damaged(line, `a list begins with the line “${COLUMNS.join()}”`);
      const before = builder.count;
      const number = whole(thread, line, 'a thread');
      builder.use(number, `Thread ${number}`, colours.get(number));
      if (op === 'cut') builder.go('rapid', { z: CUT });
      else {
        const to = { x: whole(x, line, 'x') * STEP, y: whole(y, line, 'y') * STEP };
        if (op === 'stitch') builder.go('line', { ...to, z: 0 });
        // Over the way of a jump the thread is where it was: cut, or not.
        else builder.go('rapid', Number.isNaN(builder.at[2]) ? { ...to, z: CUT } : to);
      }
      // A needle that goes in where it is does so once more, and a thread can't be cut twice.
      if (builder.count === before && op !== 'jump') tally.add(`a ${op} that was there already, line ${line}`);
    } else tally.add(`${op.slice(0, 20) || 'a line of nothing'}, line ${line}`);
  });
  if (behind) tally.add('lines behind the end of the list', behind);
  if (!isOver) tally.add('no end of the list');
  return { moves: builder.finish(), mark, notUnderstood: tally.list() };
}
