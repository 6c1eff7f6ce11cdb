import { plainNumber } from '../../base/bytes/numbers';
import type { Tally } from '../../contracts/tally';
import { Failure } from '../../base/failure/failure';
import { MOST_COLUMNS, MOST_ROWS } from '../../document/tables/schema';
import { daysOf } from '../../evaluate/tables/dates';
import { EPOCH } from './epoch';
import { type Format, colourOf, isLost } from './formats';
import { columnNumber } from './formula-read';
import { reportAttributes } from './known';
import { type Attributes, attributeOf, walkXml } from '../../base/bytes/walk-xml';
import { plainText } from '../../base/bytes/xml-text';

/** A cell as it stands in a sheet. */
export interface RawCell {
  readonly value: number | string | boolean | null;
  /** An error of the workbook: #DIV/0! */
  readonly error: boolean;
  /** In the grammar of workbooks; a shared one as it stands at its first cell, with how far off this one is. */
  readonly formula: string | null;
  readonly off: readonly [rows: number, columns: number];
  readonly format: Format | null;
}
/** Rows of cells, by their places; most are there. */
export interface RawSheet {
  readonly rows: readonly (readonly (RawCell | undefined)[])[];
}

/** Cells that one sheet may have: what is empty costs nothing. */
const MOST_CELLS = 20_000_000;

/** Parts of a sheet that say nothing of what its cells say (ECMA-376-1, 18.3.1.99). */
const NEUTRAL = new Set([
  'worksheet',
  'sheetPr',
  'tabColor',
  'outlinePr',
  'pageSetUpPr',
  'dimension',
  'sheetViews',
  'sheetView',
  'pane',
  'selection',
  'sheetFormatPr',
  'cols',
  'col',
  'sheetData',
  'row',
  'c',
  'v',
  'f',
  'is',
  't',
  'r',
  'rPr',
  'strike',
  'sz',
  'color',
  'rFont',
  'family',
  'scheme',
  'b',
  'i',
  'u',
  'vertAlign',
  'charset',
  'phoneticPr',
  'rPh',
  'autoFilter',
  'filterColumn',
  'sortState',
  'sheetCalcPr',
  'printOptions',
  'pageMargins',
  'pageSetup',
  'headerFooter',
  'oddHeader',
  'oddFooter',
  'evenHeader',
  'evenFooter',
  'firstHeader',
  'firstFooter',
  'rowBreaks',
  'colBreaks',
  'brk',
  'ignoredErrors',
  'ignoredError',
  'extLst',
  'ext',
  'tableParts',
  'tablePart',
  'dataValidations',
  'dataValidation',
  'formula1',
  'formula2',
  'sheetProtection',
  'protectedRanges',
  'protectedRange',
  'customProperties',
  'cellWatches',
  'scenarios',
  'customSheetViews',
  'webPublishItems',
]);

/** Notes are drawn by such a part, and so are controls. */
export const OLD_DRAWING = 'drawing of an older kind';
/** What of the rest is told under which name. */
const TOLD: Readonly<Record<string, string>> = {
  mergeCell: 'merged cells',
  drawing: 'drawing or chart',
  hyperlink: 'link',
  picture: 'background picture',
  oleObject: 'embedded object',
  control: 'control',
  legacyDrawing: OLD_DRAWING,
};
/** What shows among what programs say for themselves (ECMA-376-1, 18.2.10). */
const EXTENDED: Readonly<Record<string, string>> = {
  conditionalFormatting: 'conditional format',
  sparkline: 'drawing or chart',
};
const WITHIN = new Set([
  'mergeCells',
  'conditionalFormatting',
  'hyperlinks',
  'oleObjects',
  'controls',
  'cfvo',
  'dataBar',
  'colorScale',
  'iconSet',
  'formula',
]);

interface Shared {
  readonly formula: string;
  readonly row: number;
  readonly column: number;
}

const DATE: Format = { date: true, clock: true, decimals: null, odd: null };

/** How a workbook's cells look. */
interface SheetLooks {
  readonly formats: readonly Format[];
  /** Numbers of conditional looks that hide nothing. */
  readonly conditions: ReadonlySet<number>;
}

/** Reads the cells of a sheet. @throws Failure `package-damaged`, `too-many-rows`, `too-many-columns` */
export function readSheet(
  bytes: Uint8Array,
  part: string,
  strings: readonly string[],
  { formats, conditions }: SheetLooks,
  tally: Tally,
): RawSheet {
  const rows: (RawCell | undefined)[][] = [];
  const shared = new Map<string, Shared>();
  let [row, column, cells, deep] = [-1, -1, 0, 0];
  let corner = 'A1';
  let [type, style, value, formula, kind, si] = ['n', -1, '', '', '', ''];
  let [inValue, inFormula, inText, hasFormula, skipping] = [false, false, false, false, 0];

  const start = (attributes: Readonly<Record<string, string>>) => {
    // Attributes of cells have no prefix; there are millions of them.
    const { r: place, t, s } = attributes;
    const found = place === undefined ? null : /^([A-Za-z]{1,3})(\d+)$/.exec(place);
    if (place !== undefined && !found)
      throw new Failure('package-damaged', `“${part}” names a cell “${place.slice(0, 20)}”, which is none.`);
    column = found ? columnNumber(found[1]!) : column + 1;
    if (found && Number(found[2]) - 1 !== row)
      throw new Failure('package-damaged', `“${part}” has the cell ${place} in another row than its own.`);
    type = t ?? 'n';
    style = Number(s ?? -1);
    [value, formula, kind, si, hasFormula] = ['', '', '', '', false];
  };
  const valueOf = (): Pick<RawCell, 'value' | 'error'> => {
    if (type === 's') {
      const text = strings[Number(value)];
      if (value !== '' && text === undefined)
        throw new Failure('package-damaged', `“${part}” uses words number ${value.slice(0, 20)}, which are not there.`);
      return { value: text ? text : null, error: false };
    }
    // A date in words (ISO 8601), as strict workbooks have them.
    if (type === 'd') {
      const days = daysOf(value);
      return { value: Number.isNaN(days) ? value || null : days + EPOCH, error: false };
    }
    if (type === 'inlineStr' || type === 'str') return { value: value === '' ? null : plainText(value), error: false };
    if (type === 'b') {
      const said = /^\s*(?:(1|true)|0|false)\s*$/.exec(value);
      // What is neither is read as one or the other by this program or that.
      return { value: said ? said[1] !== undefined : value || null, error: false };
    }
    if (type === 'e') return { value, error: true };
    if (value.trim() === '') return { value: null, error: false };
    const number = plainNumber(value);
    return { value: Number.isFinite(number) ? number : value, error: false };
  };
  const end = () => {
    const format = type === 'd' ? DATE : (formats[style] ?? null);
    let [own, off]: [string | null, readonly [number, number]] = [hasFormula ? formula : null, [0, 0]];
    if (hasFormula && kind === 'shared') {
      const first = shared.get(si);
      if (formula) shared.set(si, { formula, row, column });
      else if (first) [own, off] = [first.formula, [row - first.row, column - first.column]];
    }
    const { value: said, error } = valueOf();
    if (said === null && own === null) return;
    if (++cells > MOST_CELLS) throw new Failure('too-many-cells', `This sheet has more than ${MOST_CELLS} cells. Split it.`);
    if (column >= MOST_COLUMNS)
      throw new Failure(
        'too-many-columns',
        `This sheet has a cell in column ${column + 1}; at most ${MOST_COLUMNS} can be kept.`,
      );
    (rows[row] ??= [])[column] = { value: said, error, formula: own, off, format };
    if (kind === 'array' || kind === 'dataTable') tally.add('formula of several cells');
  };

  walkXml(bytes, part, {
    open: (name, attributes) => {
      deep++;
      // Newer kinds of what is told lie among what programs say for themselves.
      if (skipping && EXTENDED[name]) tally.add(EXTENDED[name]);
      if (skipping) return;
      switch (name) {
        case 'sheetView':
          corner = attributeOf(attributes, 'topLeftCell') ?? 'A1';
          return reportAttributes(name, attributes, tally);
        case 'pane':
          // What stands before the first cell that is seen can't be come to where nothing rolls (ECMA-376-1, 18.3.1.66).
          if (/^frozen/.test(attributeOf(attributes, 'state') ?? '') && corner !== 'A1') tally.add('cells out of reach');
          return;
        case 'cfRule':
          if (!conditions.has(Number(attributeOf(attributes, 'dxfId') ?? -1))) tally.add('conditional format');
          return reportAttributes(name, attributes, tally);
        case 'row': {
          const at = attributeOf(attributes, 'r');
          row = at === undefined ? row + 1 : Number(at) - 1;
          column = -1;
          if (!(row >= 0 && row <= MOST_ROWS + 100))
            throw new Failure('too-many-rows', `This sheet has a row ${row + 1}; at most ${MOST_ROWS} can be kept.`);
          return reportAttributes(name, attributes, tally);
        }
        case 'c':
          reportAttributes(name, attributes, tally);
          return start(attributes);
        case 'v':
          inValue = true;
          return;
        case 'f':
          inFormula = hasFormula = true;
          kind = attributeOf(attributes, 't') ?? '';
          si = attributeOf(attributes, 'si') ?? '';
          return;
        case 't':
          inText = true;
          return;
        case 'rPh':
        case 'extLst':
          skipping = deep;
          return;
        default:
          reportAttributes(name, attributes, tally);
          reportRun(name, attributes, tally);
          if (TOLD[name]) tally.add(TOLD[name]);
          else if (!NEUTRAL.has(name) && !WITHIN.has(name)) tally.add(`“${name}” of a sheet`);
      }
    },
    close: (name) => {
      if (skipping === deep) skipping = 0;
      deep--;
      if (name === 'v') inValue = false;
      else if (name === 'f') inFormula = false;
      else if (name === 't') inText = false;
      else if (name === 'c' && !skipping) end();
    },
    text: (text) => {
      if (skipping) return;
      if (inFormula) formula += text;
      else if (inValue || inText) value += text;
    },
  });
  return { rows };
}

/** Tells how a stretch of a cell's words hides what it says (ECMA-376-1, 18.4.7). */
function reportRun(name: string, attributes: Attributes, tally: Tally): void {
  const value = attributeOf(attributes, 'val') ?? '';
  if (name === 'strike' && !/^(0|false)$/.test(value)) tally.add('words struck out');
  else if (name === 'sz' && Number(value) < 3) tally.add('words too small to be read');
  else if (name === 'color' && isLost(colourOf(attributes, '000000'))) tally.add('words in the colour of what lies behind them');
}

/** The words of a workbook, by their numbers: pieces of several looks together, readings left away. */
export function readStrings(bytes: Uint8Array | undefined, part: string, tally: Tally): string[] {
  const all: string[] = [];
  if (!bytes) return all;
  let [text, inText, spoken] = ['', false, 0];
  walkXml(bytes, part, {
    open: (name, attributes) => {
      if (name === 'si') text = '';
      else if (name === 'rPh') spoken++;
      else if (name === 't') inText = spoken === 0;
      else reportRun(name, attributes, tally);
    },
    close: (name) => {
      if (name === 'si') all.push(plainText(text));
      else if (name === 'rPh') spoken--;
      else if (name === 't') inText = false;
    },
    text: (piece) => {
      if (inText) text += piece;
    },
  });
  return all;
}
