export * from './problem';
export * from './problem-codes';
export * from './same';
export * from './geometry/affine';
export * as box from './geometry/box';
export type { Box } from './geometry/box';
export { Path } from './geometry/path';
export * from './measure/scale';
export * from './measure/units';
export * from './paper/grid';
export * from './paper/frame';
export * from './paper/folding';
export * from './paper/plotters';
export * from './paper/sizes';
export * from './paper/tiles';
export * from './drawing/model';
export * from './drawing/patterns';
export * from './drawing/bind';
export * from './drawing/colours';
export * from './drawing/describe';
export * from './text/fonts';
export * from './text/layout';
export * from './text/sfnt';
export * from './read/result';
export * from './read/dxf/dxf';
export * from './read/picture/jpeg';
export * from './read/picture/picture';
export * from './read/picture/png';
export * from './read/limits';
export * from './read/recognise';
export { letteringFacts, type LetteringFacts } from './page/lettering-facts';
export * from './page/page';
export * from './page/builder';
export * from './page/excerpt';
export * from './page/pick';
export * from './page/mark-boxes';
export * from './page/outside';
export * from './page/resize';
export * from './page/pack';
export * from './sheet/context';
export * from './sheet/groups';
export * from './sheet/model';
export type { BlankCell, ComposedSheet, ComposeInput, PlacedView, SourceDrawing } from './sheet/composed';
export { composeSheet } from './sheet/compose';
export { areaForViews, viewSizeOnPaper } from './sheet/areas';
export * from './sheet/drawing-page';
export * from './sheet/extents';
export * from './sheet/frame-texts';
export * from './sheet/frames';
export * from './sheet/frame-plan';
export { viewportScales } from './sheet/layout';
export * from './sheet/layout-name';
export { stopWarnings } from './sheet/view-warnings';
export * from './sheet/notes/model';
export type { PlacedNote } from './sheet/notes/draw';
export { tableRows } from './sheet/notes/table';
export * from './sheet/place-view';
export * from './sheet/view-placement';
export * from './sheet/tile-pages';
export * from './sheet/title/fields';
export * from './sheet/title/from-block';
export * from './sheet/title/shipped';
export * from './sheet/title/template';
export * from './compare/drawings';
export * from './compare/picture';
export * from './compare/pictures';
export * from './pens/by-schedule';
export * from './pens/exchange';
export * from './pens/ink';
export * from './pens/schedule';
export { strokeLettering } from './pens/single-stroke';
export * from './pdf/part';
export * from './pdf/pack-part';
export * from './pdf/document';
export type { PdfVersion, Protection, Sink } from './pdf/file-writer';
export type { LinkLook, LinkTarget } from './pdf/links';
export type { MeasuredArea } from './pdf/measuring';
export { referencesIn, type TextReference } from './pdf/references';
export * from './pdf/embed-picture';
export type * from './pdf/foreign';
export type { Subset } from './pdf/embed-font';
export type { DocumentFacts } from './pdf/metadata';
export { userUnit, writeContent, type ContentOptions, type TextMode } from './pdf/content';
export * from './paint/canvas';
export * from './paint/dxf';
export * from './paint/batch-by-pen';
export * from './paint/svg';
export * from './naming/rule';
export * from './naming/legal';
export * from './naming/paths';
export * from './naming/presets';
export { STEPS } from './naming/steps';
export * from './naming/writing';
export * from './settings/descriptor';
export * from './settings/schema';
export * from './recipe/form';
export * from './recipe/recipe';
export * from './recipe/schema';
export * from './recipe/settings';
export * from './recipe/words';
export * from './package/fields';
export * from './package/formats';
export * from './package/extra-formats';
export type * from './package/delivery';
export * from './package/destination-kinds';
export * from './package/options';
export * from './package/destination';
export * from './package/model';
export * from './package/order';
export * from './package/composed-facts';
export { isExtraPage } from './package/extra-pages';
export * from './package/picture-sizes';
export * from './package/issued-state';
export * from './package/plan';
export type * from './package/proof';
export * from './package/filters';
export * from './package/prepare';
export * from './package/resolve';
export { contextInPackage } from './package/page-context';
export type { PrintedStamp } from './sheet/stamps';
export { firstInWords } from './package/words';
export * from './package/finding';
export * from './package/run-checks';
export * from './job/model';
export * from './job/read';
export * from './job/write';
export * from './job/transfer';
export * from './job/upgrade';
export {
  groupSchema,
  marginsSchema,
  marksSchema,
  namedWindowSchema,
  noteSchema,
  packageSchema,
  penScheduleSchema,
  projectSchema,
  revisionSchema,
  sheetSchema,
  tilesSchema,
  titleBlockSchema,
  viewSchema,
} from './job/schema';
export { extraFormatsSchema, destinationSchema, packageParts } from './job/package-parts';
export * from './issues/model';
export * from './issues/register';
export { transmittalPages } from './issues/transmittal';
export * from './relink/plan';
export * from './relink/rename';
