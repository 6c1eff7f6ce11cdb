import { type Block, type Span, isNote } from './schema';

/** The words of spans; a note counts as one sign, and does without its words. */
export const NOTE_SIGN = '\uFFFC';
export const plainOf = (spans: readonly Span[]): string => spans.map((span) => (isNote(span) ? NOTE_SIGN : span.text)).join('');

/** The first words of a text, with a sign that there are more. */
export function firstWords(text: string, most = 40): string {
  const plain = text.replaceAll(NOTE_SIGN, '').replace(/\s+/g, ' ').trim();
  if (plain.length <= most) return plain;
  const cut = plain.slice(0, most + 1);
  const blank = cut.lastIndexOf(' ');
  return `${cut.slice(0, blank > most / 2 ? blank : most).replace(/[\s,;:.–—-]+$/, '')}…`;
}

const KINDS = { body: 'paragraph', quote: 'quotation', bullet: 'item', numbered: 'item', continued: 'item' } as const;

/** What a person would call one block: “Paragraph “The boardwalk begins…””. */
export function blockInWords(block: Block): string {
  if (block.block === 'break') return block.of === 'page' ? 'page break' : 'line across';
  const spans = block.block === 'words' ? block.spans : block.caption;
  const first = firstWords(plainOf(spans) || (block.block === 'picture' ? block.alt : ''));
  const kind = block.block === 'words' ? (KINDS[block.role as keyof typeof KINDS] ?? 'heading') : block.block;
  return first ? `${kind} “${first}”` : `empty ${kind}`;
}
