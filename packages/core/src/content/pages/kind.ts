import type { CarryLines } from '../../contracts/report';
import { CarryLines as Lines } from '../../contracts/report';
import { type Scope, textsOf } from '../../contracts/scope';
import { measureBy } from '../../evaluate/fonts/font-book';
import type { ResolvedBoard } from '../../evaluate/resolve';
import type { Master, Prose } from '../../document/schema';
import { isNote } from '../../document/texts/schema';
import type { Drawing } from '../../contracts/drawing';
import { kind as drawingKind } from '../drawing/kind';
import { declaration } from './index';
import type { ContentKind } from '../../contracts/kind';
import type { Services } from '../../contracts/services';
import { onSheets } from '../../evaluate/sheets/sheets';
import { how } from '../drawing/carry';
import { resolveBoards } from '../../evaluate/boards/source';
import { pagesOf } from './boards';
import { type PageCarries } from './features';

/** A page, and the text that it is of. */
interface PageSource {
  readonly board: ResolvedBoard;
  readonly text: Prose;
}

/** Writes down what laying out changes: where lines end is settled, and what only a reader's program knows goes. */
function told({ text, board }: PageSource, lines: CarryLines): void {
  const here = new Set(board.entries.map(({ source }) => source));
  const flow = lines.line('flow', 'restated', 'Flowing text', 'is laid out: its lines and pages end where they end');
  const links = lines.line('links', 'left out', 'Links', 'only their words arrive');
  const notes = lines.line('flow', 'restated', 'Notes', 'stand at the end, with numbers');
  const alts = lines.line('links', 'left out', 'Descriptions of pictures', 'are for those who do not see them');
  for (const block of text.blocks) {
    lines.take(block.id);
    if (!here.has(block.id)) continue;
    flow(block.id);
    const spans = block.block === 'words' ? block.spans : block.block === 'table' ? block.grid.flat(2) : [];
    if (spans.some((span) => isNote(span))) notes(block.id);
    if (spans.some((span) => !isNote(span) && span.link)) links(block.id);
    if (block.block === 'picture' && block.alt) alts(block.id);
  }
}

const { staged: _boards, fit: _fit, size: _size, ...pagesAsDrawings } = drawingKind;

/** Texts laid out on pages, for targets that say sheets. A copy of them says drawings. */
export const kind: ContentKind<PageSource, Drawing, PageCarries> = {
  ...pagesAsDrawings,
  ...declaration,
  resolve: (master: Master, scope: Scope, { fonts }: Pick<Services, 'fonts'>, { flow, sheets }: PageCarries) => {
    if (typeof flow !== 'object') return [];
    const plan = how(sheets)?.plan;
    const printed = (pages: Master): Master => (plan ? onSheets(pages, pages.boards, plan) : pages);
    return textsOf(master, scope).flatMap((text) =>
      resolveBoards(printed(pagesOf(master, text, flow.page, measureBy(fonts))), { of: 'master' }, { fonts }).map(
        ({ key, label, source }) => ({
          key,
          label,
          source: { board: source, text },
        }),
      ),
    );
  },
  adapt: (source, carries, lines, services) => {
    told(source, lines);
    // How a page is drawn is no news to who laid it out; letters that a font has not are.
    const quiet = new Lines();
    const body = drawingKind.adapt(source.board, carries, quiet, services);
    const report = (drawn: Drawing): Drawing => {
      for (const { feature, outcome, what, becomes, objects } of quiet.report().lines)
        if (feature === 'characters' || feature === 'sheets' || (feature === 'pictures' && outcome !== 'kept'))
          for (const object of objects) lines.line(feature, outcome, what, becomes)(object);
      return drawn;
    };
    return body instanceof Promise ? body.then(report) : report(body);
  },
};
