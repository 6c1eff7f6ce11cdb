import type { WiredBody } from '@inkwell-twin/api';
import type { Grid } from '@inkwell-twin/core/tables';
import type { Mesh } from '@inkwell-twin/core/solids';
import type { ProseBody } from '@inkwell-twin/core/texts';
import { unpackObject } from '@inkwell-twin/core/web';
import { showDrawing } from './drawing/show';
import { showRaster } from './raster/show';
import type { Shown } from './shown';
import { showToolPath } from './tool-path/show';

/** How each kind of content is looked at. */
const KINDS: Readonly<Record<string, (body: never) => Shown>> = {
  drawing: showDrawing,
  raster: showRaster,
  toolPath: showToolPath,
};

/** Kinds that are looked at as tables. */
const TABLES = new Set(['grid']);

/** A table that came over the wire; null where it is something else. */
export const tableOf = (body: WiredBody): Grid | null =>
  TABLES.has(body.kind) ? unpackObject<Grid>({ head: body.head, buffers: body.buffers }) : null;

/** Kinds that are looked at in space. */
const SOLIDS = new Set(['mesh']);

/** A solid that came over the wire; null where it is something else. */
export const solidOf = (body: WiredBody): Mesh | null =>
  SOLIDS.has(body.kind) ? unpackObject<Mesh>({ head: body.head, buffers: body.buffers }) : null;

/** Kinds that are read as texts. */
const TEXTS = new Set(['prose']);

/** A text that came over the wire; null where it is something else. */
export const proseOf = (body: WiredBody): ProseBody | null =>
  TEXTS.has(body.kind) ? unpackObject<ProseBody>({ head: body.head, buffers: body.buffers }) : null;

/** What came over the wire, ready to be looked at; null for a kind that this window can't show. */
export function shownOf(body: WiredBody): Shown | null {
  const show = KINDS[body.kind];
  return show ? show(unpackObject({ head: body.head, buffers: body.buffers }) as never) : null;
}
