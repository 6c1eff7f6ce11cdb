// Tables with all that is computed of them: loaded by those who look at one.
export * from './evaluate/tables/index';
export { type Grid, type GridColumn, cellWords, placeOf } from './content/grid/grid';
export { inHeading } from './evaluate/tables/heading';
