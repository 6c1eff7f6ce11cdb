import { EMPHASES, type Role, numbersOf } from '@inkwell-twin/core/texts';
import { baseKeymap, chainCommands, toggleMark } from 'prosemirror-commands';
import { inputRules, textblockTypeInputRule } from 'prosemirror-inputrules';
import { keymap } from 'prosemirror-keymap';
import { type Command, EditorState, Plugin, PluginKey } from 'prosemirror-state';
import { goToNextCell, tableEditing } from 'prosemirror-tables';
import { Decoration, DecorationSet, type EditorView } from 'prosemirror-view';
import type { Node } from 'prosemirror-model';
import { deeper, endInCell, lineEnd, ownIds, part } from './acts';
import { schema } from './schema';

/** What is seen beside paragraphs: which of them a draft changed, which one was sent to. */
interface Beside {
  /** Ids of blocks that are other than at the last update. */
  readonly changed: ReadonlySet<string>;
  /** What their change would outdate, for people; empty where nothing. */
  readonly outdates: string;
  /** How many copies that are. */
  readonly drops: number;
  readonly wanted: string;
}
export const NOTHING: Beside = { changed: new Set(), outdates: '', drops: 0, wanted: '' };
const words = schema.nodes['words']!;
const beside = new PluginKey<{ now: Beside; drawn: DecorationSet }>('beside');

const DROP = 'M6 1.5C4.2 4.6 2 6.6 2 9a4 4 0 0 0 8 0C10 6.6 7.8 4.6 6 1.5z';
/** Drops of the copies that a change would leave behind. */
function drops({ drops: count, outdates }: Beside): HTMLElement {
  const box = document.createElement('span');
  box.className = 'drops';
  box.contentEditable = 'false';
  box.setAttribute('role', 'img');
  box.setAttribute('aria-label', outdates);
  box.title = outdates;
  for (let i = 0; i < Math.min(count, 6); i++) {
    const svg = document.createElementNS('http://www.w3.org/2000/svg', 'svg');
    svg.setAttribute('viewBox', '0 0 12 15');
    const path = document.createElementNS('http://www.w3.org/2000/svg', 'path');
    path.setAttribute('d', DROP);
    svg.append(path);
    box.append(svg);
  }
  return box;
}

function drawn(doc: Node, now: Beside): DecorationSet {
  const found: Decoration[] = [];
  if (!now.changed.size && !now.wanted) return DecorationSet.empty;
  doc.forEach((node, at) => {
    const id = node.attrs['id'] as string;
    if (now.changed.has(id)) {
      found.push(Decoration.node(at, at + node.nodeSize, { class: 'changed' }));
      if (now.drops && node.inlineContent)
        found.push(
          Decoration.widget(at + 1, () => drops(now), {
            side: -1,
            key: `drops ${now.drops} ${now.outdates}`,
            ignoreSelection: true,
          }),
        );
    }
    if (id && id === now.wanted) found.push(Decoration.node(at, at + node.nodeSize, { class: 'wanted' }));
  });
  return DecorationSet.create(doc, found);
}

const besidePlugin = new Plugin<{ now: Beside; drawn: DecorationSet }>({
  key: beside,
  state: {
    init: () => ({ now: NOTHING, drawn: DecorationSet.empty }),
    apply: (tr, before, _old, state) => {
      const now = tr.getMeta(beside) as Beside | undefined;
      if (now) return { now, drawn: drawn(state.doc, now) };
      return tr.docChanged ? { ...before, drawn: before.drawn.map(tr.mapping, tr.doc) } : before;
    },
  },
  props: { decorations: (state) => beside.getState(state)!.drawn },
});

/** Numbers of the items of numbered lists, which no element counts by itself where lists are flat. */
const numbers = new Plugin<DecorationSet>({
  state: {
    init: (_, { doc }) => numbered(doc),
    apply: (tr, before) => (tr.docChanged ? numbered(tr.doc) : before),
  },
  props: {
    decorations(state) {
      return this.getState(state);
    },
  },
});
function numbered(doc: Node): DecorationSet {
  const list: { block: string; role?: Role; level?: number; start?: number | null }[] = [];
  doc.forEach(
    ({ type, attrs }) => void list.push(type === words ? { block: 'words', ...(attrs as { role: Role }) } : { block: type.name }),
  );
  const found: Decoration[] = [];
  const counted = numbersOf(list);
  doc.forEach((node, at, i) => {
    if (counted[i] !== null && counted[i] !== undefined)
      found.push(Decoration.node(at, at + node.nodeSize, { 'data-number': `${counted[i]}.` }));
  });
  return found.length ? DecorationSet.create(doc, found) : DecorationSet.empty;
}

/**
 * Takes in what is selected and the browser has not told of yet, as happens on a busy machine: whatever changes the view next would
 * put the selection back where it was. The library does it by itself only when it is told.
 */
export const takeSelection = (view: EditorView): void =>
  (view as unknown as { readonly domObserver: { flush(): void } }).domObserver.flush();

/** Says what is to be seen beside the paragraphs. */
export const markBeside =
  (now: Beside): Command =>
  ({ tr }, dispatch) => {
    dispatch?.(tr.setMeta(beside, now));
    return true;
  };

/** What a line becomes when somebody begins it like that: `- `, `1. `, `# `, as many write in letters. */
const rules = inputRules({
  rules: [
    textblockTypeInputRule(/^\s*[-•]\s$/, words, { role: 'bullet', id: '' }),
    textblockTypeInputRule(/^(\d+)[.)]\s$/, words, (found) => ({
      role: 'numbered',
      start: found[1] === '1' ? null : Number(found[1]),
      id: '',
    })),
  ],
});

const KEYS: Readonly<Partial<Record<(typeof EMPHASES)[number], string>>> = {
  bold: 'Mod-b',
  italic: 'Mod-i',
  underlined: 'Mod-u',
};

/** A state of the editor. @param keys what is done elsewhere: undo, redo */
export function editorState(doc: Node, keys: Readonly<Record<string, Command>>): EditorState {
  return EditorState.create({
    doc,
    plugins: [
      keymap(keys),
      keymap(Object.fromEntries(EMPHASES.flatMap((mark) => (KEYS[mark] ? [[KEYS[mark], toggleMark(schema.marks[mark]!)]] : [])))),
      keymap({
        Enter: chainCommands(endInCell, part),
        'Shift-Enter': lineEnd,
        Tab: chainCommands(goToNextCell(1), deeper(1)),
        'Shift-Tab': chainCommands(goToNextCell(-1), deeper(-1)),
      }),
      rules,
      keymap(baseKeymap),
      tableEditing(),
      ownIds,
      numbers,
      besidePlugin,
    ],
  });
}
