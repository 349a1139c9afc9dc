export { findReport, listFigures, type Reader } from './report.ts';
export { matchTexts, runMatching } from './run.ts';
export { askMatching, findMatchSetting, getMatchState, requireAssignment, saveMatchSetting } from './setting.ts';
