import { paperOfChoice } from '../../paper/sizes';
import { tilingOf } from '../model';
import { defineCheck } from '../finding';

/** The paper that sheets go on in several pages is there, and leaves room for something new on each page. */
export const tiles = defineCheck(
  {
    'package.tiles': ['stop', 'a tiling on a paper that is not there, or with no room for something new on each page'],
  },
  ({ package: pack, project }) => {
    if (!pack.tiles || tilingOf(pack, project)) return [];
    const { paper, overlap } = pack.tiles;
    const sentence = paperOfChoice(paper, project.papers)
      ? `An overlap of ${overlap} mm leaves too little of each tile; choose a larger paper.`
      : `Sheets are tiled on "${'name' in paper ? paper.name : ''}", a paper that does not exist; choose another.`;
    return [{ code: 'package.tiles', sentence, place: {} }];
  },
);
