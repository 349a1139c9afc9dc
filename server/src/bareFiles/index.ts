export { bareFile, bareTag, canBeBare } from './bareFile.ts';
export { mediaNames, withoutNames } from './mediaNames.ts';
export type { Stretch } from './stretch.ts';
