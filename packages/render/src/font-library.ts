import { createRequire } from 'node:module';

type FontLibrary = typeof import('fontkit');
let loaded: FontLibrary | undefined;

/** The library that sets texts: loaded at the first text, where nobody can wait for it. */
export const fontLibrary = (): FontLibrary => (loaded ??= createRequire(import.meta.url)('fontkit') as FontLibrary);
