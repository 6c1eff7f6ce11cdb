/**
 * Attribute of the root that holds the mark of origin once more: programs that tidy drawings up throw metadata away, and keep
 * what documents may say in attributes of their own (SVG 2, 5.8).
 */
export const MARK = 'data-inkwell-twin';
