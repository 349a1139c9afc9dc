export { soundAnswer, toAnswer } from './answers.ts';
export { addFolder, changeFolder, folderOf, listFolders, setFolderRemoved } from './folders.ts';
export {
  addQuestion,
  type BankFilter,
  changeQuestion,
  copyQuestion,
  getQuestion,
  listBelow,
  listPool,
  listQuestions,
  listTags,
  listUses,
  listVersions,
  listWords,
  moveQuestions,
  SAME_WORDS,
  titleOf,
} from './questions.ts';
export { rehearseKey, tryAnswer } from './rehearsal.ts';
export { listStimuli, saveStimulus } from './stimuli.ts';
export { readQuestionTable, writeQuestionTable } from './table.ts';
export { fixVersions } from './fixVersions.ts';
