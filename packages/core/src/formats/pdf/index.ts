export { pdfDeclaration as declaration } from './declare';
