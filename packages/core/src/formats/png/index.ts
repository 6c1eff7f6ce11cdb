export { pngDeclaration as declaration } from './declare';
