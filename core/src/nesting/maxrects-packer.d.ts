/** The package names a file as its main one that Node.js cannot read as a module; the other has no types. */
declare module 'maxrects-packer/dist/maxrects-packer.mjs' {
  interface Packed {
    readonly x: number;
    readonly y: number;
    readonly rot: boolean;
    readonly data: unknown;
  }
  export class MaxRectsPacker {
    constructor(width: number, height: number, padding: number, options: Readonly<Record<string, boolean | number>>);
    readonly bins: readonly { readonly rects: readonly Packed[] }[];
    add(width: number, height: number, data: unknown): Packed;
  }
}
