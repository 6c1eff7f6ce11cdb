export * from './footprint';
