import bidiModule from 'bidi-js';

interface BidiAlgorithm {
  getEmbeddingLevels(text: string, direction: 'ltr' | 'rtl' | 'auto'): { levels: Uint8Array };
}

// The package's types describe its object and not the function that it exports.
export const bidi = (bidiModule as unknown as () => BidiAlgorithm)();
