import type { PageLayer } from '../page/page';
import { textString } from './syntax';

/** What the marks that the sheet itself adds are listed under. */
const SHEET_GROUP = 'Sheet';

/** The optional content groups of a file: one for each layer of each drawing (ISO 32000-2, 8.11). */
export class LayerTable {
  private readonly numbers = new Map<string, { layer: PageLayer; object: number }>();

  /** Object number of a layer's group; `reserve` gives a new one when it is met first. */
  objectOf(layer: PageLayer, reserve: () => number): number {
    const key = `${layer.source}\n${layer.name}`;
    const known = this.numbers.get(key);
    if (known) return known.object;
    const object = reserve();
    this.numbers.set(key, { layer, object });
    return object;
  }

  get size(): number {
    return this.numbers.size;
  }

  groups(): { object: number; body: string }[] {
    return [...this.numbers.values()].map(({ layer, object }) => ({
      object,
      body: `<< /Type /OCG /Name ${textString(layer.name)} >>`,
    }));
  }

  /** The catalog's optional content properties: on unless they came switched off, listed by drawing and name. */
  properties(): string {
    const bySource = new Map<string, { name: string; object: number }[]>();
    for (const { layer, object } of this.numbers.values()) {
      const source = layer.source || SHEET_GROUP;
      bySource.set(source, [...(bySource.get(source) ?? []), { name: layer.name, object }]);
    }
    const order = [...bySource]
      .sort(([a], [b]) => compare(a, b))
      .map(([source, layers]) => {
        const sorted = layers.sort((a, b) => compare(a.name, b.name)).map(({ object }) => `${object} 0 R`);
        return `[${textString(source)} ${sorted.join(' ')}]`;
      });
    const all = [...this.numbers.values()].map(({ object }) => `${object} 0 R`).join(' ');
    const off = [...this.numbers.values()].filter(({ layer }) => layer.off).map(({ object }) => `${object} 0 R`);
    const offList = off.length ? ` /OFF [${off.join(' ')}]` : '';
    return `<< /OCGs [${all}] /D << /Name (As published)${offList} /Order [${order.join(' ')}] /ListMode /AllPages >> >>`;
  }
}

function compare(a: string, b: string): number {
  return a < b ? -1 : a > b ? 1 : 0;
}
