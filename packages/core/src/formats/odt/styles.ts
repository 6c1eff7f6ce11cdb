import type { Emphasis, Role } from '../../document/texts/schema';
import { HEADINGS } from '../../document/texts/schema';

import { PAPER } from '../texts/paper';

/** The name of the style of words in a role. Names of styles are free (ODF 1.3-3, 19.498). */
export const styleOf = (role: Role): string =>
  role === 'quote' ? 'Quote' : role.startsWith('heading') ? `Heading${role.slice(-1)}` : role === 'body' ? 'Body' : 'Item';

/** What emphasis is in properties of text (ODF 1.3-3, 20). */
export const EMPHASIS: Readonly<Record<Emphasis, string>> = {
  bold: 'fo:font-weight="bold"',
  italic: 'fo:font-style="italic"',
  underlined: 'style:text-underline-style="solid" style:text-underline-width="auto" style:text-underline-color="font-color"',
  struck: 'style:text-line-through-style="solid"',
  code: 'style:font-name="Mono"',
  raised: 'style:text-position="super 58%"',
  lowered: 'style:text-position="sub 58%"',
};

export const NAMESPACES = [
  ['office', 'urn:oasis:names:tc:opendocument:xmlns:office:1.0'],
  ['style', 'urn:oasis:names:tc:opendocument:xmlns:style:1.0'],
  ['text', 'urn:oasis:names:tc:opendocument:xmlns:text:1.0'],
  ['table', 'urn:oasis:names:tc:opendocument:xmlns:table:1.0'],
  ['draw', 'urn:oasis:names:tc:opendocument:xmlns:drawing:1.0'],
  ['fo', 'urn:oasis:names:tc:opendocument:xmlns:xsl-fo-compatible:1.0'],
  ['svg', 'urn:oasis:names:tc:opendocument:xmlns:svg-compatible:1.0'],
  ['xlink', 'http://www.w3.org/1999/xlink'],
  ['dc', 'http://purl.org/dc/elements/1.1/'],
  ['meta', 'urn:oasis:names:tc:opendocument:xmlns:meta:1.0'],
]
  .map(([prefix, name]) => `xmlns:${prefix}="${name}"`)
  .join(' ');

const paragraph = (name: string, parent: string, own: string, text = '', more = ''): string =>
  `<style:style style:name="${name}" style:family="paragraph"${parent ? ` style:parent-style-name="${parent}"` : ''}${more}><style:paragraph-properties ${own}/>${text ? `<style:text-properties ${text}/>` : ''}</style:style>`;

/** Sizes of headings, pt. */
const SIZES = [20, 16, 13, 12, 11, 11];
const listLevels = (make: (level: number) => string) => Array.from({ length: 9 }, (_, i) => make(i + 1)).join('');
const place = (level: number) =>
  `<style:list-level-properties text:list-level-position-and-space-mode="label-alignment"><style:list-level-label-alignment text:label-followed-by="listtab" text:list-tab-stop-position="${7 * level}mm" fo:text-indent="-5mm" fo:margin-left="${7 * level}mm"/></style:list-level-properties>`;
const LISTS = [
  `<text:list-style style:name="Signs">${listLevels((level) => `<text:list-level-style-bullet text:level="${level}" text:bullet-char="•">${place(level)}</text:list-level-style-bullet>`)}</text:list-style>`,
  `<text:list-style style:name="Numbers">${listLevels((level) => `<text:list-level-style-number text:level="${level}" style:num-format="1" style:num-suffix=".">${place(level)}</text:list-level-style-number>`)}</text:list-style>`,
].join('');

/** The styles of a text document. */
export function stylesXml(xml: string, version: string, language: string, paper: keyof typeof PAPER): string {
  const [tongue, country] = language.split('-') as [string, string | undefined];
  const [width, height] = PAPER[paper];
  const said = language
    ? ` fo:language="${tongue}" fo:country="${country && /^[A-Za-z]{2}$/.test(country) ? country.toUpperCase() : 'none'}"`
    : '';
  return `${xml}<office:document-styles ${NAMESPACES} office:version="${version}"><office:font-face-decls><style:font-face style:name="Text" svg:font-family="serif" style:font-family-generic="roman"/><style:font-face style:name="Mono" svg:font-family="monospace" style:font-family-generic="modern" style:font-pitch="fixed"/></office:font-face-decls><office:styles><style:default-style style:family="paragraph"><style:paragraph-properties fo:orphans="2" fo:widows="2"/><style:text-properties style:font-name="Text" fo:font-size="11pt"${said}/></style:default-style>${[
    paragraph('Body', '', 'fo:margin-top="0mm" fo:margin-bottom="2.5mm" fo:line-height="130%"'),
    ...HEADINGS.map((_, i) =>
      paragraph(
        `Heading${i + 1}`,
        'Body',
        'fo:margin-top="6mm" fo:margin-bottom="2mm" fo:keep-with-next="always"',
        `fo:font-size="${SIZES[i]}pt" fo:font-weight="bold"`,
        ` style:default-outline-level="${i + 1}"`,
      ),
    ),
    paragraph('Quote', 'Body', 'fo:margin-left="8mm" fo:margin-right="8mm"', 'fo:font-style="italic"'),
    paragraph('Item', 'Body', 'fo:margin-bottom="1mm"'),
    paragraph('Caption', 'Body', 'fo:margin-bottom="4mm"', 'fo:font-size="9pt"'),
    paragraph('TableCaption', 'Caption', 'fo:margin-bottom="1mm" fo:keep-with-next="always"'),
    paragraph('Cell', 'Body', 'fo:margin-bottom="0mm"'),
    paragraph('CellHeading', 'Cell', 'fo:margin-bottom="0mm"', 'fo:font-weight="bold"'),
    paragraph('Figure', 'Body', 'fo:margin-top="3mm" fo:margin-bottom="1mm"'),
    paragraph('NewPage', 'Body', 'fo:break-before="page" fo:margin-bottom="0mm"'),
    paragraph('Across', 'Body', 'fo:border-bottom="0.5pt solid #000000" fo:padding="0mm"'),
    paragraph('Footnote', 'Body', 'fo:margin-bottom="1mm"', 'fo:font-size="9pt"'),
  ].join(
    '',
  )}${LISTS}</office:styles><office:automatic-styles><style:page-layout style:name="Page"><style:page-layout-properties fo:page-width="${width}mm" fo:page-height="${height}mm" fo:margin="22mm"/></style:page-layout></office:automatic-styles><office:master-styles><style:master-page style:name="Standard" style:page-layout-name="Page"/></office:master-styles></office:document-styles>`;
}
