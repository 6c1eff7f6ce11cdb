import type { Emphasis, Role } from '../../document/texts/schema';
import { XML } from '../opc';

export const MAIN = 'http://schemas.openxmlformats.org/wordprocessingml/2006/main';
/** Half points. */
const SIZES = [40, 32, 26, 24, 22, 22];

/** The style of words in a role; the names of these styles are those that the standard's latent styles have (ECMA-376-1, 17.7.4.5). */
export const styleOf = (role: Role, level: number): string | null =>
  role === 'body'
    ? null
    : role === 'quote'
      ? 'Quote'
      : role.startsWith('heading')
        ? `Heading${role.slice(-1)}`
        : role === 'continued'
          ? `Continued${level + 1}`
          : 'Item';

/** Emphasis as properties of a run (ECMA-376-1, 17.3.2), in the order of its schema. */
export const EMPHASIS: readonly (readonly [Emphasis, string])[] = [
  ['code', '<w:rStyle w:val="Code"/>'],
  ['bold', '<w:b/>'],
  ['italic', '<w:i/>'],
  ['struck', '<w:strike/>'],
  ['underlined', '<w:u w:val="single"/>'],
  ['raised', '<w:vertAlign w:val="superscript"/>'],
  ['lowered', '<w:vertAlign w:val="subscript"/>'],
];

const paragraph = (id: string, name: string, based: string, own: string, run = ''): string =>
  `<w:style w:type="paragraph" w:styleId="${id}"><w:name w:val="${name}"/>${based ? `<w:basedOn w:val="${based}"/>` : ''}<w:qFormat/>${own ? `<w:pPr>${own}</w:pPr>` : ''}${run ? `<w:rPr>${run}</w:rPr>` : ''}</w:style>`;

/** The styles of a document. */
export const stylesXml = (language: string): string =>
  `${XML}<w:styles xmlns:w="${MAIN}"><w:docDefaults><w:rPrDefault><w:rPr><w:rFonts w:ascii="serif" w:hAnsi="serif" w:cs="serif"/><w:sz w:val="22"/>${language ? `<w:lang w:val="${language}"/>` : ''}</w:rPr></w:rPrDefault><w:pPrDefault><w:pPr><w:spacing w:after="140" w:line="300" w:lineRule="auto"/></w:pPr></w:pPrDefault></w:docDefaults>${[
    '<w:style w:type="paragraph" w:default="1" w:styleId="Normal"><w:name w:val="Normal"/><w:qFormat/></w:style>',
    '<w:style w:type="table" w:default="1" w:styleId="TableNormal"><w:name w:val="Normal Table"/><w:tblPr><w:tblInd w:w="0" w:type="dxa"/><w:tblCellMar><w:left w:w="100" w:type="dxa"/><w:right w:w="100" w:type="dxa"/></w:tblCellMar></w:tblPr></w:style>',
    ...SIZES.map((size, i) =>
      paragraph(
        `Heading${i + 1}`,
        `heading ${i + 1}`,
        'Normal',
        `<w:keepNext/><w:spacing w:before="340" w:after="110"/><w:outlineLvl w:val="${i}"/>`,
        `<w:b/><w:sz w:val="${size}"/>`,
      ),
    ),
    paragraph('Quote', 'Quote', 'Normal', '<w:ind w:left="450" w:right="450"/>', '<w:i/>'),
    paragraph('Item', 'List Paragraph', 'Normal', '<w:spacing w:after="60"/>'),
    ...Array.from({ length: 9 }, (_, i) =>
      paragraph(
        `Continued${i + 1}`,
        i ? `List Continue ${i + 1}` : 'List Continue',
        'Normal',
        `<w:spacing w:after="60"/><w:ind w:left="${400 * (i + 1)}"/>`,
      ),
    ),
    paragraph('Caption', 'caption', 'Normal', '<w:spacing w:after="220"/>', '<w:sz w:val="18"/>'),
    paragraph('TableCaption', 'Table caption', 'Caption', '<w:keepNext/><w:spacing w:after="80"/>'),
    paragraph('CellHeading', 'Cell heading', 'Normal', '<w:spacing w:after="0"/>', '<w:b/>'),
    paragraph('Cell', 'Cell', 'Normal', '<w:spacing w:after="0"/>'),
    paragraph('FootnoteText', 'footnote text', 'Normal', '<w:spacing w:after="60"/>', '<w:sz w:val="18"/>'),
    '<w:style w:type="character" w:styleId="Code"><w:name w:val="Code"/><w:rPr><w:rFonts w:ascii="monospace" w:hAnsi="monospace" w:cs="monospace"/></w:rPr></w:style>',
    '<w:style w:type="character" w:styleId="FootnoteReference"><w:name w:val="footnote reference"/><w:rPr><w:vertAlign w:val="superscript"/></w:rPr></w:style>',
  ].join('')}</w:styles>`;

const levels = (make: (level: number) => string) => Array.from({ length: 9 }, (_, i) => make(i)).join('');
const level = (at: number, format: string, text: string): string =>
  `<w:lvl w:ilvl="${at}"><w:start w:val="1"/><w:numFmt w:val="${format}"/><w:lvlText w:val="${text}"/><w:lvlJc w:val="left"/><w:pPr><w:ind w:left="${400 * (at + 1)}" w:hanging="300"/></w:pPr></w:lvl>`;

/** A list of its own: at which depth, and the number that it begins with. */
export interface NumberedList {
  readonly level: number;
  readonly start: number;
}

/** Signs are list 1; numbered lists come after it, each with its beginning (ECMA-376-1, 17.9). */
export const numberingXml = (lists: readonly NumberedList[]): string =>
  `${XML}<w:numbering xmlns:w="${MAIN}"><w:abstractNum w:abstractNumId="0"><w:multiLevelType w:val="hybridMultilevel"/>${levels((at) => level(at, 'bullet', '•'))}</w:abstractNum><w:abstractNum w:abstractNumId="1"><w:multiLevelType w:val="hybridMultilevel"/>${levels((at) => level(at, 'decimal', `%${at + 1}.`))}</w:abstractNum><w:num w:numId="1"><w:abstractNumId w:val="0"/></w:num>${lists
    .map(
      ({ level: at, start }, i) =>
        `<w:num w:numId="${i + 2}"><w:abstractNumId w:val="1"/><w:lvlOverride w:ilvl="${at}"><w:startOverride w:val="${start}"/></w:lvlOverride></w:num>`,
    )
    .join('')}</w:numbering>`;
