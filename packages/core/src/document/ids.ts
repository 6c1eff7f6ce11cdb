import { digest } from './hash';

/** A random UUID (version 4). */
export const newId = (): string => globalThis.crypto.randomUUID();

/** A UUID that always comes out the same for the same text (version 8, of its SHA-256). */
export function idFrom(text: string): string {
  const hex = digest(text);
  return `${hex.slice(0, 8)}-${hex.slice(8, 12)}-8${hex.slice(13, 16)}-a${hex.slice(17, 20)}-${hex.slice(20, 32)}`;
}
