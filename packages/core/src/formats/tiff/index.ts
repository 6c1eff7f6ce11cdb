export { tiffDeclaration as declaration } from './declare';
