export const PROFILES = ['sRGB', 'Display P3'] as const;
export type ProfileName = (typeof PROFILES)[number];

/** How pixels become a file. */
export interface Encoding {
  // eslint-disable-next-line no-restricted-syntax -- what the engines of a platform write
  readonly format: 'png' | 'jpeg' | 'tiff' | 'webp';
  readonly depth: 8 | 16;
  readonly alpha: boolean;
  readonly profile: ProfileName;
  /** 1 to 100 where the format loses something; null where nothing is lost. */
  readonly quality: number | null;
  /** How finely colour is kept beside light. */
  readonly chroma?: '4:4:4' | '4:2:0';
  readonly progressive?: boolean;
  readonly compression?: string;
  readonly ppi: number;
}

/** A photograph packed with loss: what nearly everything shows. */
// eslint-disable-next-line no-restricted-syntax -- what the engines of a platform write
export const PHOTOGRAPH = { format: 'jpeg', depth: 8, alpha: false, profile: 'sRGB', chroma: '4:4:4' } as const;

/** Whether what is read back may differ from what was written. */
export const losesSomething = ({ quality, profile }: Encoding): boolean => quality !== null || profile !== 'sRGB';
