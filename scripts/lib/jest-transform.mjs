// What Jest reads is turned into CommonJS by SWC; the language's own globals are handed to each module as parameters.
// Why: Jest runs modules in a context of its own, where every mention of `Math` or `Map` is a call out of the engine;
// arithmetic ran ten times slower in tests than in the product.
import swc from '@swc/jest';

const GLOBALS = [
  'Array',
  'ArrayBuffer',
  'BigInt',
  'DataView',
  'Date',
  'Error',
  'Float32Array',
  'Float64Array',
  'Infinity',
  'Int32Array',
  'JSON',
  'Map',
  'Math',
  'NaN',
  'Number',
  'Object',
  'RegExp',
  'Set',
  'String',
  'Symbol',
  'TextDecoder',
  'TextEncoder',
  'Uint16Array',
  'Uint32Array',
  'Uint8Array',
  'Uint8ClampedArray',
  'WeakMap',
];
const names = GLOBALS.join();
const STRICT = '"use strict";';

/** Puts a module's code into a function of the globals; a block, so that what it declares by such a name is its own. */
function closed(code) {
  if (!code.startsWith(STRICT)) return code;
  return `${STRICT}((${names})=>{{${code.slice(STRICT.length)}\n}})(${names});`;
}

export default {
  createTransformer(options) {
    const inner = swc.createTransformer(options);
    return {
      ...inner,
      process(...asked) {
        const result = inner.process(...asked);
        return { ...result, code: closed(result.code) };
      },
      processAsync: undefined,
      getCacheKey: (...asked) => `${inner.getCacheKey(...asked)}-${GLOBALS.length}-1`,
    };
  },
};
