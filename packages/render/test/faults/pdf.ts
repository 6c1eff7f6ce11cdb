import { writeFileSync } from 'node:fs';
import type { ByteChange, ByteChanges, Dice } from '../../../core/test/faults/dice';
import { changed, inFolder, rewritten } from './qpdf';

/** The streams that paint, without fonts, pictures and what is said about the file. */
function painting(opened: string): { from: number; to: number }[] {
  const found: { from: number; to: number }[] = [];
  for (const { index } of opened.matchAll(/\nstream\n/g)) {
    const [from, to] = [index + 8, opened.indexOf('\nendstream', index)];
    const text = opened.slice(from, to);
    // What is not text at all has other bytes than letters, digits and blanks.
    if (/^[\n\x20-\x7e]*$/.test(text) && /(^|[ \n])(m|l|Tm|Tf|cm|BDC|re|q)\n/.test(text)) found.push({ from, to });
  }
  return found;
}

/** Puts something else in the place of a match. */
const instead = (text: string, at: number, { 0: before }: RegExpMatchArray, after: string): string =>
  text.slice(0, at) + after + text.slice(at + before.length);

type How = (match: RegExpMatchArray, dice: Dice, tolerance: number) => string;

/** A change to one place of what draws, chosen among all that fit. */
const drawn =
  (pattern: RegExp, how: How): ByteChange =>
  (bytes, dice, tolerance) =>
    changed(bytes, (opened) => {
      const places = painting(opened).flatMap(({ from, to }) =>
        [...opened.slice(from, to).matchAll(pattern)].map((match) => ({ at: from + match.index, match })),
      );
      const picked = dice.pick(places);
      return picked && instead(opened, picked.at, picked.match, how(picked.match, dice, tolerance));
    });

/** A change to one place of the whole file. */
const anywhere =
  (pattern: RegExp, how: How): ByteChange =>
  (bytes, dice, tolerance) =>
    changed(bytes, (opened) => {
      const match = dice.pick([...opened.matchAll(pattern)]);
      return match && instead(opened, match.index, match, how(match, dice, tolerance));
    });

const NUMBER = /-?(?:\d+\.?\d*|\.\d+)/g;
/** The numbers of a match, one of them changed. @param at which */
function changing(text: string, at: number, change: (value: number) => number): string {
  let index = 0;
  return text.replace(NUMBER, (value) => (index++ === at ? String(Number(change(Number(value)).toFixed(5))) : value));
}
/** Further off than the tolerance, up to a few millimetres. */
const off = (dice: Dice, tolerance: number): number => dice.size(5 * tolerance, 4) * (dice.next() < 0.5 ? -1 : 1);
/** One of the numbers moved. @param first of so many that are a place; @param count how many they are */
const moved =
  (first: number, count = 2): How =>
  ([text], dice, tolerance) =>
    changing(text!, first + dice.below(count), (value) => value + off(dice, tolerance));
const otherShare = (value: number): number => (value > 0.5 ? value - 0.25 : value + 0.25);

const pagesOf = (bytes: Uint8Array): number =>
  Number(
    inFolder((at, run) => {
      writeFileSync(at('in.pdf'), bytes);
      return run('qpdf', '--show-npages', 'in.pdf');
    }),
  );
/** Other pages of the file. @param choose from their count */
const pages =
  (choose: (count: number) => string | undefined): ByteChange =>
  (bytes) => {
    const chosen = choose(pagesOf(bytes));
    return chosen ? rewritten(bytes, 'in.pdf', '--pages', '.', chosen, '--') : undefined;
  };

const N = '-?[\\d.]+';
/** An instruction with so many numbers; a last one before an outline is closed may lie on the closing line. */
const line = (numbers: number, operator: string): RegExp =>
  new RegExp(`(?<=\\n)(?:${N} ){${numbers}}${operator}\\n(?!h\\n)`, 'g');

/** What can happen to a PDF, by its text and by a program of Debian's. */
export const PDF_CHANGES: ByteChanges = {
  faults: {
    'a corner moved': drawn(line(2, '[ml]'), moved(0)),
    'a curve bent': drawn(line(6, 'c'), moved(4)),
    'a fill recoloured': drawn(line(3, 'rg'), ([text], dice) => changing(text!, dice.below(3), otherShare)),
    'a line recoloured': drawn(line(3, 'RG'), ([text], dice) => changing(text!, dice.below(3), otherShare)),
    'a line of another width': drawn(line(1, 'w'), ([text]) => changing(text!, 0, (value) => value * 1.4 + 0.1)),
    'a shape taken out': drawn(
      new RegExp(`(?<=\\n)(?:${N} ){2}m\\n(?:(?:${N} )+[lc]\\n)+(?:h\\n)?(?:f\\*?|B\\*?|S)\\n`, 'g'),
      () => '',
    ),
    'a shape drawn over': drawn(
      /(?<=\n)(?:f\*?|B\*?|S)\n/g,
      ([text], dice) => `${text}0.2 0.6 0.1 rg ${10 + dice.below(40)} ${10 + dice.below(30)} 4 3 re f\n`,
    ),
    'filled otherwise': drawn(/(?<=\n)f\n/g, () => 'S\n'),
    'dashes taken off': drawn(/(?<=\n)\[[\d. ]+\] [\d.]+ d\n/g, () => '[] 0 d\n'),
    'a letter changed': drawn(/(?<=\[<(?:[\da-f]{4})*)[\da-f]{4}(?=[\da-f]*>)/g, ([code]) => (code === '0001' ? '0002' : '0001')),
    'a text moved': drawn(new RegExp(`(?:${N} ){6}Tm\\n`, 'g'), moved(4)),
    'a text turned': drawn(new RegExp(`(?:${N} ){6}Tm\\n`, 'g'), ([text]) =>
      changing(
        changing(text!, 1, (v) => v + 0.03),
        2,
        (v) => v - 0.03,
      ),
    ),
    'a text of another size': drawn(/(?<=\/F\d+ )[\d.]+(?= Tf)/g, ([size]) => String(Number(size) * 1.05)),
    'letters apart': drawn(/(?<=BT )/g, () => '0.3 Tc '),
    'a text unseen': drawn(/(?<=BT )\d Tr/g, () => '3 Tr'),
    'a text taken out': drawn(/BT [^]*?\nET\n/g, () => ''),
    'a page larger': anywhere(/\/MediaBox \[\s+[\d.]+\s+[\d.]+\s+[\d.]+/g, ([text]) => changing(text!, 2, (value) => value + 9)),
    'a layer called otherwise': anywhere(/(?<=\/Name )\([^)]*\)(?=\s+\/Type \/OCG)/g, () => '(Elsewhere)'),
    'something let through': anywhere(/(?<=\/ca )(?:1|0?\.\d+)/g, ([share]) => String(otherShare(Number(share)))),
    'a picture moved': drawn(new RegExp(`(?:${N} ){6}cm\\n(?=/I?m?\\w+ Do)`, 'gi'), moved(4)),
    'pages the other way': pages((count) => (count > 1 ? 'z-1' : undefined)),
    'a page gone': pages((count) => (count > 1 ? `2-z` : undefined)),
    'a page twice': pages(() => '1,1-z'),
    'cut short': (bytes) => bytes.subarray(0, Math.floor(bytes.length / 2)),
  },
  harmless: {
    linearised: (bytes) => rewritten(bytes, '--linearize', '--deterministic-id', 'in.pdf'),
    opened: (bytes) => rewritten(bytes, '--qdf', '--object-streams=disable', 'in.pdf'),
    unpacked: (bytes) => rewritten(bytes, '--stream-data=uncompress', 'in.pdf'),
    'packed anew': (bytes) =>
      rewritten(bytes, '--recompress-flate', '--compression-level=9', '--object-streams=generate', 'in.pdf'),
    'spaces that letters of two bytes do not know': drawn(/(?<=BT )/g, () => '2 Tw '),
    'comments put in': drawn(/(?<=\n)(?:f|S|ET)\n/g, ([text]) => `${text}% seen by the printer\n`),
    'numbers written longer': drawn(line(2, '[ml]'), ([text]) =>
      text!.replace(NUMBER, (value) => (value.includes('.') ? `${value}00` : `${value}.0`)),
    ),
    'put aside and back': drawn(/(?<=\n)(?:f|S|ET)\n/g, ([text]) => `${text}q 1 0 0 1 5 5 cm 9 w Q\n`),
  },
};
