// What the first view of the browser needs of the contracts: no schema is loaded for it.
export * from './constants';
export { ROUTES } from './routes';
