// Tests run in a context of Node.js in which every look at a global name takes about as long as a call. Every module gets names
// of its own for those that numbers are worked out with, which makes tests of solids several times faster.
import { createHash } from 'node:crypto';
import swc from '@swc/jest';

const NAMES = [
  ...['Math', 'Number', 'Infinity', 'NaN', 'Array', 'Object', 'Map', 'Set', 'WeakMap', 'String', 'JSON', 'Buffer', 'BigInt'],
  ...['Float64Array', 'Float32Array', 'Int32Array', 'Uint32Array', 'Int16Array', 'Uint16Array', 'Int8Array', 'Uint8Array'],
  ...['Uint8ClampedArray', 'ArrayBuffer', 'DataView'],
];

/** Packages that work with numbers: those alone, since what a package declares for itself is told by a pattern only. */
export const PACKAGES = [
  'pngjs',
  'flatbush',
  'flatqueue',
  'ml-matrix',
  'svgpath',
  'fflate',
  'bwip-js',
  'earcut',
  'maxrects-packer',
];

function withOwnNames({ code, ...rest }) {
  const used = NAMES.filter((name) => new RegExp(`\\b${name}\\b`, 'u').test(code) && !declares(code, name));
  // On the first line: what follows keeps its line.
  return { ...rest, code: used.length === 0 ? code : `const { ${used.join(', ')} } = globalThis; ${code}` };
}

const declares = (code, name) => new RegExp(`\\b(?:const|let|var|class|function|import)\\b[^=;()]*\\b${name}\\b`, 'u').test(code);

export default {
  createTransformer(options) {
    const inner = swc.createTransformer(options);
    return {
      ...inner,
      process: (...args) => withOwnNames(inner.process(...args)),
      processAsync: async (...args) => withOwnNames(await inner.processAsync(...args)),
      getCacheKey: (...args) =>
        createHash('sha1')
          .update(`own-names-2-${NAMES}-${inner.getCacheKey(...args)}`)
          .digest('hex'),
    };
  },
};
