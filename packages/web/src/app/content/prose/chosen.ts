import { EMPHASES, type Alignment, type Emphasis, type Role, type Span, type Words, isNote } from '@inkwell-twin/core/texts';
import { type EditorState, NodeSelection } from 'prosemirror-state';
import { isItemRole } from './acts';
import { schema } from './schema';

/** What has the cursor, as the line at the foot shows it. */
export interface Chosen {
  readonly kind: 'words' | 'table' | 'picture' | 'note' | 'rule';
  readonly role: Role;
  readonly align: Alignment;
  readonly item: boolean;
  readonly level: number;
  readonly marks: ReadonlySet<Emphasis>;
  readonly link: string;
  /** Whether some words are chosen. */
  readonly some: boolean;
  readonly caption: string;
  readonly alt: string;
  readonly width: number;
  readonly note: string;
}
const NONE: Chosen = {
  kind: 'rule',
  role: 'body',
  align: 'left',
  item: false,
  level: 0,
  marks: new Set(),
  link: '',
  some: false,
  caption: '',
  alt: '',
  width: 0,
  note: '',
};

const plainOfSpans = (spans: readonly Span[]): string => spans.map((span) => (isNote(span) ? '' : span.text)).join('');

/** Whether all words that are chosen, or those about to be typed, have a mark. */
function marksOf({ selection, doc, storedMarks }: EditorState): ReadonlySet<Emphasis> {
  const { from, to, empty, $from } = selection;
  if (empty) {
    const marks = storedMarks ?? $from.marks();
    return new Set(EMPHASES.filter((mark) => marks.some(({ type }) => type.name === mark)));
  }
  const shared = new Set<Emphasis>(EMPHASES);
  doc.nodesBetween(from, to, (node) => {
    if (node.isText) for (const mark of EMPHASES) if (!schema.marks[mark]!.isInSet(node.marks)) shared.delete(mark);
  });
  return shared;
}

export function chosenIn(state: EditorState): Chosen {
  const { selection } = state;
  if (selection instanceof NodeSelection) {
    const { name } = selection.node.type;
    const attrs = selection.node.attrs as Record<string, unknown>;
    if (name === 'note') return { ...NONE, kind: 'note', note: plainOfSpans(attrs['note'] as Words[]) };
    if (name === 'picture')
      return {
        ...NONE,
        kind: 'picture',
        alt: attrs['alt'] as string,
        width: attrs['width'] as number,
        caption: plainOfSpans(attrs['caption'] as Span[]),
      };
    return NONE;
  }
  const block = selection.$from.depth ? selection.$from.node(1) : null;
  const marks = marksOf(state);
  const link = (selection.$from.marks().find(({ type }) => type.name === 'link')?.attrs['href'] as string | undefined) ?? '';
  if (block?.type.name === 'table')
    return {
      ...NONE,
      kind: 'table',
      marks,
      link,
      some: !selection.empty,
      caption: plainOfSpans(block.attrs['caption'] as Span[]),
    };
  if (block?.type.name !== 'words') return NONE;
  const { role, align, level } = block.attrs as { role: Role; align: Alignment; level: number };
  return { ...NONE, kind: 'words', role, align, item: isItemRole(role), level, marks, link, some: !selection.empty };
}
