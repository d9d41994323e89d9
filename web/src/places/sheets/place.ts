import type { Place } from '../../ui/place';

export const SHEETS_PLACE: Place = {
  path: 'sheets',
  name: 'Sheets',
  icon: 'grid_view',
  key: '2',
  routes: [
    { path: '', title: 'Sheets · Folvex', loadComponent: () => import('./wall').then((m) => m.Wall) },
    {
      path: ':sheet',
      title: 'Sheet · Folvex',
      loadComponent: () => import('./sheet/sheet-place').then((m) => m.SheetPlace),
    },
  ],
  shortcuts: [
    {
      title: 'Sheets',
      lines: [
        ['Arrows', 'move between sheets'],
        ['Space', 'select a sheet, or deselect it'],
        ['Shift + arrows', 'select a range'],
        ['A', 'select all; again: none'],
        ['Enter', 'open the sheet'],
        ['+ and -', 'larger, smaller'],
      ],
    },
    {
      title: 'A sheet',
      lines: [
        ['Arrows', 'move the selected view by 1 mm; with Shift by 10 mm'],
        ['Delete', 'remove the selected view'],
        ['+ and -, wheel', 'zoom in, zoom out'],
        ['0', 'whole sheet'],
        ['Enter, Escape', 'close an outline; discard it, or deselect'],
      ],
    },
  ],
};
