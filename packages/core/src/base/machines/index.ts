export * from './named';
export * from './processes';
export * from './profile';
export * from './shipped';
