// What core, API and command line say in the same words: one schema each.
export { digest } from './bytes/hasher';
export { CarryLine, CarryReport, OUTCOMES } from './copies/report';
export { Choice, PART_LISTS, PARTS, Scope } from './copies/schemas';
export { DIFFERENCE_KINDS, Difference } from './matching/difference';
export { Solid } from './master/solids/schema';
export { HouseRules } from './rules/house';
export { LINK_STATES, Resource } from './master/resource-schema';
export { Patch, Step } from './master/patch-schema';
export { VERDICTS } from './copies/verdict';
export { USES } from './targets/uses';
