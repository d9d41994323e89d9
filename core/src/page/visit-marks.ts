import { FILL_NONZERO, PICTURE, STROKE, TEXT, type Page, type PageText, type PlacedPicture } from './page';

/** What is done with the marks of a page, by their kind. */
export interface MarkVisitor {
  stroke(mark: number): void;
  fill(mark: number, nonzero: boolean): void;
  text(mark: number, text: PageText): void;
  picture(mark: number, placed: PlacedPicture): void;
}

/** Hands one mark to a visitor; `order` is the number of the text or picture of each mark (`markOrder`). */
export function visitMark(page: Page, mark: number, order: ArrayLike<number>, visitor: MarkVisitor): void {
  switch (page.kind[mark]) {
    case STROKE:
      return visitor.stroke(mark);
    case TEXT:
      return visitor.text(mark, page.texts[order[mark]!]!);
    case PICTURE:
      return visitor.picture(mark, page.placed[order[mark]!]!);
    default:
      return visitor.fill(mark, page.kind[mark] === FILL_NONZERO);
  }
}
