export { addItem, placeItem } from './addItem.ts';
export { changeItem } from './changes.ts';
export { releaseRoutes } from './openingRoutes.ts';
export { getPlan } from './queries.ts';
export { planRoutes } from './routes.ts';
export { saveVariants } from './saveVariants.ts';
export { aboutCourse, makeTermLine } from './termLine.ts';
export { addUnit, changeUnit } from './units.ts';
export { layOutline } from './layOutline.ts';
