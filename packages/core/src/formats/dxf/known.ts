import type { DxfFile, DxfRecord } from './records';

/**
 * What is known of the groups of a DXF file (DXF reference). A group that is in no list here is not understood where it stands,
 * and so is one that says something else than nothing where a drawing on a board has no place for it.
 */

/** Groups of every entity that are read, or that nobody sees: handles, layouts, plot styles, previews, notes of other programs. */
const ANYWHERE = [
  5, 6, 8, 48, 60, 62, 67, 92, 100, 102, 105, 160, 210, 220, 230, 284, 310, 330, 347, 348, 360, 370, 390, 410, 420, 430, 440, 999,
];
const isNote = (code: number): boolean => code >= 1000 && code <= 1071;

const TEXT = [1, 7, 10, 11, 20, 21, 30, 31, 39, 40, 41, 50, 51, 71, 72, 73];
/** Groups by entity, besides those anywhere. */
const GROUPS: Readonly<Record<string, readonly number[]>> = {
  LINE: [10, 11, 20, 21, 30, 31, 39],
  CIRCLE: [10, 20, 30, 39, 40],
  ARC: [10, 20, 30, 39, 40, 50, 51],
  ELLIPSE: [10, 11, 20, 21, 30, 31, 40, 41, 42],
  LWPOLYLINE: [10, 20, 38, 39, 40, 41, 42, 43, 70, 90, 91],
  POLYLINE: [10, 20, 30, 39, 40, 41, 66, 70, 71, 72, 73, 74, 75],
  VERTEX: [10, 20, 30, 40, 41, 42, 50, 70, 71, 72, 73, 74, 91],
  // Tangents at the ends (12, 13) and tolerances (42 to 44) are what a spline was made by.
  SPLINE: [10, 11, 12, 13, 20, 21, 22, 23, 30, 31, 32, 33, 40, 41, 42, 43, 44, 70, 71, 72, 73, 74],
  TEXT,
  ATTRIB: [...TEXT, 2, 70, 74, 280],
  MTEXT: [1, 3, 7, 10, 11, 20, 21, 30, 31, 40, 41, 42, 43, 44, 50, 71, 72, 73, 90],
  INSERT: [2, 10, 20, 30, 41, 42, 43, 44, 45, 50, 66, 70, 71],
};

const TABLES = new Map(
  Object.entries(GROUPS).map(([type, own]) => {
    const table = new Uint8Array(1072);
    for (const code of [...ANYWHERE, ...own]) table[code] = 1;
    return [type, table];
  }),
);

/** Groups of an entity that are in no list, each in words. */
export function unknownGroups(record: DxfRecord): readonly string[] {
  const table = TABLES.get(record.type);
  // Hatches and pictures are read by readers of their own.
  if (!table || !record.hasOther(table)) return [];
  const found: string[] = [];
  record.each((code) => {
    if (!table[code] && !isNote(code)) found.push(`group ${code} of ${record.type}`);
  });
  return found;
}

/** Variables of the header that change what one sees, by the values that change nothing. */
const VARIABLES: Readonly<Record<string, readonly [plain: RegExp, words: string]>> = {
  FILLMODE: [/^1$/, 'fills shown as outlines'],
  QTEXTMODE: [/^0$/, 'texts shown as boxes'],
  ATTMODE: [/^[12]$/, 'words of inserts not shown as they are'],
};
/** All other variables of the reference: of views, angles as they are typed in, dimensions that are begun, plotting, editing, times and names. */
const OTHERS = new Set(
  `3DDWFPREC ACADMAINTVER ACADVER ANGBASE ANGDIR ATTDIA ATTREQ AUNITS AUPREC AXISMODE AXISUNIT BLIPMODE CAMERADISPLAY CAMERAHEIGHT CECOLOR CELTSCALE CELTYPE CELWEIGHT
  CEPSNTYPE CHAMFERA CHAMFERB CHAMFERC CHAMFERD CLAYER CMATERIAL CMLJUST CMLSCALE CMLSTYLE COORDS CSHADOW CUSTOMPROPERTY
  CUSTOMPROPERTYTAG DGNFRAME DISPSILH DRAGMODE DWFFRAME DWGCODEPAGE ELEVATION ENDCAPS EXTMAX EXTMIN EXTNAMES FASTZOOM FILLETRAD FLATLAND FINGERPRINTGUID
  GRIDMODE GRIDUNIT HALOGAP HANDLING HANDSEED HIDETEXT HIGHLIGHT HYPERLINKBASE INDEXCTL INSBASE INSUNITS INTERFERECOLOR INTERFEREOBJVS
  INTERFEREVPVS INTERSECTIONCOLOR INTERSECTIONDISPLAY JOINSTYLE LASTSAVEDBY LATITUDE LENSLENGTH LIGHTGLYPHDISPLAY LIMCHECK LIMMAX
  LIMMIN LOFTANG1 LOFTANG2 LOFTMAG1 LOFTMAG2 LOFTNORMALS LOFTPARAM LONGITUDE LTSCALE LUNITS LUPREC LWDISPLAY MAXACTVP MEASUREMENT
  MENU MIRRTEXT NORTHDIRECTION OBSCOLOR OBSLTYPE OLESTARTUP ORTHOMODE OSMODE PDMODE PDSIZE PELEVATION PEXTMAX PEXTMIN PINSBASE
  PLIMCHECK PLIMMAX PLIMMIN PLINEGEN PLINEWID POPUPS PROJECTNAME PROXYGRAPHICS PSLTSCALE PSOLHEIGHT PSOLWIDTH PSTYLEMODE PSVPSCALE
  PUCSBASE PUCSNAME REALWORLDSCALE REGENMODE REQUIREDVERSIONS SHADEDGE SHADEDIF SHADOWPLANELOCATION SHOWHIST SKETCHINC SKPOLY
  SNAPANG SNAPBASE SNAPISOPAIR SNAPMODE SNAPSTYLE SNAPUNIT SOLIDHIST SORTENTS SPLFRAME SPLINESEGS SPLINETYPE STEPSIZE STEPSPERSEC
  STYLESHEET TEXTEVAL TEXTSIZE TEXTSTYLE THICKNESS TILEMODE TILEMODELIGHTSYNCH TIMEZONE TRACEWID TREEDEPTH UNITMODE VERSIONGUID VIEWCTR
  VIEWDIR VIEWSIZE VISRETAIN WORLDVIEW XCLIPFRAME XEDIT USRTIMER`.split(/\s+/),
);
const isOther = (name: string): boolean => OTHERS.has(name) || /^(DIM|TD|P?UCS|USER[IR]|SURF|VP)[A-Z0-9]+$/.test(name);

/** Variables of the header that are not understood, or say something that a drawing on a board has no place for. */
export function unknownVariables(file: DxfFile): readonly string[] {
  const found: string[] = [];
  let name = '';
  file.sections
    .get('HEADER')
    ?.at(0)
    ?.each((code, _number, text) => {
      if (code !== 9) {
        const known = VARIABLES[name];
        if (known && !known[0].test(text().trim())) found.push(known[1]);
        return;
      }
      name = text().trim().replace(/^\$/, '');
      if (!(name in VARIABLES) && !isOther(name)) found.push(`header variable ${name.slice(0, 40)}`);
    });
  return found;
}

/** What of a text style changes how its letters look and has no place in a master (DXF reference, STYLE). */
export function unknownInStyle(record: DxfRecord): readonly string[] {
  const off = (code: number, plain: number): boolean => Math.abs(record.number(code, plain) - plain) > 1e-6;
  return [
    ...(off(41, 1) ? ['narrow or wide text style'] : []),
    ...(off(50, 0) ? ['slanted text style'] : []),
    ...(record.number(71, 0) & 6 ? ['mirrored text style'] : []),
    ...(record.number(70, 0) & 4 ? ['vertical text style'] : []),
    ...(record.number(70, 0) & 1 ? ['shapes as letters'] : []),
  ];
}

/** What of a layer changes how it looks and has no place in a master. */
export function unknownInLayer(record: DxfRecord): readonly string[] {
  const found: string[] = [];
  if (record.number(290, 1) === 0) found.push('layer that is not plotted');
  let see = false;
  record.each((code, number, text) => {
    if (code === 1001) see = /transparency$/i.test(text().trim());
    else if (see && code === 1071 && (number() & 0xff) !== 0xff) found.push('see-through layer');
  });
  return found;
}

/** What of a block makes it more than what stands in it: its contents are those of another file (DXF reference, BLOCK). */
export const unknownInBlock = (record: DxfRecord): readonly string[] =>
  record.number(70, 0) & (4 | 8 | 16) || /\S/.test(record.text(1) ?? '') ? ['reference to another file'] : [];

/** Objects that change what lies over what; all others are of layouts, plotting, groups, notes and materials. */
export const unknownObjects = (file: DxfFile): readonly string[] => {
  const objects = file.sections.get('OBJECTS');
  return objects && [...objects].some((record) => record.type === 'SORTENTSTABLE' && record.has(331)) ? ['order by a table'] : [];
};
