import type { XmlNode } from './xml';

const MAX_REFERENCES = 10;

/** The id that `url(#…)` names; undefined for anything else. */
export function urlId(text: string | undefined): string | undefined {
  return /^\s*url\(\s*['"]?#([^'")]+?)['"]?\s*\)/.exec(text ?? '')?.[1];
}

/** The element that a node's `href` names, in the same file. */
export function targetOf(node: XmlNode, byId: ReadonlyMap<string, XmlNode>): XmlNode | undefined {
  const href = node.attributes['href'] ?? '';
  return href.startsWith('#') ? byId.get(href.slice(1)) : undefined;
}

/** A gradient or pattern and those whose attributes and content it takes over, the nearest first (SVG 1.1, 13.2.2). */
export function inheritanceOf(node: XmlNode, byId: ReadonlyMap<string, XmlNode>): XmlNode[] {
  const chain: XmlNode[] = [];
  for (let at: XmlNode | undefined = node; at && chain.length < MAX_REFERENCES && !chain.includes(at);) {
    chain.push(at);
    at = targetOf(at, byId);
  }
  return chain;
}

/** An attribute of the nearest of several elements that has it. */
export function nearest(chain: readonly XmlNode[], name: string): string | undefined {
  return chain.find(({ attributes }) => name in attributes)?.attributes[name];
}
