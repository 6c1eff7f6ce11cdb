import { Failure } from '../../base/failure/failure';
import { readExpression } from './expression';
import { type Value, isQuantity, measureInWords } from './quantity';

/** Letters that a filled wording may have. */
const LONGEST = 100_000;

/** A stretch of a wording: as it stands, or computed. `from` and `to` are its place in the wording as it was written. */
interface Stretch {
  readonly from: number;
  readonly to: number;
  readonly text?: string;
  readonly expression?: string;
}

/** Parts a wording at its slots: `{width}` is computed, `{{` and `}}` are braces. @throws Failure `formula` for a slot that has no end */
export function stretchesOf(wording: string): Stretch[] {
  const found: Stretch[] = [];
  let at = 0;
  while (at < wording.length) {
    const two = wording.slice(at, at + 2);
    if (two === '{{' || two === '}}') {
      found.push({ from: at, to: at + 2, text: two[0]! });
      at += 2;
    } else if (wording[at] === '{') {
      const end = wording.indexOf('}', at);
      if (end < 0) throw new Failure('formula', `The { at letter ${at + 1} has no }. Write {{ for a brace that is one.`);
      found.push({ from: at, to: end + 1, expression: wording.slice(at + 1, end) });
      at = end + 1;
    } else {
      let to = at + 1;
      while (to < wording.length && wording[to] !== '{' && wording[to] !== '}') to++;
      found.push({ from: at, to, text: wording.slice(at, to) });
      at = to;
    }
  }
  return found;
}

/** Whether a wording has a slot in it that could be meant as one. */
export const hasSlots = (wording: string): boolean => [...wording.matchAll(/\{[^{}]*\}/g)].some(([slot]) => /\p{L}/u.test(slot));

/** A value as a wording says it. @param perUnit mm in one unit of the master */
export function valueInWording(value: Value, perUnit: number): string {
  if (typeof value === 'string') return value;
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  if (!isQuantity(value)) throw new Failure('formula', `${measureInWords(value)} can’t be written into a text.`);
  return String(Number((value.value / perUnit ** value.length).toFixed(3)));
}

/** A wording with its slots filled, and where places of the written wording came to lie. */
interface Filled {
  readonly text: string;
  /** @param end whether the place ends something: within a slot that is its end, else its start */
  readonly placeOf: (place: number, end: boolean) => number;
}

/** @throws Failure `formula` */
export function fillSlots(wording: string, named: (name: string) => Value, perUnit: number): Filled {
  let text = '';
  const laid = stretchesOf(wording).map((stretch) => {
    const start = text.length;
    text += stretch.text ?? valueInWording(readExpression(stretch.expression!).evaluate(named), perUnit);
    // Texts within texts may double each time.
    if (text.length > LONGEST)
      throw new Failure('formula', `“${wording.slice(0, 40)}” becomes longer than ${LONGEST} letters. Put less into it.`);
    return { ...stretch, start, end: text.length };
  });
  return {
    text,
    placeOf: (place, end) => {
      const on = laid.find(({ from, to }) => (end ? place > from && place <= to : place >= from && place < to));
      if (!on) return place <= 0 ? 0 : text.length;
      if (on.text === undefined || on.end - on.start !== on.to - on.from) return end ? on.end : on.start;
      return on.start + place - on.from;
    },
  };
}
