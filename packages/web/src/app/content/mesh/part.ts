import type { PartFace } from '../face';

export const part = {
  list: 'solids',
  load: async () => (await import('./solid-face')).SolidFace,
} satisfies PartFace;
