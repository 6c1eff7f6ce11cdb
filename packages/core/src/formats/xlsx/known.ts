import type { Tally } from '../../contracts/tally';
import { type Attributes, attributeOf, strangersAmong } from '../../base/bytes/walk-xml';

const names = (text: string): ReadonlySet<string> => new Set(text.trim().split(/\s+/));
const NO = /^(0|false)$/;
const YES = /^(1|true)$/;

/**
 * Attributes that are read, or that say nothing of what cells say and whether one sees it, by their element: a sheet's (ECMA-376-1,
 * 18.3.1) and a workbook's (18.2). How wide, in which look and behind which border a cell stands is decoration of tables.
 */
const ATTRIBUTES: Readonly<Record<string, ReadonlySet<string>>> = {
  row: names('r spans s customFormat ht customHeight collapsed outlineLevel thickTop thickBot ph dyDescent hidden'),
  col: names('min max width customWidth style bestFit outlineLevel collapsed phonetic hidden'),
  c: names('r s t cm ph'),
  v: names('space'),
  f: names('t ref si ca aca bx dt2D dtr del1 del2 r1 r2 space'),
  sheetView: names(
    `workbookViewId tabSelected showGridLines showRowColHeaders zoomScale zoomScaleNormal zoomScaleSheetLayoutView
     zoomScalePageLayoutView view topLeftCell colorId defaultGridColor showRuler showOutlineSymbols showWhiteSpace windowProtection
     showFormulas showZeros rightToLeft`,
  ),
  sheetFormatPr: names(
    `baseColWidth defaultColWidth defaultRowHeight customHeight zeroHeight thickTop thickBottom outlineLevelRow outlineLevelCol
     dyDescent`,
  ),
  sheetPr: names('codeName filterMode published syncHorizontal syncVertical syncRef enableFormatConditionsCalculation'),
  sheet: names('name sheetId id state'),
  workbookPr: names(
    `date1904 codeName defaultThemeVersion filterPrivacy showObjects showBorderUnselectedTables promptedSolutions backupFile
     saveExternalLinkValues hidePivotFieldList showInkAnnotation autoCompressPictures updateLinks showPivotChartFilter
     allowRefreshQuery publishItems checkCompatibility refreshAllConnections dateCompatibility`,
  ),
  workbookView: names(
    `visibility minimized showHorizontalScroll showVerticalScroll showSheetTabs xWindow yWindow windowWidth windowHeight tabRatio
     firstSheet activeTab autoFilterDateGrouping uid`,
  ),
  calcPr: names(
    `calcId calcMode fullCalcOnLoad refMode iterate iterateCount iterateDelta fullPrecision calcCompleted calcOnSave concurrentCalc
     concurrentManualCount forceFullCalc`,
  ),
};

/** Values that change what is seen or computed, by element and attribute. */
const VALUES: readonly (readonly [element: string, attribute: string, counts: (value: string) => boolean, words: string])[] = [
  ['row', 'hidden', (value) => YES.test(value), 'hidden row'],
  ['row', 'ht', (value) => Number(value) < 2, 'hidden row'],
  ['col', 'hidden', (value) => YES.test(value), 'hidden column'],
  ['col', 'width', (value) => Number(value) < 1, 'hidden column'],
  ['sheetFormatPr', 'zeroHeight', (value) => YES.test(value), 'hidden rows'],
  ['sheetFormatPr', 'defaultRowHeight', (value) => Number(value) < 2, 'hidden rows'],
  ['sheetFormatPr', 'defaultColWidth', (value) => Number(value) < 1, 'hidden columns'],
  ['workbookView', 'visibility', (value) => value !== 'visible', 'hidden window'],
  ['sheetView', 'showFormulas', (value) => YES.test(value), 'formulas shown instead of what they come to'],
  ['sheetView', 'showZeros', (value) => NO.test(value), 'zeros that are not shown'],
  ['sheetView', 'rightToLeft', (value) => YES.test(value), 'sheet from right to left'],
  ['calcPr', 'fullPrecision', (value) => NO.test(value), 'numbers computed as they are shown'],
  ['calcPr', 'iterate', (value) => YES.test(value), 'formulas that go round in circles'],
  ['calcPr', 'calcMode', (value) => value !== 'auto', 'formulas that are not computed by themselves'],
];
const BY_ELEMENT = new Map<string, (typeof VALUES)[number][]>();
for (const one of VALUES) BY_ELEMENT.set(one[0], [...(BY_ELEMENT.get(one[0]) ?? []), one]);

/** Tells what the attributes of an element say that is not read. */
export function reportAttributes(element: string, attributes: Attributes, tally: Tally): void {
  const known = ATTRIBUTES[element];
  if (!known) return;
  for (const name of strangersAmong(attributes, known)) tally.add(`“${name.slice(0, 40)}” of “${element}”`);
  const asked = BY_ELEMENT.get(element);
  // There are millions of cells, and nothing is asked of them.
  if (!asked) return;
  const told = new Set<string>();
  for (const [, attribute, counts, words] of asked) {
    const value = attributeOf(attributes, attribute);
    if (value !== undefined && counts(value)) told.add(words);
  }
  for (const words of told) tally.add(words);
}

/** Parts of a workbook that say nothing of its cells (18.2.27); a name that a formula uses stands in the formula. */
const WORKBOOK = names(
  `workbook fileVersion fileSharing workbookPr workbookProtection bookViews workbookView sheets sheet calcPr definedNames
   definedName customWorkbookViews customWorkbookView pivotCaches pivotCache extLst ext AlternateContent Choice Fallback absPath
   revisionPtr webPublishing fileRecoveryPr smartTagPr functionGroups functionGroup oleSize`,
);
const REFERENCES = 'externalReferences'; // term-guard: standard (ECMA-376-1, 18.2.9)
const IN_WORKBOOK: Readonly<Record<string, string>> = {
  externalReference: 'other workbook that formulas may use', // term-guard: standard (ECMA-376-1, 18.2.8)
};

/** Tells what a part of a workbook says that is not read. */
export function reportWorkbook(element: string, attributes: Attributes, within: readonly string[], tally: Tally): void {
  // Extensions say more of what stands there, for programs that know them (18.2.10).
  if (within.includes('extLst')) return;
  reportAttributes(element, attributes, tally);
  if (IN_WORKBOOK[element]) tally.add(IN_WORKBOOK[element]);
  else if (!WORKBOOK.has(element) && element !== REFERENCES) tally.add(`“${element.slice(0, 40)}” of a workbook`);
}
