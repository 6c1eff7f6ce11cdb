// What core, API and command line say in the same words: one schema each.
export { digest } from './base/bytes/hasher';
export { CarryLine, CarryReport, OUTCOMES } from './contracts/report';
export { Choice, PART_LISTS, PARTS, Scope, VariantRow } from './contracts/schemas';
export { DIFFERENCE_KINDS, Difference } from './contracts/difference';
export { Solid } from './document/solids/schema';
export { HouseRules, Preset } from './evaluate/rules/house';
export { LINK_STATES, Resource } from './document/resource-schema';
export { Patch, Step } from './document/patch-schema';
export { VERDICTS } from './copies/verdict';
export { USES } from './contracts/uses';
export { Finding, JobSize } from './contracts/finding';
export { SeenCheck } from './contracts/seen-check';
export { MachineProfile } from './base/machines';
