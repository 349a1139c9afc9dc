export { countTouched, endHandOpening, openByHand, saveAudience, saveOpening } from './changes.ts';
export { type DatesFor, makeDatesFor } from './dates.ts';
export { type Reach, readReach } from './reach.ts';
export { listToldNow, toReviewTime } from './toldNow.ts';
export { getVisible, listVisible, type Visible } from './visible.ts';
export { applyDates, type DateChange, hasDates } from './whom.ts';
export { dropKeptDates, keepSectionDates } from './movedDates.ts';
export { copyOpenings } from './copyOpenings.ts';
export { putOtherDates } from './otherDates.ts';
