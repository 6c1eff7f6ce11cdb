export * from './change-words';
export * from './changes';
export * from './commands';
export * from './count';
export * from './describe';
export * from './links';
export * from './crop';
export * from './effects';
export * from './hash';
export * from './ids';
export * from './journal';
export * from './items';
export * from './limits';
export { countWithin } from './lists';
export * from './new-master';
export * from './purposes';
export * from './paint';
export * from './parameters';
export * from './patches';
export * from './rebase';
export * from './schema';
export * from './sound';
export * from './work';
export {
  AXES,
  type Axis,
  EdgeRule,
  FEATURE_OPS,
  Feature,
  type FeatureOp,
  JOINING,
  type Joining,
  MOST_FEATURES,
  MOST_SOLIDS,
  PLANES,
  type PlaneName,
  Solid,
  SolidOutline,
} from './solids/schema';
export * from './tables/schema';
export * from './tree';
