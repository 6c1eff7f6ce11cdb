import type { Alignment, Emphasis, Role } from '../../document/texts/schema';
import type { Colours } from '../html/shown';

/** How words stand at a place of a page. */
export interface Flow {
  readonly role: Role;
  readonly level: number;
  readonly align: Alignment;
  readonly marks: readonly Emphasis[];
  readonly link: string;
  /** Whether blanks and ends of lines are as they stand. */
  readonly kept: boolean;
  readonly colours: Colours;
}
/** How they stand where nothing was said yet. */
export const startOf = (colours: Colours): Flow => ({
  role: 'body',
  level: -1,
  align: 'left',
  marks: [],
  link: '',
  kept: false,
  colours,
});
