/** The part that makes a native file a copy in an older version. */
export { ORIGIN } from '../targets/native/declare';
