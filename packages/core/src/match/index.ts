export * from './check';
export * from './compare';
export * from './difference';
export * from './unread';
export * from './verdict';
