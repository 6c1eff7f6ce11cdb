import { DEEPEST, ITEMS, type Role } from '@inkwell-twin/core/texts';
import { newId } from '@inkwell-twin/core/web';
import { type Command, Plugin, Selection, type Transaction } from 'prosemirror-state';
import { isInTable } from 'prosemirror-tables';
import type { Node } from 'prosemirror-model';
import { schema } from './schema';

export const isItemRole = (role: string): boolean => (ITEMS as readonly string[]).includes(role);

/** The paragraphs that are chosen, with their places. */
function chosenWords(selection: Selection, doc: Node): { node: Node; at: number }[] {
  const found: { node: Node; at: number }[] = [];
  doc.nodesBetween(selection.from, selection.to, (node, at, parent) => {
    if (node.type.name === 'words' && parent === doc) found.push({ node, at });
    return node === doc;
  });
  return found;
}

/** Sets attributes of the paragraphs that are chosen. */
export const setWords =
  (change: (attrs: Readonly<Record<string, unknown>>) => Record<string, unknown>): Command =>
  ({ selection, doc, tr }, dispatch) => {
    const chosen = chosenWords(selection, doc);
    if (!chosen.length) return false;
    for (const { node, at } of chosen) tr.setNodeMarkup(at, null, { ...node.attrs, ...change(node.attrs) });
    dispatch?.(tr.scrollIntoView());
    return true;
  };

export const setRole = (role: Role): Command =>
  setWords(({ level }) => ({ role, level: isItemRole(role) ? level : 0, start: null }));

/** An item one deeper, or one less deep; at the top it is an item no more. */
export const deeper =
  (by: 1 | -1): Command =>
  (state, dispatch) => {
    const chosen = chosenWords(state.selection, state.doc);
    if (!chosen.length || !chosen.every(({ node }) => isItemRole(node.attrs['role'] as string))) return false;
    return setWords(({ level, role }) => {
      const next = (level as number) + by;
      return next < 0 ? { role: 'body', level: 0, start: null } : { role, level: Math.min(DEEPEST, next) };
    })(state, dispatch);
  };

/** A line ends, its paragraph does not. */
export const lineEnd: Command = ({ tr, selection }, dispatch) => {
  if (!selection.$from.parent.inlineContent) return false;
  dispatch?.(tr.replaceSelectionWith(schema.nodes['end']!.create()).scrollIntoView());
  return true;
};
/** Within a cell there are lines, no paragraphs. */
export const endInCell: Command = (state, dispatch) => isInTable(state) && lineEnd(state, dispatch);

/** Enter: an empty item ends its list; after a heading comes a paragraph; else the paragraph is parted. */
export const part: Command = ({ selection, tr }, dispatch) => {
  const { $from, $to, empty } = selection;
  if ($from.depth !== 1 || $from.parent.type.name !== 'words') return false;
  const { role } = $from.parent.attrs as { role: Role };
  if (empty && !$from.parent.content.size && role !== 'body') {
    dispatch?.(tr.setNodeMarkup($from.before(1), null, { ...$from.parent.attrs, role: 'body', level: 0, start: null }));
    return true;
  }
  if (!dispatch) return true;
  if (!empty) tr.deleteSelection();
  const at = tr.mapping.map($to.pos);
  const here = tr.doc.resolve(at);
  const atEnd = here.parentOffset === here.parent.content.size;
  // Before the first letter a new paragraph begins, and the one with the words stays what it was.
  const isBefore = here.parentOffset === 0 && !atEnd;
  const next = isBefore
    ? here.parent.attrs
    : { ...here.parent.attrs, id: '', start: null, ...(role.startsWith('heading') && atEnd ? { role: 'body' } : {}) };
  tr.split(at, 1, [{ type: schema.nodes['words']!, attrs: next }]);
  if (isBefore) tr.setNodeMarkup(here.before(1), null, { ...here.parent.attrs, id: '' });
  dispatch(tr.scrollIntoView());
  return true;
};

/** Puts a block after the one with the cursor, and the cursor behind it. */
export const putBlock =
  (node: Node): Command =>
  ({ selection, tr }, dispatch) => {
    const after = selection.$from.depth ? selection.$from.after(1) : selection.to;
    tr.insert(after, node);
    const end = after + node.nodeSize;
    if (end >= tr.doc.content.size) tr.insert(end, schema.nodes['words']!.create());
    tr.setSelection(Selection.near(tr.doc.resolve(end), 1));
    dispatch?.(tr.scrollIntoView());
    return true;
  };

/** A table to begin with. */
export function emptyTable(rows = 3, columns = 3): Node {
  const { table, table_row, table_cell, table_header } = schema.nodes;
  const row = (r: number) =>
    table_row!.create(
      null,
      Array.from({ length: columns }, () => (r ? table_cell! : table_header!).create()),
    );
  return table!.create(
    { id: newId() },
    Array.from({ length: rows }, (_, r) => row(r)),
  );
}

/** Every block has an id of its own: of two halves of one, the one with words keeps it. */
export const ownIds = new Plugin({
  appendTransaction: (transactions, _before, state): Transaction | null => {
    if (!transactions.some(({ docChanged }) => docChanged)) return null;
    const seen = new Map<string, { at: number; node: Node }>();
    const renamed: { at: number; node: Node }[] = [];
    state.doc.forEach((node, at) => {
      const id = node.attrs['id'] as string;
      const first = seen.get(id);
      if (id && !first) seen.set(id, { at, node });
      else if (first && !first.node.content.size && node.content.size) {
        renamed.push(first);
        seen.set(id, { at, node });
      } else renamed.push({ at, node });
    });
    if (!renamed.length) return null;
    const { tr } = state;
    for (const { at, node } of renamed) tr.setNodeMarkup(at, null, { ...node.attrs, id: newId() }, node.marks);
    return tr.setMeta('addToHistory', false);
  },
});
