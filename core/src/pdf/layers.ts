import type { PageLayer } from '../page/page';
import { textString } from './syntax';

/** What the marks that the sheet itself adds are listed under. */
const SHEET_GROUP = 'Sheet';
/** Names of the two states that a reader may switch between. */
const [AS_SHOWN, EVERYTHING] = ['As shown', 'Everything on'];

const PRINT_ONLY = ' /Usage << /View << /ViewState /OFF >> /Print << /PrintState /ON >> >>';

interface Listed {
  layer: PageLayer;
  /** As readers list it. */
  name: string;
  object: number;
}

/** What of the layers of a file is not as usual. */
export interface LayerStates {
  /** Lists layers by view under their drawings. */
  byView?: boolean;
  /** Layers that readers cannot switch. */
  locked?: (layer: PageLayer) => boolean;
  /** Layers that print and are not seen on screen. */
  printOnly?: (layer: PageLayer) => boolean;
}

/**
 * The optional content groups of a file (ISO 32000-2, 8.11): one for each layer of each drawing, or of each of its
 * views. A layer that one view hides and another shows is two, so that the file opens as the sheets are shown.
 */
export class LayerTable {
  private readonly listed = new Map<string, Listed>();

  constructor(private readonly states: LayerStates = {}) {}

  /** Object number of a layer's group; `reserve` gives a new one when it is met first. */
  objectOf(layer: PageLayer, reserve: () => number): number {
    const { source, name, view = '', off = false } = layer;
    const apart = this.states.byView || off ? view : '';
    const key = [source, name, apart, off].join('\n');
    const known = this.listed.get(key);
    if (known) return known.object;
    const shown = off && !this.states.byView && view ? `${name} (hidden in ${view})` : name;
    const object = reserve();
    this.listed.set(key, { layer, name: shown, object });
    return object;
  }

  get size(): number {
    return this.listed.size;
  }

  groups(): { object: number; body: string }[] {
    return [...this.listed.values()].map(({ layer, name, object }) => ({
      object,
      body: `<< /Type /OCG /Name ${textString(name)}${this.states.printOnly?.(layer) ? PRINT_ONLY : ''} >>`,
    }));
  }

  /** The catalog's optional content properties: as the sheets are shown, and everything on as another state. */
  properties(): string {
    const all = [...this.listed.values()];
    const references = (some: readonly Listed[]): string => some.map(({ object }) => `${object} 0 R`).join(' ');
    const { locked = () => false, printOnly = () => false } = this.states;
    const printed = all.filter(({ layer }) => printOnly(layer));
    const off = all.filter(({ layer }) => layer.off);
    const fixed = all.filter(({ layer }) => locked(layer));
    const order =
      ` /Order [${this.order()}] /ListMode /AllPages` + (fixed.length ? ` /Locked [${references(fixed)}]` : '');
    // Readers set these by themselves for the screen and for the printer (ISO 32000-2, 8.11.4.5).
    const [screen, printer] = ['View', 'Print'].map(
      (event) => `<< /Event /${event} /OCGs [${references(printed)}] /Category [/${event}] >>`,
    );
    const usage = printed.length ? ` /AS [${screen} ${printer}]` : '';
    const shown = `/Name ${textString(AS_SHOWN)}${off.length ? ` /OFF [${references(off)}]` : ''}${order}${usage}`;
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
        const views = this.states.byView ? grouped(some, ({ layer }) => layer.view ?? '') : [['', some] as const];
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
