export { bareTag } from './bareTag.ts';
export { mediaNames, withoutNames } from './mediaNames.ts';
export type { Stretch } from './stretch.ts';
