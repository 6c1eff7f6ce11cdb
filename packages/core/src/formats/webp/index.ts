export { webpDeclaration as declaration } from './declare';
