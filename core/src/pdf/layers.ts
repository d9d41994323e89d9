import type { PageLayer } from '../page/page';
import { textString } from './syntax';

/** What the marks that the sheet itself adds are listed under. */
const SHEET_GROUP = 'Sheet';
/** Names of the two states that a reader may switch between. */
const [AS_SHOWN, EVERYTHING] = ['As shown', 'Everything on'];

interface Listed {
  layer: PageLayer;
  /** As readers list it. */
  name: string;
  object: number;
}

/**
 * The optional content groups of a file (ISO 32000-2, 8.11): one for each layer of each drawing, or of each of its
 * views. A layer that one view hides and another shows is two, so that the file opens as the sheets are shown.
 */
export class LayerTable {
  private readonly listed = new Map<string, Listed>();

  constructor(private readonly byView = false) {}

  /** Object number of a layer's group; `reserve` gives a new one when it is met first. */
  objectOf(layer: PageLayer, reserve: () => number): number {
    const { source, name, view = '', off = false } = layer;
    const apart = this.byView || off ? view : '';
    const key = [source, name, apart, off].join('\n');
    const known = this.listed.get(key);
    if (known) return known.object;
    const shown = off && !this.byView && view ? `${name} (hidden in ${view})` : name;
    const object = reserve();
    this.listed.set(key, { layer, name: shown, object });
    return object;
  }

  get size(): number {
    return this.listed.size;
  }

  groups(): { object: number; body: string }[] {
    return [...this.listed.values()].map(({ name, object }) => ({
      object,
      body: `<< /Type /OCG /Name ${textString(name)} >>`,
    }));
  }

  /** The catalog's optional content properties: as the sheets are shown, and everything on as another state. */
  properties(): string {
    const all = [...this.listed.values()];
    const references = (some: readonly Listed[]): string => some.map(({ object }) => `${object} 0 R`).join(' ');
    const off = all.filter(({ layer }) => layer.off);
    const order = ` /Order [${this.order()}] /ListMode /AllPages`;
    const shown = `/Name ${textString(AS_SHOWN)}${off.length ? ` /OFF [${references(off)}]` : ''}${order}`;
    const everything = `/Name ${textString(EVERYTHING)} /BaseState /ON${order}`;
    // Some readers open with the first of the others, where there are others: it is the same as the standard one.
    const others = off.length ? ` /Configs [<< ${shown} >> << ${everything} >>]` : '';
    return `<< /OCGs [${references(all)}] /D << ${shown} >>${others} >>`;
  }

  /** Drawings in their order, under each its layers, or its views with theirs. */
  private order(): string {
    const bySource = grouped([...this.listed.values()], ({ layer }) => layer.source || SHEET_GROUP);
    return bySource
      .map(([source, some]) => {
        const views = this.byView ? grouped(some, ({ layer }) => layer.view ?? '') : [['', some] as const];
        const parts = views.map(([view, layers]) => {
          const sorted = [...layers].sort((a, b) => compare(a.name, b.name)).map(({ object }) => `${object} 0 R`);
          return view ? `[${textString(view)} ${sorted.join(' ')}]` : sorted.join(' ');
        });
        return `[${textString(source)} ${parts.join(' ')}]`;
      })
      .join(' ');
  }
}

/** Items by a name, the names in their order. */
function grouped<T>(items: readonly T[], nameOf: (item: T) => string): [string, T[]][] {
  const groups = new Map<string, T[]>();
  for (const item of items) groups.set(nameOf(item), [...(groups.get(nameOf(item)) ?? []), item]);
  return [...groups].sort(([a], [b]) => compare(a, b));
}

function compare(a: string, b: string): number {
  return a < b ? -1 : a > b ? 1 : 0;
}
