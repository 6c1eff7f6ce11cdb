/** Who asks: an id that the browser keeps (and a name, percent-encoded). Needed wherever a draft is touched. */
export const PERSON_HEADER = 'x-inkwell-person';
export const NAME_HEADER = 'x-inkwell-name';
/** The window that asks, so that it is not told of what it did itself. */
export const TAB_HEADER = 'x-inkwell-tab';

/** Masters on one page of the Desk. */
export const DESK_PAGE = 24;
/** Largest file that can be brought in, bytes. */
export const BRING_IN_LIMIT = 64 * 1024 * 1024;

/** How the Desk can be ordered, the usual way first. */
export const DESK_ORDERS = ['begun', 'name', 'changed', 'trouble'] as const;
export type DeskOrder = (typeof DESK_ORDERS)[number];
/** What its rows can be laid together by. */
export const DESK_GROUPS = ['none', 'folder', 'keyword', 'owner'] as const;
export type DeskGroup = (typeof DESK_GROUPS)[number];
