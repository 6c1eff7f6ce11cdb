export * from './meet';
export * from './said';
export * from './sidecar';
export * from './subject';
