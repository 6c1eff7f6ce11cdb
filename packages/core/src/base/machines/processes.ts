/** What a machine does with an outline. */
export const MACHINE_PROCESSES = ['cut', 'score', 'engrave', 'route', 'pocket', 'drill', 'stitch'] as const;
export type MachineProcess = (typeof MACHINE_PROCESSES)[number];

/** How something is sewn: along its lines, by columns of satin along them, or its area by rows. */
export const STITCHES = ['run', 'satin', 'fill'] as const;
/** What is sewn under a column or an area first. */
export const UNDERLAYS = ['none', 'edge', 'edge and zigzag'] as const;

/** On which side of an outline the tool goes: outside of what is outermost, inside of its holes, where nobody says. */
export const SIDES = ['by nesting', 'outside', 'inside', 'on the line'] as const;
export type Side = (typeof SIDES)[number];
