/** Paper that texts are laid out on, mm. */
export const PAPER = { A4: [210, 297], A5: [148, 210], Letter: [215.9, 279.4] } as const;
