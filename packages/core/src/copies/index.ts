export * from './by-master';
export * from './check';
export * from './derive';
export { saysOf } from '../document/says';
export * from './fit';
export * from './fit-size';
export * from './footprint';
export * from './foresee';
export * from './ladder';
export * from './lock';
export * from './password';
export { likenessOf } from './likeness';
export { resemblance } from '../base/bytes/sketch';
export * from '../contracts/mark';
export * from './recipe';
export type { RevisionOf } from './revision';
export * from '../contracts/report';
export * from './compare-contents';
export * from './targets-page';
export { Choice, PARTS, PART_LISTS, type PartList, Scope, VariantRow } from '../contracts/schemas';
export {
  type Part,
  type ScopedParts,
  boardOf,
  boardScope,
  boardsIn,
  countIn,
  findBoard,
  fixedScope,
  missingIn,
  partScope,
  partsOf,
  scopeInWords,
  tablesIn,
} from '../contracts/scope';
export * from './unread';
export * from './variants';
export * from './verdict';
export { pictureRegions } from './placed-pictures';
