// Longer than most: one editor of a library, whose acts share its state.
import {
  ChangeDetectionStrategy,
  Component,
  DestroyRef,
  ElementRef,
  ViewEncapsulation,
  afterNextRender,
  computed,
  effect,
  inject,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { Master, Prose, Resource } from '@inkwell-twin/core/web';
import { chainOf, newId, nodeHash } from '@inkwell-twin/core/web';
import {
  ALIGNMENTS,
  type Alignment,
  type Block,
  EMPHASES,
  type Emphasis,
  ROLES,
  type Role,
  countWords,
  layOutText,
  plainOf,
  setBlocks,
  takeOffBoards,
} from '@inkwell-twin/core/texts';
import { toggleMark } from 'prosemirror-commands';
import { type EditorState, NodeSelection, Selection, type Command as Act } from 'prosemirror-state';
import { addColumnAfter, addRowAfter, deleteColumn, deleteRow, toggleHeader } from 'prosemirror-tables';
import { EditorView } from 'prosemirror-view';
import { InputText } from 'primeng/inputtext';
import { counted } from '../../shared/words';
import { PicturesIn } from '../../master/keep/pictures-in';
import { deeper, emptyTable, putBlock, setRole, setWords } from './acts';
import { PartRoom } from '../part-room';
import type { ParagraphPlace } from './index';
import { type Chosen, chosenIn } from './chosen';
import { blocksOf, docOf, settle } from './convert';
import { NOTHING, editorState, markBeside, takeSelection } from './editor';
import { schema } from './schema';
import { Pick, pickables } from '../../shared/pick';

/** Whether two blocks say the same; what was changed and taken back is no change. */
const isSame = (a: Block | undefined, b: Block): boolean => a === b || (a !== undefined && nodeHash(a) === nodeHash(b));

/** How long one types before it is a step of the draft, ms. */
const PAUSE = 400;

/** What the roles are called that have no name of their own. */
const ROLE_LABELS: Partial<Record<Role, string>> = {
  body: 'plain text',
  quote: 'quotation',
  continued: 'more of the item',
};
const roleLabel = (role: Role): string => ROLE_LABELS[role] ?? (/^h/.test(role) ? role : `${role} item`);

/** A text of the master, to be read and written: one column, what each paragraph is at its left, whom a change outdates at its right. */
@Component({
  selector: 'twin-prose-face',
  imports: [FormsModule, InputText, Pick],
  changeDetection: ChangeDetectionStrategy.OnPush,
  // The editor makes its own elements: their looks are named below this one's.
  encapsulation: ViewEncapsulation.None,
  templateUrl: './prose-face.html',
  styleUrl: './prose-face.css',
  providers: [PicturesIn],
  // What was typed just now is a step before the window goes.
  host: { '(window:pagehide)': 'flush()', '(document:visibilitychange)': 'flush()' },
})
export class ProseFace {
  protected readonly room = inject(PartRoom);
  private readonly found = this.room.part('texts');
  protected readonly master = computed((): Master => this.room.master()!);
  protected readonly text = computed((): Prose => this.found()!);
  /** The text as it is in the revision that the draft is of. */
  private readonly before = this.room.before('texts');
  private readonly masterId = this.room.masterId;
  protected readonly fixed = this.room.fixed;
  private readonly outdates = computed(() => this.room.outdated().map(({ label }) => label));
  /** A paragraph to go to. */
  private readonly wanted = computed(() => {
    const at = this.room.wanted();
    return at?.of === 'paragraph' ? (at as ParagraphPlace) : null;
  });

  private readonly place = viewChild.required<ElementRef<HTMLElement>>('page');
  private readonly picturesIn = inject(PicturesIn);
  private view: EditorView | null = null;
  private shown: Prose | null = null;
  private typed: ReturnType<typeof setTimeout> | undefined;
  /** Files that are shown already and that the master hears of with the next step. */
  private readonly fresh = new Map<string, Resource>();

  protected readonly chosen = signal<Chosen | null>(null);
  protected readonly asked = signal<'link' | 'note' | null>(null);
  protected answered = '';
  protected readonly said = signal('');
  protected readonly roles = ROLES.map((role) => ({ value: role, label: roleLabel(role) }));
  protected readonly aligns = pickables(ALIGNMENTS);
  protected readonly marks = EMPHASES;
  protected readonly counted = counted;
  protected readonly canNote = computed(() => this.chosen()?.kind === 'words' || this.chosen()?.kind === 'table');
  private readonly counts = new WeakMap<Block, number>();
  protected readonly wordCount = computed(() => this.text().blocks.reduce((sum, block) => sum + this.wordsOf(block), 0));

  private wordsOf(block: Block): number {
    let count = this.counts.get(block);
    if (count === undefined) {
      const spans =
        block.block === 'words'
          ? [block.spans]
          : block.block === 'table'
            ? [block.caption, ...block.grid.flat()]
            : block.block === 'picture'
              ? [block.caption]
              : [];
      count = spans.reduce((sum, one) => sum + countWords(plainOf(one)), 0);
      this.counts.set(block, count);
    }
    return count;
  }

  constructor() {
    afterNextRender(() => this.begin());
    effect(() => {
      const text = this.text();
      untracked(() => this.show(text));
    });
    effect(() => {
      const fixed = this.fixed();
      untracked(() => this.view?.setProps({ editable: () => !fixed }));
    });
    effect(() => {
      this.text();
      const [before, outdates, wanted] = [this.before(), this.outdates(), this.wanted()];
      untracked(() => this.beside(before, outdates, wanted?.block ?? ''));
    });
    const flush = () => this.flush();
    this.room.unfinished = flush;
    inject(DestroyRef).onDestroy(() => {
      this.flush();
      if (this.room.unfinished === flush) this.room.unfinished = () => undefined;
      this.view?.destroy();
    });
  }

  private readonly keys: Readonly<Record<string, Act>> = {
    'Mod-z': () => this.back('undo'),
    'Mod-y': () => this.back('redo'),
    'Mod-Shift-z': () => this.back('redo'),
  };
  private back(way: 'undo' | 'redo'): boolean {
    this.flush();
    this.room[way]();
    return true;
  }

  private begin(): void {
    const text = this.text();
    this.shown = text;
    const doc = docOf(text.blocks);
    settle(doc, text.blocks);
    this.view = new EditorView(this.place().nativeElement, {
      state: editorState(doc, this.keys),
      editable: () => !this.fixed(),
      attributes: {
        role: 'textbox',
        'aria-multiline': 'true',
        'aria-label': `Text ${text.name}`,
        lang: text.language,
        spellcheck: 'true',
        tabindex: '0',
      },
      dispatchTransaction: (tr) => {
        const view = this.view!;
        const state = view.state.apply(tr);
        view.updateState(state);
        if (tr.docChanged && !tr.getMeta('master')) {
          clearTimeout(this.typed);
          this.typed = setTimeout(() => this.flush(), PAUSE);
        }
        this.chosen.set(chosenIn(state));
      },
    });
    this.beside(this.before(), this.outdates(), this.wanted()?.block ?? '');
  }

  /** The text came anew: from a step of one's own, from undoing, from somebody else. */
  private show(text: Prose): void {
    const { view, shown } = this;
    if (!view || text === shown) return;
    takeSelection(view);
    if (shown && shown.id !== text.id) {
      this.flush();
      this.shown = text;
      const doc = docOf(text.blocks);
      settle(doc, text.blocks);
      view.updateState(editorState(doc, this.keys));
      view.dom.setAttribute('aria-label', `Text ${text.name}`);
      this.chosen.set(null);
      return;
    }
    this.shown = text;
    // What is being typed is newer than the step of one's own that came back. What others did comes in after what was typed was
    // made a step: see `unfinished` of the journal.
    if (this.typed !== undefined) return;
    const doc = docOf(text.blocks);
    const from = view.state.doc.content.findDiffStart(doc.content);
    if (from === null) return settle(view.state.doc, text.blocks);
    let { a, b } = view.state.doc.content.findDiffEnd(doc.content)!;
    const overlap = from - Math.min(a, b);
    if (overlap > 0) [a, b] = [a + overlap, b + overlap];
    view.dispatch(view.state.tr.replace(from, a, doc.slice(from, b)).setMeta('master', true).setMeta('addToHistory', false));
    // A change that begins within a paragraph can be put in as another: then it is put in whole.
    if (!view.state.doc.eq(doc))
      view.dispatch(view.state.tr.replaceWith(0, view.state.doc.content.size, doc.content).setMeta('master', true));
    settle(view.state.doc, text.blocks);
  }

  /** Makes a step of what was typed. */
  flush(): void {
    clearTimeout(this.typed);
    if (this.typed === undefined || !this.view) return;
    this.typed = undefined;
    const text = this.shown ?? this.text();
    const master = this.master();
    const known = new Set(master.resources.map(({ id }) => id));
    const added = [...this.fresh.values()].filter(({ id }) => !known.has(id));
    const blocks = blocksOf(this.view.state.doc).filter(({ id }) => id !== '');
    const command = setBlocks(text, blocks, { master: master.id, last: master.resources.at(-1)?.id ?? null, added });
    if (command.patches.length) this.room.run(command);
  }

  protected left({ relatedTarget }: FocusEvent): void {
    if (!(relatedTarget instanceof Node) || !this.place().nativeElement.contains(relatedTarget)) this.flush();
  }

  private beside(before: Prose | undefined, outdates: readonly string[], wanted: string): void {
    const { view } = this;
    if (!view) return;
    takeSelection(view);
    const old = new Map(before?.blocks.map((block) => [block.id, block]));
    const changed = new Set(
      before ? this.text().blocks.flatMap((block) => (isSame(old.get(block.id), block) ? [] : [block.id])) : [],
    );
    const words = outdates.length ? `would outdate ${outdates.join(', ')}` : '';
    markBeside(changed.size || wanted ? { changed, outdates: words, drops: outdates.length, wanted } : NOTHING)(
      view.state,
      view.dispatch,
    );
    if (wanted && wanted !== this.went) this.goTo(wanted);
    this.went = wanted;
  }
  private went = '';

  private goTo(block: string): void {
    const view = this.view!;
    view.state.doc.forEach((node, at) => {
      if (node.attrs['id'] !== block) return;
      const element = view.nodeDOM(at);
      if (element instanceof HTMLElement) element.scrollIntoView({ block: 'center' });
    });
  }

  /** Places on boards that the text runs through. */
  protected readonly frames = computed(() => chainOf(this.master(), this.text().id).length);
  protected layOut(): void {
    this.flush();
    const before = new Set(this.master().boards.map(({ id }) => id));
    this.room.run(layOutText(this.master(), this.text()));
    const laid = this.room.master()?.boards.find(({ id }) => !before.has(id));
    if (laid) this.room.showPart(laid.id);
  }
  protected takeOff(): void {
    this.flush();
    this.room.run(takeOffBoards(this.master(), this.text()));
  }

  /** What is pressed at the foot is about what has the cursor: the text keeps it, and nothing moves under the pointer. */
  protected keepCursor(event: MouseEvent): void {
    if ((event.target as HTMLElement).closest('button')) event.preventDefault();
  }

  protected act(act: Act): void {
    const { view } = this;
    if (!view || this.fixed()) return;
    takeSelection(view);
    act(view.state, view.dispatch);
    view.focus();
  }
  protected readonly deep = deeper(1);
  protected readonly shallower = deeper(-1);
  protected readonly rowAfter = addRowAfter;
  protected readonly columnAfter = addColumnAfter;
  protected readonly dropRow = deleteRow;
  protected readonly dropColumn = deleteColumn;
  protected readonly headRow = toggleHeader('row');

  protected role = (role: Role): void => this.act(setRole(role));
  protected align = (align: Alignment): void => this.act(setWords(() => ({ align })));
  protected emphasis = (mark: Emphasis): void => this.act(toggleMark(schema.marks[mark]!));

  protected put(what: 'table' | 'page' | 'line'): void {
    const rule = (of: string) => schema.nodes['rule']!.create({ id: newId(), of });
    this.act(putBlock(what === 'table' ? emptyTable() : rule(what)));
  }

  protected open(what: 'link' | 'note', answer: string): void {
    this.answered = answer;
    this.asked.set(what);
    setTimeout(() => this.place().nativeElement.parentElement?.querySelector<HTMLInputElement>('.ask input')?.focus());
  }
  protected answer(): void {
    const [what, words] = [this.asked(), this.answered.trim()];
    this.asked.set(null);
    if (what === 'note') {
      if (words)
        this.act(
          ({ tr, selection }, dispatch) => (
            dispatch?.(tr.insert(selection.to, schema.nodes['note']!.create({ note: [{ text: words }] }))),
            true
          ),
        );
    } else if (what === 'link') this.act((state, dispatch) => this.linked(state, words, dispatch));
  }
  /** The words that are chosen, or those of the link with the cursor, lead somewhere else, or nowhere. */
  private linked({ tr, selection, doc }: EditorState, href: string, dispatch?: EditorView['dispatch']): boolean {
    const link = schema.marks['link']!;
    let { from, to } = selection;
    if (selection.empty) {
      const own = link.isInSet(selection.$from.marks());
      if (!own) return false;
      doc.nodesBetween(selection.$from.start(), selection.$from.end(), (node, at) => {
        if (node.isText && own.isInSet(node.marks) && at <= selection.from && at + node.nodeSize >= selection.from)
          [from, to] = [at, at + node.nodeSize];
      });
    }
    tr.removeMark(from, to, link);
    if (href) tr.addMark(from, to, link.create({ href }));
    dispatch?.(tr);
    return true;
  }

  /** Sets an attribute of what is chosen: a picture, a table, a note. */
  private attribute(name: string, value: unknown): void {
    this.act(({ tr, selection }, dispatch) => {
      const at = selection instanceof NodeSelection ? selection.from : selection.$from.before(1);
      const node = tr.doc.nodeAt(at);
      if (!node) return false;
      tr.setNodeMarkup(at, null, { ...node.attrs, [name]: value });
      if (selection instanceof NodeSelection) tr.setSelection(NodeSelection.create(tr.doc, at));
      else tr.setSelection(Selection.near(tr.doc.resolve(tr.mapping.map(selection.from))));
      dispatch?.(tr);
      return true;
    });
  }
  private readonly saidIn = (event: Event): string => (event.target as HTMLInputElement).value;
  protected caption(event: Event): void {
    const text = this.saidIn(event).trim();
    this.attribute('caption', text ? [{ text }] : []);
  }
  protected pictureSays(name: 'alt' | 'width', event: Event): void {
    const words = this.saidIn(event);
    const width = Number(words.replace(',', '.'));
    if (name === 'alt') this.attribute('alt', words.trim());
    else if (width >= 1 && width <= 2000) this.attribute('width', width);
  }
  protected noteSays(event: Event): void {
    const text = this.saidIn(event).trim();
    if (text) this.attribute('note', [{ text }]);
  }

  protected added(event: Event): void {
    const field = event.target as HTMLInputElement;
    void this.bring([...(field.files ?? [])]).then(() => (field.value = ''));
  }
  /** Keeps pictures with the master and puts them where the cursor is. */
  private async bring(files: readonly File[]): Promise<void> {
    const { kept, words } = await this.picturesIn.keep(this.masterId(), files);
    for (const { resource, width } of kept) {
      this.fresh.set(resource.id, resource);
      const alt = resource.name.replace(/\.[^.]*$/, '');
      this.act(
        putBlock(
          schema.nodes['picture']!.create({
            id: newId(),
            picture: resource.id,
            alt,
            width: Math.min(160, Math.max(1, Math.round(width))),
          }),
        ),
      );
    }
    this.said.set(words);
  }
}
