import { type Format, declarationOf } from '@inkwell-twin/core';
import { gathered } from './gathered/codecs';

/** Targets that need a library of this platform. */
export const nodeFormats: readonly Format[] = Object.entries(gathered).map(([id, codec]) => ({
  declaration: declarationOf(id),
  codec,
}));
