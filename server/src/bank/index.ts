export { soundAnswer, toAnswer } from './answers.ts';
export { folderOf, giveBank, listTeachersOfCode } from './courseBanks.ts';
export { addFolder, changeFolder, listFolders, setFolderRemoved } from './folders.ts';
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
} from './questions.ts';
export { checkOldKeys, faultsOf, findFaulty, listFaults, rehearseKey, tryAnswer } from './keyVerdict.ts';
export { titleOf } from './titleOf.ts';
export { listStimuli, saveStimulus } from './stimuli.ts';
export { readQuestionTable, writeQuestionTable } from './table.ts';
export { fixVersions } from './fixVersions.ts';
