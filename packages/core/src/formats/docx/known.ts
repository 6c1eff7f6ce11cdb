import type { Tally } from '../../contracts/tally';
import { type XmlNode, childOf, childrenOf, own, saidOf } from '../../base/bytes/xml-tree';

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
/** What is marked as changed and not settled yet (17.13.5). */
const CHANGES = names(
  'ins del moveFrom moveTo cellIns cellDel cellMerge tblPrChange trPrChange tcPrChange rPrChange tblPrExChange',
);
/** Properties of tables, rows and cells that are read, or that say how wide, in which lines and how far apart they stand (17.4). */
const TABLE = names(
  `tblStyle tblpPr tblOverlap tblStyleRowBandSize tblStyleColBandSize tblW jc tblCellSpacing tblInd tblBorders shd tblLayout
   tblCellMar tblLook tblCaption tblDescription`,
);
const ROW = names('cnfStyle divId gridBefore gridAfter wBefore wAfter cantSplit tblHeader tblCellSpacing jc hidden trHeight');
const CELL = names('cnfStyle tcW gridSpan vMerge hMerge tcBorders shd noWrap tcMar tcFitText vAlign hideMark headers');

/** Elements of a picture that are read, or that say nothing of how it looks (20.1, 20.2, 20.4), with attributes that say more. */
const PICTURE = names(
  `drawing inline anchor extent effectExtent docPr cNvGraphicFramePr graphicFrameLocks graphic graphicData pic nvPicPr cNvPr cNvPicPr
   picLocks blipFill blip stretch fillRect srcRect spPr xfrm off ext prstGeom avLst ln headEnd tailEnd noFill effectLst simplePos positionH positionV
   align posOffset sizeRelH sizeRelV pctWidth pctHeight wrapNone wrapSquare wrapTight wrapThrough wrapTopAndBottom wrapPolygon start
   lineTo extLst useLocalDpi decorative`,
);

/** Tells what a paragraph says of itself that is not read. @param filled whether it has words */
export function reportParagraph(properties: XmlNode | undefined, filled: boolean, tally: Tally): void {
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

/** Twentieths of a point: an inch over the edge, and as wide as paper is. */
const [OVER, WIDE] = [-1_440, 9_000];
const isElsewhere = (value: string | undefined): boolean => Number(value ?? 0) < OVER || Number(value ?? 0) > WIDE;

/** Tells how a paragraph stands where nobody sees it: off the page, or with its lines on each other (17.3.1.12, 17.3.1.33). */
export function reportRoom(properties: XmlNode, tally: Tally): void {
  const [room, lines] = [childOf(properties, 'ind'), childOf(properties, 'spacing')];
  if (room && ['left', 'start', 'right', 'end', 'firstLine', 'hanging'].some((side) => isElsewhere(own(room, side))))
    tally.add('words off the page');
  const line = lines && own(lines, 'line');
  // Of so many twentieths of a point, or 240ths of a line.
  const least = lines && own(lines, 'lineRule') === 'exact' ? 80 : 120;
  if (line !== undefined && lines && own(lines, 'lineRule') !== 'atLeast' && Number(line) < least)
    tally.add('lines on each other');
}

/** Tells what a section says of its pages that is not read. */
export function reportSection(section: XmlNode, tally: Tally): void {
  for (const one of childrenOf(section)) {
    if (one.name === 'headerReference' || one.name === 'footerReference') tally.add('header or footer of pages');
    else if (one.name === 'pgBorders') tally.add('border of pages');
    else if (!SECTION.has(one.name)) tally.add(`“${one.name.slice(0, 40)}” of a section`);
  }
  const columns = childOf(section, 'cols');
  if (columns && Number(own(columns, 'num') ?? 1) > 1) tally.add('columns');
}

/** Tells what a document has beside its words, and what it refers to, that is not read. */
export function reportDocument(document: XmlNode, types: Iterable<string>, tally: Tally): void {
  for (const { name } of childrenOf(document))
    if (name === 'background') tally.add('ground of pages');
    else if (name !== 'body') tally.add(`“${name.slice(0, 40)}” of the document`);
  for (const type of types) if (!RELATIONS.has(type)) tally.add(`part of the kind “${type.slice(0, 40)}”`);
}

/** Tells what a table, a row or a cell says of itself that is not read. */
export function reportTable(properties: XmlNode | undefined, part: 'table' | 'row' | 'cell', tally: Tally): void {
  const known = { table: TABLE, row: ROW, cell: CELL }[part];
  for (const one of childrenOf(properties)) {
    if (CHANGES.has(one.name)) tally.add('change that is not settled');
    else if (one.name === 'bidiVisual') tally.add('table from right to left');
    else if (one.name === 'textDirection' && /^(lrTb|tb)$/.test(own(one, 'val') ?? '')) continue;
    else if (!known.has(one.name)) tally.add(`“${one.name.slice(0, 40)}” of a ${part}`);
  }
  const elsewhere = part === 'table' ? childOf(properties, 'tblpPr') : undefined;
  if (elsewhere && [own(elsewhere, 'tblpX'), own(elsewhere, 'tblpY')].some(isElsewhere)) tally.add('table off the page');
  const height = childOf(properties, 'trHeight');
  // Twentieths of a point: a row that is to be no higher than three points shows nothing.
  if (height && own(height, 'hRule') === 'exact' && Number(own(height, 'val') ?? 0) < 60) tally.add('hidden rows');
}

/** Tells how the end of a paragraph is marked as changed or hidden: with the next one it is one then. */
export function reportEnd(mark: XmlNode | undefined, tally: Tally): void {
  for (const { name } of childrenOf(mark)) if (CHANGES.has(name)) tally.add('change that is not settled');
  for (const name of ['vanish', 'specVanish'])
    if (childOf(mark, name) && !isOff(saidOf(mark, name) ?? 'true')) tally.add('hidden end of a paragraph');
}

const isOff = (value: string | undefined): boolean => value === undefined || /^(0|false|none)$/.test(value);
/** How far the shape of a picture may be from that of its frame, as a share. */
const STRETCHED = 0.01;

/**
 * Tells how a picture is shown otherwise than it is: turned, mirrored, stretched, in other colours, hidden.
 * @param shown the picture itself; null where it is not known
 */
export function reportPicture(
  drawing: XmlNode,
  shown: { readonly width: number; readonly height: number } | null,
  tally: Tally,
): void {
  // Pictures of an older kind say it in words of style (ISO/IEC 29500-4, 19.1).
  const older = drawing.name === 'pict';
  const stack: { node: XmlNode; depth: number; within: string }[] = [{ node: drawing, depth: 0, within: '' }];
  while (stack.length) {
    const { node, depth, within } = stack.pop()!;
    const at = (name: string) => own(node, name);
    if (older) {
      if (/rotation|flip|visibility:\s*hidden|display:\s*none/i.test(at('style') ?? ''))
        tally.add('picture that is turned or hidden');
      for (const name of [
        'croptop',
        'cropbottom',
        'cropleft',
        'cropright',
        'gain',
        'blacklevel',
        'gamma',
        'grayscale',
        'bilevel',
      ])
        if (at(name) !== undefined) tally.add(`picture with “${name}”`);
    } else if (node.name === 'svgBlip') tally.add('picture with another one in its place');
    else if (within !== 'ext' && !PICTURE.has(node.name)) tally.add(`picture with “${node.name.slice(0, 40)}”`);
    if (node.name === 'xfrm' && !(isOff(at('rot')) && isOff(at('flipH')) && isOff(at('flipV'))))
      tally.add('picture that is turned or mirrored');
    if ((node.name === 'docPr' || node.name === 'cNvPr') && !isOff(at('hidden'))) tally.add('hidden picture');
    if (node.name === 'blip' && at('link') !== undefined && at('embed') === undefined) tally.add('picture from elsewhere');
    if (node.name === 'prstGeom' && at('prst') !== 'rect') tally.add('picture cut to a shape');
    if (node.name === 'fillRect' && Object.values(node.attributes).some((value) => value !== '0')) tally.add('stretched picture');
    if (node.name === 'anchor' && !isOff(at('behindDoc'))) tally.add('picture behind the words');
    if ((node.name === 'extent' || (node.name === 'ext' && at('cx') !== undefined)) && shown) {
      const [wide, high] = [Number(at('cx')), Number(at('cy'))];
      const off = (wide * shown.height) / (high * shown.width);
      if (!(Math.abs(off - 1) <= STRETCHED)) tally.add('stretched picture');
    }
    // What an extension of a program says stands in elements of its own.
    const inExtension = node.name === 'ext' && own(node, 'uri') !== undefined ? 'ext' : within;
    if (depth < 60) for (const child of childrenOf(node)) stack.push({ node: child, depth: depth + 1, within: inExtension });
  }
}

/** Properties of a style that hide words or make others of them, where they are on (17.3.2). */
const HIDING = names('vanish webHidden caps smallCaps strike dstrike outline emboss imprint effect em rtl position w');
const PLAIN_VALUE = /^(0|false|off|none|100)$/;

/** Whether a colour is that of what lies behind words, by its place in the colours of the document (17.18.97). */
export const isOfGround = (colour: XmlNode): boolean => /^(background|light)[12]$/.test(own(colour, 'themeColor') ?? '');

/** Tells how a style hides what is set in it, or makes something else of it. */
export function reportStyle(run: XmlNode | undefined, tally: Tally): void {
  for (const { name, attributes } of childrenOf(run))
    if (HIDING.has(name) && !PLAIN_VALUE.test(Object.values(attributes)[0] ?? 'true')) tally.add(`look of words: ${name}`);
  const colour = childOf(run, 'color');
  if (colour && isOfGround(colour)) tally.add('look of words: color');
  if (/^f[a-f0-9]f[a-f0-9]f[a-f0-9]$/i.test(saidOf(run, 'color') ?? '')) tally.add('look of words: color');
  // Half points.
  if (Number(saidOf(run, 'sz') ?? 22) < 8) tally.add('look of words: sz');
}
