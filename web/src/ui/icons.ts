import { inject, provideAppInitializer, type EnvironmentProviders } from '@angular/core';
import { MatIconRegistry } from '@angular/material/icon';
import { DomSanitizer } from '@angular/platform-browser';
import accountCircle from '@material-symbols/svg-400/outlined/account_circle.svg';
import add from '@material-symbols/svg-400/outlined/add.svg';
import arrowBack from '@material-symbols/svg-400/outlined/arrow_back.svg';
import arrowDownward from '@material-symbols/svg-400/outlined/arrow_downward.svg';
import arrowUpward from '@material-symbols/svg-400/outlined/arrow_upward.svg';
import autoStories from '@material-symbols/svg-400/outlined/auto_stories.svg';
import block from '@material-symbols/svg-400/outlined/block.svg';
import callSplit from '@material-symbols/svg-400/outlined/call_split.svg';
import check from '@material-symbols/svg-400/outlined/check.svg';
import checkCircle from '@material-symbols/svg-400/outlined/check_circle.svg';
import chevronLeft from '@material-symbols/svg-400/outlined/chevron_left.svg';
import chevronRight from '@material-symbols/svg-400/outlined/chevron_right.svg';
import close from '@material-symbols/svg-400/outlined/close.svg';
import contentCopy from '@material-symbols/svg-400/outlined/content_copy.svg';
import darkMode from '@material-symbols/svg-400/outlined/dark_mode.svg';
import dataArray from '@material-symbols/svg-400/outlined/data_array.svg';
import deleteIcon from '@material-symbols/svg-400/outlined/delete.svg';
import difference from '@material-symbols/svg-400/outlined/difference.svg';
import download from '@material-symbols/svg-400/outlined/download.svg';
import draft from '@material-symbols/svg-400/outlined/draft.svg';
import error from '@material-symbols/svg-400/outlined/error.svg';
import folder from '@material-symbols/svg-400/outlined/folder.svg';
import folderCopy from '@material-symbols/svg-400/outlined/folder_copy.svg';
import gridView from '@material-symbols/svg-400/outlined/grid_view.svg';
import group from '@material-symbols/svg-400/outlined/group.svg';
import historyIcon from '@material-symbols/svg-400/outlined/history.svg';
import image from '@material-symbols/svg-400/outlined/image.svg';
import info from '@material-symbols/svg-400/outlined/info.svg';
import keyboard from '@material-symbols/svg-400/outlined/keyboard.svg';
import keyboardArrowUp from '@material-symbols/svg-400/outlined/keyboard_arrow_up.svg';
import lightMode from '@material-symbols/svg-400/outlined/light_mode.svg';
import lineWeight from '@material-symbols/svg-400/outlined/line_weight.svg';
import listIcon from '@material-symbols/svg-400/outlined/list.svg';
import lock from '@material-symbols/svg-400/outlined/lock.svg';
import moreVert from '@material-symbols/svg-400/outlined/more_vert.svg';
import noteStack from '@material-symbols/svg-400/outlined/note_stack.svg';
import photoSizeSelectLarge from '@material-symbols/svg-400/outlined/photo_size_select_large.svg';
import photoSizeSelectSmall from '@material-symbols/svg-400/outlined/photo_size_select_small.svg';
import redo from '@material-symbols/svg-400/outlined/redo.svg';
import removeIcon from '@material-symbols/svg-400/outlined/remove.svg';
import search from '@material-symbols/svg-400/outlined/search.svg';
import settings from '@material-symbols/svg-400/outlined/settings.svg';
import stacks from '@material-symbols/svg-400/outlined/stacks.svg';
import tableChartView from '@material-symbols/svg-400/outlined/table_chart_view.svg';
import taskAlt from '@material-symbols/svg-400/outlined/task_alt.svg';
import undo from '@material-symbols/svg-400/outlined/undo.svg';
import warning from '@material-symbols/svg-400/outlined/warning.svg';
import wbIncandescent from '@material-symbols/svg-400/outlined/wb_incandescent.svg';
import zoomIn from '@material-symbols/svg-400/outlined/zoom_in.svg';
import zoomOut from '@material-symbols/svg-400/outlined/zoom_out.svg';

/** The icons of the interface, as SVG, by their names in the set that they come from (Material Symbols, outlined). */
export const ICONS = {
  account_circle: accountCircle,
  add,
  arrow_back: arrowBack,
  arrow_downward: arrowDownward,
  arrow_upward: arrowUpward,
  auto_stories: autoStories,
  block,
  call_split: callSplit,
  check,
  check_circle: checkCircle,
  chevron_left: chevronLeft,
  chevron_right: chevronRight,
  close,
  content_copy: contentCopy,
  dark_mode: darkMode,
  data_array: dataArray,
  delete: deleteIcon,
  difference,
  download,
  draft,
  error,
  folder,
  folder_copy: folderCopy,
  grid_view: gridView,
  group,
  history: historyIcon,
  image,
  info,
  keyboard,
  keyboard_arrow_up: keyboardArrowUp,
  light_mode: lightMode,
  line_weight: lineWeight,
  list: listIcon,
  lock,
  more_vert: moreVert,
  note_stack: noteStack,
  photo_size_select_large: photoSizeSelectLarge,
  photo_size_select_small: photoSizeSelectSmall,
  redo,
  remove: removeIcon,
  search,
  settings,
  stacks,
  table_chart_view: tableChartView,
  task_alt: taskAlt,
  undo,
  warning,
  wb_incandescent: wbIncandescent,
  zoom_in: zoomIn,
  zoom_out: zoomOut,
} as const;

export type IconName = keyof typeof ICONS;

/** Registers the icons, so that `<mat-icon svgIcon>` finds them by name. */
export function provideIcons(): EnvironmentProviders {
  return provideAppInitializer(() => {
    const [registry, sanitizer] = [inject(MatIconRegistry), inject(DomSanitizer)];
    for (const [name, svg] of Object.entries(ICONS)) {
      registry.addSvgIconLiteral(name, sanitizer.bypassSecurityTrustHtml(svg));
    }
  });
}
