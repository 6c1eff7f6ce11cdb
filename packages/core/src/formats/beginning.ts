import { wideAt } from '../base/bytes/text';

/** How a file begins, to tell what it is: UTF-16 where it begins so, else UTF-8, whatever is not. */
export const beginningText = (head: Uint8Array): string => new TextDecoder(wideAt(head)).decode(head);
