/** Of the WHATWG Encoding Standard, in browsers and in Node.js. */
declare class TextDecoder {
  constructor(label: string, options?: { readonly fatal?: boolean; readonly ignoreBOM?: boolean });
  decode(bytes: Uint8Array): string;
}
