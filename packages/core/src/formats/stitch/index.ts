export { stitchDeclaration as declaration } from './declare';
export const codec = async () => (await import('./codec')).stitchCodec;
