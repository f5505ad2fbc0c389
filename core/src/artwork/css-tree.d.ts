/** The parser alone, without css-tree's lists of what properties take: they are larger than all else of the page's worker. */
declare module 'css-tree/parser' {
  import type { CssNode, ParseOptions } from 'css-tree';
  export default function parse(text: string, options?: ParseOptions): CssNode;
}
