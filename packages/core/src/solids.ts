// Solids with all that can be done to them: loaded by those who look at one.
export * from './solids/commands';
export * from './solids/words';
export { objectsOf } from './solids/footprint';
export { boxOfMesh, middleOf, sizesOf } from './content/mesh/measure';
export type { Box3 } from './content/mesh/mesh-type';
export type { Mesh } from './content/mesh/mesh-type';
