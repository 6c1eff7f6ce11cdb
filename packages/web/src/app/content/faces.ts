import { gathered } from './gathered/faces';
import type { ContentFace } from './face';

const known = new Map(Object.values(gathered).map((one) => [one.kind, one]));

/** How a kind of content is looked at; undefined for one that this window can't show. */
export const faceOf = (kind: string): ContentFace | undefined => known.get(kind);
