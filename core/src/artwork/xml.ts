import { SaxesParser } from 'saxes';
import { ArtworkError, MOST_DEPTH, MOST_ELEMENTS } from './limits.js';

/** An element of a file, with the text that stands in it. */
export interface Element {
  /** Without its prefix. */
  readonly name: string;
  readonly attributes: Readonly<Record<string, string>>;
  readonly children: Element[];
  text: string;
}

/** Names of namespaces that a file declares as entities of its own, as some programs write them: so long, and used so often. */
const LONGEST_NAMESPACE = 200;
const MOST_NAMESPACES = 50;
const MOST_USES = 1000;

/**
 * The entities of a document type that stand for the address of a namespace, and for nothing else: no entity within an entity, nothing of
 * another file.
 */
function namespacesIn(doctype: string, source: string): Record<string, string> {
  const out: Record<string, string> = {};
  const declared = /<!ENTITY\s{1,20}([A-Za-z_][\w.-]{0,60})\s{1,20}(["'])((?:https?:\/\/|urn:)[^"'<>&%\s]*)\2\s{0,20}>/gu;
  for (const [, name, , value] of doctype.matchAll(declared))
    if (value.length <= LONGEST_NAMESPACE && Object.keys(out).length < MOST_NAMESPACES) out[name] = value;
  let uses = 0;
  for (let at = source.indexOf('&'); at >= 0 && uses <= MOST_USES; at = source.indexOf('&', at + 1)) uses++;
  return uses > MOST_USES ? {} : out;
}

/** What the parser found wrong, by its words, and how a designer would say it. */
const REASONS: readonly (readonly [RegExp, string])[] = [
  [/outside of root|only one root/u, 'something stands after its end'],
  [/root element|unexpected end|unclosed/iu, 'it breaks off before its end'],
  [/close tag|closing tag|unmatched/u, 'something in it is opened and not closed, or closed and not opened'],
  [/entity|entities/u, 'it uses a name with “&” that it does not explain'],
  [/quote|attribute|value|whitespace/u, 'a value in it is written wrongly'],
  [/namespace|prefix/u, 'it uses a prefix that it does not explain'],
];

/** @param message as the parser says it: line, column, and what is wrong */
function plainReason(message: string, hasBegun: boolean): string {
  const line = /^(\d+):/u.exec(message)?.[1];
  if (!hasBegun) return 'it does not begin as one';
  const [, words] = REASONS.find(([pattern]) => pattern.test(message)) ?? [, 'something in it is not written as in such a file'];
  return line === undefined ? words : `${words} (line ${line})`;
}

/**
 * Reads XML into a tree. Of the entities that a file declares only the names of namespaces are expanded, and nothing outside of the file is
 * read.
 * @throws ArtworkError where it is not well formed, or too large to be a drawing
 */
export function readXml(source: string): Element {
  const root: Element = { name: '', attributes: {}, children: [], text: '' };
  const open: Element[] = [root];
  let count = 0;
  let fault: ArtworkError | undefined;
  const parser = new SaxesParser({ position: true });
  parser.on('error', (error) => (fault ??= new ArtworkError('not-xml', plainReason(error.message, /<\w/u.test(source)))));
  parser.on('doctype', (doctype) => Object.assign(parser.ENTITIES, namespacesIn(doctype, source)));
  parser.on('opentag', ({ name, attributes }) => {
    if (++count > MOST_ELEMENTS) fault ??= new ArtworkError('too-many-elements', MOST_ELEMENTS);
    if (open.length > MOST_DEPTH) fault ??= new ArtworkError('too-deep', MOST_DEPTH);
    if (fault) return;
    const element: Element = { name: local(name), attributes: plain(attributes), children: [], text: '' };
    open[open.length - 1].children.push(element);
    open.push(element);
  });
  parser.on('closetag', () => {
    if (!fault) open.pop();
  });
  const addText = (text: string) => {
    if (!fault) open[open.length - 1].text += text;
  };
  parser.on('text', addText);
  parser.on('cdata', addText);
  // Piece by piece, so that a hostile file is given up as soon as it is known to be one.
  for (let at = 0; at < source.length && !fault; at += 65_536) parser.write(source.slice(at, at + 65_536));
  if (!fault) parser.close();
  if (fault) throw fault;
  if (!root.children[0]) throw new ArtworkError('not-xml', 'it is empty');
  return root.children[0];
}

const local = (name: string): string => name.slice(name.indexOf(':') + 1);

function plain(attributes: Readonly<Record<string, unknown>>): Record<string, string> {
  const out: Record<string, string> = {};
  for (const [name, value] of Object.entries(attributes)) {
    const own = local(name);
    // “href” of any prefix; other prefixes belong to the programs that wrote the file.
    if (!name.includes(':') || own === 'href') out[own] = String(value);
  }
  return out;
}
