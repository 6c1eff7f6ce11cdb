export * from './adapt';
export * from './report';
