import type { PartFace } from '../face';

export const part = {
  list: 'texts',
  load: async () => (await import('./prose-face')).ProseFace,
} satisfies PartFace;
