export { jpegDeclaration as declaration } from './declare';
