export { stepDeclaration as declaration } from './declare';
