import type { Scope } from '../../contracts/scope';
import type { Master } from '../../document/schema';
import type { LeafPrint } from '../../contracts/kind';
import type { ProseCarries } from '../prose/features';
import { footprintOfTexts } from '../prose/footprint';
import type { PageCarries } from './features';

/** What pages show of a text. */
const shown = (names: 'kept' | 'left out'): ProseCarries => ({
  words: 'kept',
  'line ends': 'kept',
  headings: 'kept',
  lists: 'kept',
  quotations: 'kept',
  emphasis: 'kept',
  links: 'left out',
  notes: 'kept',
  tables: 'kept',
  pictures: 'kept',
  descriptions: 'left out',
  sizes: 'kept',
  alignment: 'kept',
  breaks: 'kept',
  language: 'left out',
  names,
});
const [NAMED, UNNAMED] = [shown('kept'), shown('left out')];

/** What copies of laid-out texts depend on, text by text. */
export const footprintOfPages = (master: Master, scope: Scope, carries: PageCarries): LeafPrint[] =>
  footprintOfTexts(master, scope, carries['board names'] === 'left out' ? UNNAMED : NAMED);
