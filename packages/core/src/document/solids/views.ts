/** Where a solid is drawn from. */
export const VIEWS = ['front', 'back', 'left', 'right', 'top', 'bottom', 'isometric'] as const;
export type ViewName = (typeof VIEWS)[number];
