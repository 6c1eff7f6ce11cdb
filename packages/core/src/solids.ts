// Solids with all that can be done to them: loaded by those who look at one.
export * from './solids/commands';
export * from './solids/words';
export { objectsOf } from './content/mesh/footprint';
export { type Box3, boxOfMesh, middleOf, sizesOf } from './content/mesh/measure';
export type { Mesh } from './content/mesh/mesh';
