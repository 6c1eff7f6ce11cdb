import type { KindDeclaration } from '../contracts/kind';
import { gathered } from './gathered/declarations';

const known = new Map<string, KindDeclaration>(Object.values(gathered).map((one) => [one.id, one]));

/** What a kind of content declares; undefined for one that nobody knows. */
export const kindDeclaration = (id: string): KindDeclaration | undefined => known.get(id);

/** What every kind of content declares. */
export const kindDeclarations = (): readonly KindDeclaration[] => [...known.values()];

/** Makes one known. @see addKind */
export const declareKind = (declaration: KindDeclaration): void => void known.set(declaration.id, declaration);
