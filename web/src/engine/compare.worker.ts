import { expose, transfer } from 'comlink';
import { comparePictures, type PictureDifference, type PicturePair } from '@folvex/core';

/** Compares pictures of pages outside the interface's thread. */
export interface CompareEngine {
  compare(pair: PicturePair): PictureDifference;
}

const engine: CompareEngine = {
  compare(pair) {
    const difference = comparePictures(pair);
    return transfer(difference, [difference.picture.buffer]);
  },
};

expose(engine);
