import type { Type } from '@angular/core';
import type { Field } from '@inkwell-twin/core/web';
import type { FieldFace } from './field-face';
import { AnchorFace } from './fields/anchor';
import { ChoiceFace } from './fields/choice';
import { ColumnFace } from './fields/column';
import { LengthsFace } from './fields/lengths';
import { NumberFace } from './fields/number';
import { PaintFace } from './fields/paint';
import { PartFace } from './fields/part';
import { ShareFace } from './fields/share';
import { SymbolFace } from './fields/symbol';
import { WordingFace } from './fields/wording';
import { WordsFace } from './fields/words';
import { YesFace } from './fields/yes';

/** How each kind of field is shown and set. */
export const FIELD_FACES: Readonly<Record<Field['kind'], Type<FieldFace>>> = {
  anchor: AnchorFace,
  choice: ChoiceFace,
  column: ColumnFace,
  lengths: LengthsFace,
  number: NumberFace,
  paint: PaintFace,
  part: PartFace,
  share: ShareFace,
  symbol: SymbolFace,
  wording: WordingFace,
  words: WordsFace,
  yes: YesFace,
};
