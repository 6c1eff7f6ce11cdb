/** Paper that texts are laid out on, mm. */
export const PAPER = { A4: [210, 297], A5: [148, 210], Letter: [215.9, 279.4] } as const;

/** Paper that printers take several pages onto, mm; SRA3 is what is cut down to A3 (ISO 217). */
export const SHEET_PAPER = {
  A4: [210, 297],
  A3: [297, 420],
  SRA3: [320, 450],
  A2: [420, 594],
  Letter: [215.9, 279.4],
} as const;
