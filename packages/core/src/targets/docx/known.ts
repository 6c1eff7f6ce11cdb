import type { Tally } from '../../bytes/tally';
import { type XmlNode, childOf, childrenOf, own } from '../../bytes/xml-tree';

const names = (text: string): ReadonlySet<string> => new Set(text.trim().split(/\s+/));

/** Properties of paragraphs that are read, or that say how lines stand and break (ECMA-376-1, 17.3.1). */
const PARAGRAPH = names(
  `pStyle keepNext keepLines pageBreakBefore widowControl numPr suppressLineNumbers tabs suppressAutoHyphens kinsoku wordWrap
   overflowPunct topLinePunct autoSpaceDE autoSpaceDN adjustRightInd snapToGrid spacing ind contextualSpacing mirrorIndents
   suppressOverlap jc textAlignment textboxTightWrap outlineLvl divId cnfStyle rPr sectPr bidi framePr`,
);
/** Properties of a section that are read, or that say what paper it is printed on (17.6). */
const SECTION = names(
  `headerReference footerReference cols pgSz pgMar paperSrc type docGrid rtlGutter formProt vAlign noEndnote titlePg footnotePr
   endnotePr pgNumType printerSettings`,
);
/** What a document refers to that is read, or that its words are set with (15.2). */
const RELATIONS = names(
  `styles stylesWithEffects numbering settings fontTable theme webSettings footnotes endnotes comments commentsExtended commentsIds
   commentsExtensible people image hyperlink customXml glossaryDocument header footer officeDocument core-properties
   custom-properties extended-properties thumbnail attachedTemplate`,
);
const NO_LINE = /^(nil|none)?$/;

/** Tells what a paragraph says of itself that is not read. @param filled whether it has words */
export function tellOfParagraph(properties: XmlNode | undefined, filled: boolean, tally: Tally): void {
  for (const one of childrenOf(properties)) {
    if (PARAGRAPH.has(one.name)) continue;
    if (one.name === 'pBdr') {
      // Without words it is a line from side to side, which is read.
      if (filled && childrenOf(one).some((side) => !NO_LINE.test(own(side, 'val') ?? ''))) tally.add('border around words');
    } else if (one.name === 'shd') {
      if (!/^(auto|ffffff)?$/i.test(own(one, 'fill') ?? '')) tally.add('ground behind words');
    } else if (one.name === 'pPrChange') tally.add('change that is not settled');
    else tally.add(`“${one.name.slice(0, 40)}” of a paragraph`);
  }
}

/** Tells what a section says of its pages that is not read. */
export function tellOfSection(section: XmlNode, tally: Tally): void {
  for (const one of childrenOf(section)) {
    if (one.name === 'headerReference' || one.name === 'footerReference') tally.add('header or footer of pages');
    else if (one.name === 'pgBorders') tally.add('border of pages');
    else if (!SECTION.has(one.name)) tally.add(`“${one.name.slice(0, 40)}” of a section`);
  }
  const columns = childOf(section, 'cols');
  if (columns && Number(own(columns, 'num') ?? 1) > 1) tally.add('columns');
}

/** Tells what a document has beside its words, and what it refers to, that is not read. */
export function tellOfDocument(document: XmlNode, types: Iterable<string>, tally: Tally): void {
  for (const { name } of childrenOf(document))
    if (name === 'background') tally.add('ground of pages');
    else if (name !== 'body') tally.add(`“${name.slice(0, 40)}” of the document`);
  for (const type of types) if (!RELATIONS.has(type)) tally.add(`part of the kind “${type.slice(0, 40)}”`);
}
