export * from './adapt';
export * from './ladder';
export * from './report';
