import type { XmlNode } from './xml';

/** Declarations by property, in lower case. */
export type Declarations = Record<string, string>;

interface Rule {
  /** Parts that an element must have: a name, `.class` or `#id`. */
  parts: string[];
  weight: number;
  declarations: Declarations;
}

/** Rules of the style sheets inside a document: selectors of names, classes and ids without combinators. */
export class StyleSheet {
  private readonly rules: Rule[] = [];

  /** Adds the text of a style element; what it does not understand is skipped, as CSS asks. */
  add(text: string): void {
    const plain = text.replace(/\/\*[\s\S]*?\*\//g, '').replace(/@import[^;]*;/g, '');
    for (const [, selectors, body] of plain.matchAll(/([^{}@;]+)\{([^{}]*)\}/g)) {
      const declarations = declarationsOf(body!);
      for (const selector of selectors!.split(',')) {
        const parts = partsOf(selector.trim());
        if (parts) this.rules.push({ parts, weight: weightOf(parts), declarations });
      }
    }
    this.rules.sort((a, b) => a.weight - b.weight);
  }

  /** The declarations of the rules that match an element, the more specific over the general. */
  for(node: XmlNode): Declarations {
    if (this.rules.length === 0) return {};
    const has = new Set(['*', node.name, `#${node.attributes['id'] ?? ''}`]);
    for (const name of (node.attributes['class'] ?? '').split(/\s+/)) has.add(`.${name}`);
    const found: Declarations = {};
    for (const rule of this.rules) {
      if (rule.parts.every((part) => has.has(part))) Object.assign(found, rule.declarations);
    }
    return found;
  }
}

/** Declarations of a `style` attribute or of a rule's body. */
export function declarationsOf(text: string): Declarations {
  const found: Declarations = {};
  for (const part of text.split(';')) {
    const colon = part.indexOf(':');
    if (colon < 0) continue;
    const value = part
      .slice(colon + 1)
      .replace(/!important/i, '')
      .trim();
    if (value) found[part.slice(0, colon).trim().toLowerCase()] = value;
  }
  return found;
}

function partsOf(selector: string): string[] | undefined {
  if (!/^[\w\-.#*]+$/.test(selector)) return undefined;
  return selector.match(/\*|[.#]?[\w-]+/g) ?? undefined;
}

function weightOf(parts: readonly string[]): number {
  return parts.reduce((sum, part) => sum + (part.startsWith('#') ? 100 : part.startsWith('.') ? 10 : 1), 0);
}
