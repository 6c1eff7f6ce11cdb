import * as dxf from './dxf/carries';
import * as hpgl from './hpgl/carries';
import * as svg from './svg/carries';
import type { Carries, OptionValues } from './target';

const ALL: Readonly<Record<string, { readonly carries: (options: OptionValues) => Carries } | undefined>> = {
  svg,
  dxf,
  hpgl,
};

/** What a target holds, without its reader and writer: for asking about footprints where those are not loaded. */
export const carriesOf = (target: string, options: OptionValues): Carries | undefined => ALL[target]?.carries(options);
