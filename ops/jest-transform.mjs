// Tests run in a context of Node.js in which every look at a global name takes about as long as a call. Every module gets names
// of its own for those that numbers are worked out with, which makes tests of solids several times faster.
import swc from '@swc/jest';

const NAMES = [
  ...['Math', 'Number', 'Infinity', 'NaN', 'Array', 'Object', 'Map', 'Set', 'WeakMap', 'String', 'JSON', 'Buffer'],
  ...['Float64Array', 'Float32Array', 'Int32Array', 'Uint32Array', 'Uint16Array', 'Uint8Array', 'Uint8ClampedArray'],
];

function withOwnNames({ code, ...rest }) {
  const used = NAMES.filter((name) => new RegExp(`\\b${name}\\b`, 'u').test(code) && !declares(code, name));
  // On the first line: what follows keeps its line.
  return { ...rest, code: used.length === 0 ? code : `const { ${used.join(', ')} } = globalThis; ${code}` };
}

const declares = (code, name) => new RegExp(`\\b(?:const|let|class|function|import)\\b[^=;()]*\\b${name}\\b`, 'u').test(code);

export default {
  createTransformer(options) {
    const inner = swc.createTransformer(options);
    return {
      ...inner,
      process: (...args) => withOwnNames(inner.process(...args)),
      processAsync: async (...args) => withOwnNames(await inner.processAsync(...args)),
      getCacheKey: (...args) => `own-names-1-${inner.getCacheKey(...args)}`,
    };
  },
};
