/** A way to write words so that a reader takes them up. */
export interface Symbology {
  readonly id: SymbologyId;
  readonly name: string;
  /** Bars of one height, not modules in rows and columns. */
  readonly isLinear: boolean;
  /** Modules of the ground that have to be left free before it, after it, and above and below. */
  readonly quiet: { readonly before: number; readonly after: number; readonly along: number };
  readonly source: string;
}

export type SymbologyId = 'qr' | 'data-matrix' | 'code-128' | 'ean-13' | 'upc-a';

/** Quiet zones as the standards have them (from memory). */
export const SYMBOLOGIES: readonly Symbology[] = [
  { id: 'qr', name: 'QR code', isLinear: false, quiet: { before: 4, after: 4, along: 4 }, source: 'ISO/IEC 18004' },
  { id: 'data-matrix', name: 'Data Matrix', isLinear: false, quiet: { before: 1, after: 1, along: 1 }, source: 'ISO/IEC 16022' },
  { id: 'code-128', name: 'Code 128', isLinear: true, quiet: { before: 10, after: 10, along: 0 }, source: 'ISO/IEC 15417' },
  { id: 'ean-13', name: 'EAN-13', isLinear: true, quiet: { before: 11, after: 7, along: 0 }, source: 'ISO/IEC 15420' },
  { id: 'upc-a', name: 'UPC-A', isLinear: true, quiet: { before: 9, after: 9, along: 0 }, source: 'ISO/IEC 15420' },
];

export const symbologyOf = (id: SymbologyId): Symbology => SYMBOLOGIES.find((each) => each.id === id)!;
