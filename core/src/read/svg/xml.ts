import { SaxesParser } from 'saxes';

/** An element of an XML document; text between elements is an element without a name. */
export interface XmlNode {
  /** Without its namespace prefix; empty for text. */
  name: string;
  /** By name without prefix; `href` stands for `xlink:href` too. */
  attributes: Readonly<Record<string, string>>;
  children: XmlNode[];
  text: string;
  line: number;
}

export interface XmlDocument {
  root: XmlNode | undefined;
  /** First fault in the text; what came before it is in `root`. */
  fault: { line: number } | undefined;
}

/** Elements and texts at most; more is taken for a bomb. */
const MAX_NODES = 3_000_000;

/**
 * Parses XML. Document types are not followed: entities that a file defines for itself stay unexpanded, and nothing
 * from outside is ever asked for.
 */
export function parseXml(text: string): XmlDocument {
  const parser = new SaxesParser({ position: true });
  const open: XmlNode[] = [];
  let root: XmlNode | undefined;
  let fault: XmlDocument['fault'];
  let count = 0;
  const add = (node: XmlNode): void => {
    if (count++ > MAX_NODES) throw new TooMuch();
    if (open.length > 0) open[open.length - 1]!.children.push(node);
    else root ??= node;
  };
  parser.on('error', () => (fault ??= { line: parser.line }));
  parser.on('opentag', (tag) => {
    const attributes: Record<string, string> = Object.create(null) as Record<string, string>;
    for (const [name, value] of Object.entries(tag.attributes)) attributes[localName(name)] = String(value);
    const node = { name: localName(tag.name), attributes, children: [], text: '', line: parser.line };
    add(node);
    open.push(node);
  });
  parser.on('closetag', () => void open.pop());
  const addText = (value: string): void => {
    if (open.length > 0 && value !== '')
      add({ name: '', attributes: {}, children: [], text: value, line: parser.line });
  };
  parser.on('text', addText);
  parser.on('cdata', addText);
  try {
    parser.write(text).close();
  } catch {
    fault ??= { line: parser.line };
  }
  return { root, fault };
}

class TooMuch extends Error {}

function localName(name: string): string {
  return name.slice(name.indexOf(':') + 1);
}
