import type { Mark, PictureMark } from '@miradero/core/items';
import type { KindInInterface } from '../kind.ts';

export const markInInterface: KindInInterface<Mark> = {
  nameOf: () => undefined,
  offers: ['choose-marks', 'draw-marks', 'come-close', 'duplicate', 'remove', 'fix', 'raise', 'lower'],
};

/** What belongs to a picture is selected with it; alone, while marks are chosen. */
export const pictureMarkInInterface: KindInInterface<PictureMark> = { nameOf: () => undefined, offers: [] };
