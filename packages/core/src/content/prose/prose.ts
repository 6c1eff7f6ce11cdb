import type { DrawnPicture } from '../../contracts/drawn-picture';
import type { Alignment, Emphasis, Role } from '../../document/texts/schema';

/** Words that look alike, or a note to the words before it. */
export interface ProseSpan {
  /** Empty where it is a note. */
  readonly text: string;
  /** In the order of `EMPHASES`. */
  readonly marks: readonly Emphasis[];
  /** Where the words lead; empty where nowhere. */
  readonly link: string;
  /** Its words, where it is a note. */
  readonly note: readonly ProseSpan[] | null;
}

interface ProseBase {
  /** The master's block; empty in what was read. */
  readonly source: string;
}
export interface ProseWords extends ProseBase {
  readonly block: 'words';
  readonly role: Role;
  readonly level: number;
  /** An item that begins a list of its own, with this number; null where it goes on. */
  readonly start: number | null;
  readonly align: Alignment;
  readonly spans: readonly ProseSpan[];
}
export interface ProseTable extends ProseBase {
  readonly block: 'table';
  readonly head: boolean;
  readonly caption: readonly ProseSpan[];
  readonly grid: readonly (readonly (readonly ProseSpan[])[])[];
}
export interface ProsePicture extends ProseBase {
  readonly block: 'picture';
  /** Names it in `pictures`; empty where the picture could not be had. */
  readonly picture: string;
  readonly alt: string;
  /** mm; 0 where nothing is said */
  readonly width: number;
  readonly caption: readonly ProseSpan[];
}
export interface ProseBreak extends ProseBase {
  readonly block: 'break';
  readonly of: 'page' | 'line';
}
export type ProseBlock = ProseWords | ProseTable | ProsePicture | ProseBreak;

/** What a copy of a text says. */
export interface ProseBody {
  /** Empty where nothing is said. */
  readonly language: string;
  readonly blocks: readonly ProseBlock[];
  /** The pictures that are shown, by word. */
  readonly pictures: Readonly<Record<string, DrawnPicture>>;
}

/** A paragraph as most are. */
export const plainWords = (spans: readonly ProseSpan[], role: Role = 'body'): ProseWords => ({
  block: 'words',
  role,
  level: 0,
  start: null,
  align: 'left',
  spans,
  source: '',
});
export const plainSpan = (text: string): ProseSpan => ({ text, marks: [], link: '', note: null });
