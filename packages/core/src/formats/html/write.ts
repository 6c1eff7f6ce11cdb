import { type Grid, type GridColumn, cellWords } from '../../content/grid/grid';
import { toBase64 } from '../../base/bytes/base64';
import type { Leaf } from '../../contracts/leaf';
import type { ProseBody } from '../../content/prose/prose';
import { dateOf } from '../../evaluate/tables/dates';
import { numberInWords } from '../../evaluate/tables/values';
import { TEXT_STYLE, htmlOfText } from '../texts/html-write';
import { TEXT_CLASS } from './pages';

const escaped = (text: string): string =>
  text.replace(/[&<>"\r]/g, (letter) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;', '\r': '&#13;' })[letter]!);

/** Looks that need nothing from elsewhere. */
export const STYLE = `body{font:15px/1.45 system-ui,sans-serif;color:#14213a;margin:2rem}
table{border-collapse:collapse;margin:0 0 2rem;font-variant-numeric:tabular-nums}
caption{text-align:left;font-weight:600;padding:0 0 .5rem}
th,td{padding:.25rem .75rem;border-bottom:1px solid #c9d4ce;text-align:left;white-space:pre-wrap}
th{border-bottom:2px solid #14213a;vertical-align:bottom}
th small{display:block;font-weight:400}
.number{text-align:right}
@media print{thead{display:table-header-group}}`;

/** The kinds of columns as classes; the name of one has no blank. */
export const CLASSES = {
  number: 'number',
  text: 'text',
  date: 'date',
  category: 'category',
  'yes or no': 'yes-or-no',
  untyped: 'text',
} as const;

function cell(column: GridColumn, row: number): string {
  const word = column.words?.[row];
  const value = column.numbers?.[row] ?? NaN;
  const name = column.type === 'number' ? ' class="number"' : '';
  if (word || Number.isNaN(value)) return `<td${name}>${escaped(word ?? '')}</td>`;
  const said = cellWords(column, row);
  if (column.type === 'date') return `<td><time datetime="${dateOf(value)}">${said}</time></td>`;
  if (column.type === 'yes or no') return `<td>${said}</td>`;
  return `<td${name}>${number(value, said)}</td>`;
}
/** What is shown, with all digits beside it where it shows fewer (4.4.13, the data element). */
const number = (value: number, said: string): string => (Number(said) === value ? said : `<data value="${value}">${said}</data>`);

const digits = (decimals: number | null): string => (decimals === null ? '' : ` data-digits="${decimals}"`);

function heading({ name, unit, type, decimals }: GridColumn, isKey: boolean): string {
  const key = isKey ? ' data-key' : '';
  return `<th scope="col" class="${CLASSES[type]}"${digits(decimals)}${key}>${escaped(name)}${unit ? `<small>${escaped(unit)}</small>` : ''}</th>`;
}

function table({ label, body }: Leaf): string {
  const { columns, count, key, summaries } = body as Grid;
  const rows = Array.from({ length: count }, (_, row) => `<tr>${columns.map((column) => cell(column, row)).join('')}</tr>`);
  const sums = summaries.map(
    ({ name, unit, decimals, value }) =>
      `<tr><th scope="row"${digits(decimals)}>${escaped(name)}${unit ? `<small>${escaped(unit)}</small>` : ''}</th><td class="number">${Number.isNaN(value) ? '' : number(value, numberInWords(value, decimals ?? undefined))}</td></tr>`,
  );
  return [
    '<table class="rows">',
    ...(label ? [`<caption>${escaped(label)}</caption>`] : []),
    `<thead><tr>${columns.map((column, i) => heading(column, i === key)).join('')}</tr></thead>`,
    '<tbody>',
    ...rows,
    '</tbody>',
    '</table>',
    ...(sums.length ? ['<table class="summaries">', '<tbody>', ...sums, '</tbody>', '</table>'] : []),
  ].join('\n');
}

/** A text as an article; its pictures stand in the page. */
function article({ label, body }: Leaf, at: number): string {
  const { language, pictures, ...rest } = body as ProseBody;
  const source = (word: string): string => {
    const picture = pictures[word];
    return picture ? `data:${picture.mediaType};base64,${toBase64(picture.bytes)}` : '';
  };
  const lang = language ? ` lang="${escaped(language)}"` : '';
  const words = htmlOfText({ language, pictures, ...rest }, { source, prefix: `t${at + 1}-`, epub: false });
  return `<article class="${TEXT_CLASS}"${label ? ` aria-label="${escaped(label)}"` : ''}${lang}>\n${words}\n</article>`;
}

const isProse = ({ kind }: Leaf): boolean => kind === 'prose';

/** Writes tables and texts as one page that needs nothing from elsewhere. */
export function writeHtml(leaves: readonly Leaf[], mark: string): Uint8Array {
  const texts = leaves.filter(isProse);
  const title = escaped(leaves[0]?.label || (texts.length ? 'Text' : 'Tables'));
  const language = escaped((texts[0]?.body as ProseBody | undefined)?.language || 'en');
  return new TextEncoder().encode(
    `<!doctype html>\n<html lang="${language}">\n<head>\n<meta charset="utf-8">\n<meta name="origin" content="${escaped(mark)}">\n<title>${title}</title>\n<style>\n${STYLE}${texts.length ? `\n${TEXT_STYLE}` : ''}\n</style>\n</head>\n<body>\n${leaves.map((leaf, i) => (isProse(leaf) ? article(leaf, i) : table(leaf))).join('\n')}\n</body>\n</html>\n`,
  );
}
