// Solids with all that can be done to them: loaded by those who look at one.
export * from './evaluate/solids/commands';
export * from './evaluate/solids/words';
export { objectsOf } from './evaluate/solids/footprint';
export { boxOfMesh, middleOf, sizesOf } from './content/mesh/measure';
export { Stock } from './evaluate/machines/stock';
export type { Box3 } from './contracts/mesh';
export type { Mesh } from './contracts/mesh';
