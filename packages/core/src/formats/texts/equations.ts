import type { ProseSpan } from '../../content/prose/prose';
import type { Emphasis } from '../../document/texts/schema';

/** An element of an equation, of whichever language: Office Math Markup (ECMA-376-1, 22.1) or MathML (3.0). */
export interface EquationNode {
  readonly name: string;
  readonly children: readonly EquationNode[];
  /** Words that stand right in it. */
  readonly text: string;
  /** What one of its properties says. */
  readonly said: (property: string) => string | undefined;
}

const span = (text: string, marks: readonly Emphasis[] = []): ProseSpan => ({ text, marks, link: '', note: null });
const wordsOf = (spans: readonly ProseSpan[]): string => spans.map(({ text }) => text).join('');
/** Whether something needs no brackets: a number, a word, a sign. */
const isSingle = (spans: readonly ProseSpan[]): boolean => /^[\p{L}\p{N}.,]*$/u.test(wordsOf(spans));
const bracketed = (spans: readonly ProseSpan[]): ProseSpan[] => (isSingle(spans) ? [...spans] : [span('('), ...spans, span(')')]);

/** Above or below the line; what stands so already, or can't, goes after a sign. */
function moved(spans: readonly ProseSpan[], mark: 'raised' | 'lowered'): ProseSpan[] {
  if (spans.every(({ marks }) => !marks.length)) return spans.map(({ text }) => span(text, [mark]));
  return [span(mark === 'raised' ? '^' : '_'), ...bracketed(spans)];
}

type Say = (parts: (readonly ProseSpan[])[], node: EquationNode) => ProseSpan[];
const all: Say = (parts) => parts.flat();
const fraction: Say = ([above = [], below = []]) => [...bracketed(above), span('/'), ...bracketed(below)];
const raised: Say = ([base = [], up = []]) => [...base, ...moved(up, 'raised')];
const lowered: Say = ([base = [], down = []]) => [...base, ...moved(down, 'lowered')];
const both: Say = ([base = [], down = [], up = []]) => [...base, ...moved(down, 'lowered'), ...moved(up, 'raised')];
const root: Say = ([under = []]) => [span('√'), ...bracketed(under)];

/** How elements are said in a line of words; all others are what stands in them. */
const SAID: Readonly<Record<string, Say>> = {
  // MathML: what stands in an element by its place.
  mfrac: fraction,
  msup: raised,
  msub: lowered,
  msubsup: both,
  munderover: both,
  munder: lowered,
  mover: raised,
  msqrt: (parts) => root([parts.flat()], undefined as never),
  mroot: ([under = [], degree = []]) => [...moved(degree, 'raised'), ...root([under], undefined as never)],
  mspace: () => [span(' ')],
  mtr: (parts) => parts.flatMap((part, i) => [...(i ? [span(', ')] : []), ...part]),
  mtable: (parts) => [span('['), ...parts.flatMap((part, i) => [...(i ? [span('; ')] : []), ...part]), span(']')],
  mfenced: (parts, node) => [
    span(node.said('open') ?? '('),
    ...parts.flatMap((part, i) => [...(i ? [span(', ')] : []), ...part]),
    span(node.said('close') ?? ')'),
  ],
  // Office Math: what stands in an element by its name, in the order of its schema.
  f: fraction,
  sSup: raised,
  sSub: lowered,
  sSubSup: both,
  rad: ([degree = [], under = []]) => [...(degree.length ? moved(degree, 'raised') : []), ...root([under], undefined as never)],
  nary: ([down = [], up = [], of = []], node) => [
    span(node.said('chr') ?? '∫'),
    ...(down.length ? moved(down, 'lowered') : []),
    ...(up.length ? moved(up, 'raised') : []),
    span(' '),
    ...of,
  ],
  d: (parts, node) => [
    span(node.said('begChr') ?? '('),
    ...parts.flatMap((part, i) => [...(i ? [span(node.said('sepChr') ?? ', ')] : []), ...part]),
    span(node.said('endChr') ?? ')'),
  ],
  func: ([name = [], of = []]) => [...name, span(' '), ...of],
  mr: (parts) => parts.flatMap((part, i) => [...(i ? [span(', ')] : []), ...part]),
  m: (parts) => [span('['), ...parts.flatMap((part, i) => [...(i ? [span('; ')] : []), ...part]), span(']')],
  eqArr: (parts) => parts.flatMap((part, i) => [...(i ? [span('\n')] : []), ...part]),
  limLow: lowered,
  limUpp: raised,
};
/** What says how something looks, and holds no part of an equation. */
const PROPERTIES = /Pr$|^annotation/;
const DEEPEST = 60;

/** An equation as a line of words, with what stands above and below it marked so. Fractions and roots get brackets where they need some. */
export function equationWords(node: EquationNode, depth = 0): ProseSpan[] {
  if (depth > DEEPEST) return [];
  const parts = node.children.filter(({ name }) => !PROPERTIES.test(name)).map((child) => equationWords(child, depth + 1));
  const own = node.text.trim();
  return [...(own ? [span(own)] : []), ...(SAID[node.name] ?? all)(parts, node)];
}
