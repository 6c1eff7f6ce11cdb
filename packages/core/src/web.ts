// What the browser needs: the document, its commands and its footprints. Readers, writers and fonts stay on the server.
export * from './content/drawing/paths';
export type { Drawing } from './content/drawing/drawing';
export * from './content/drawing/display-list';
export { type Span, type SpanLook, spansInOrder } from './content/drawing/spans';
export { endsOfLinear, meanColour } from './content/drawing/gradient';
export { unpackObject } from './content/packing';
export { type ToolPath, strokePoints } from './content/tool-path/tool-path';
export { footprintOf } from './copies/footprint';
export type * from './copies/report';
export { boardsIn, findBoard, type Scope } from './copies/scope';
export type { Verdict } from './copies/verdict';
export * from './failure/failure';
export { FACES, faceOf } from './fonts/faces';
export * from './geometry';
export * from './master';
export type * from './matching/difference';
export { differenceInWords, formatAmount } from './matching/difference';
