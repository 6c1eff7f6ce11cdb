import type { PartFace } from '../face';

export const part = {
  list: 'tables',
  load: async () => (await import('./table-face')).TableFace,
} satisfies PartFace;
