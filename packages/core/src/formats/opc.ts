import { plainXml } from '../base/bytes/xml-text';

export const XML = '<?xml version="1.0" encoding="UTF-8" standalone="yes"?>\n';
export const DOCUMENT = 'http://schemas.openxmlformats.org/officeDocument/2006';
const PACKAGE = 'http://schemas.openxmlformats.org/package/2006';
/** The part of a package that holds properties that users add, and with them the mark of origin. */
export const CUSTOM_PART = 'docProps/custom.xml';

/** The kinds of parts of a package (ECMA-376-2, 10.1.2). */
export const contentTypes = (defaults: Readonly<Record<string, string>>, parts: Readonly<Record<string, string>>): string =>
  `${XML}<Types xmlns="${PACKAGE}/content-types">${Object.entries({
    rels: 'application/vnd.openxmlformats-package.relationships+xml',
    xml: 'application/xml',
    ...defaults,
  })
    .map(([ending, type]) => `<Default Extension="${ending}" ContentType="${type}"/>`)
    .join('')}${Object.entries(parts)
    .map(([name, type]) => `<Override PartName="/${name}" ContentType="${type}"/>`)
    .join('')}</Types>`;

export interface Relation {
  readonly id: string;
  readonly type: string;
  readonly target: string;
  readonly external?: boolean;
}
/** What a part refers to (ECMA-376-2, 9.3). */
export const relationsXml = (relations: readonly Relation[]): string =>
  `${XML}<Relationships xmlns="${PACKAGE}/relationships">${relations
    .map(
      ({ id, type, target, external }) =>
        `<Relationship Id="${id}" Type="${type.includes(':') ? type : `${DOCUMENT}/relationships/${type}`}" Target="${plainXml(target)}"${external ? ' TargetMode="External"' : ''}/>`,
    )
    .join('')}</Relationships>`;

/** The descriptive properties of a package (ECMA-376-2, 11). */
export const coreProperties = (title: string, written: string, language = ''): string =>
  `${XML}<cp:coreProperties xmlns:cp="${PACKAGE}/metadata/core-properties" xmlns:dc="http://purl.org/dc/elements/1.1/" xmlns:dcterms="http://purl.org/dc/terms/" xmlns:xsi="http://www.w3.org/2001/XMLSchema-instance"><dc:title>${plainXml(title)}</dc:title>${language ? `<dc:language>${plainXml(language)}</dc:language>` : ''}<dcterms:created xsi:type="dcterms:W3CDTF">${plainXml(written.replace(/\.\d+Z$/, 'Z'))}</dcterms:created></cp:coreProperties>`;

/** The mark of origin as a property (ECMA-376-1, 22.3). */
export const customProperties = (mark: string): string =>
  `${XML}<Properties xmlns="${DOCUMENT}/custom-properties" xmlns:vt="${DOCUMENT}/docPropsVTypes"><property fmtid="{D5CDD505-2E9C-101B-9397-08002B2CF9AE}" pid="2" name="Origin"><vt:lpwstr>${plainXml(mark)}</vt:lpwstr></property></Properties>`;
