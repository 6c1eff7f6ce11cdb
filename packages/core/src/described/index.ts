export * from './meet';
export * from './sidecar';
