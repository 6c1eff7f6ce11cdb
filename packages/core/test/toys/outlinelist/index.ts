export { declaration } from './declare';
export const codec = async () => (await import('./codec')).codec;
