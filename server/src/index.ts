export { addCourse, saveProgramme } from './courseHome/index.ts';

export { addPerson, findSignedIn, hashPassword } from './people/index.ts';

export { addTerm } from './term/index.ts';

export { changeSettings, getSettings } from './course/index.ts';

export { addGradeColumn, addItem, addUnit, changeItem, publishText, saveVariants } from './plan/index.ts';

export { findAssignment, saveAssignment, saveRubric } from './kinds/assignment/index.ts';

export { saveLink } from './kinds/link/index.ts';
export { saveShownFile } from './kinds/file/index.ts';

export { findPage, savePage } from './kinds/page/index.ts';

export { findRubric } from './rubric/index.ts';

export { getPlanItem } from './items/index.ts';

export { addNote, addStarterRemarks, finishMark, getMark, listRemarks, saveMark, sayWord, setReleased } from './marks/index.ts';

export { askRevision, handIn, makeSubmission, saveDraft } from './handIn/index.ts';

export { storeFile } from './files/index.ts';

export {
  applyPolicy,
  calculate,
  changeCell,
  getPolicyChange,
  getWorkColumn,
  readFacts,
  recordGrade,
  saveCellWords,
  setCurve,
} from './gradebook/index.ts';

export { writeAudit } from './platform/audit.ts';

export { migrate } from './platform/migrate.ts';

export { makePool, maybe, rows, run, withDb, type Db, type Pool } from './platform/database.ts';

export { readConfig } from './platform/config.ts';

export { serve, type Running } from './serve.ts';

export { addMember, giveSections, setArrangements, withdrawMember } from './roster/index.ts';

export { addVisit } from './own/index.ts';

export { changeTaskTypes } from './school/index.ts';

export { addAnnouncement } from './announcements/index.ts';

export { replyTo, sendMessage } from './messages/index.ts';

export { addPost } from './discussions/index.ts';
export { saveDiscussion } from './kinds/discussion/index.ts';

export { addObjective, align } from './objectives/index.ts';

export { addGroupSet, listGroups } from './groups/index.ts';

export { askMatching, runMatching } from './matching/index.ts';

export { begin as beginQuiz, handInQuiz, saveAnswer } from './quizTaking/index.ts';

export { addQuestions, getQuizDetail, savePaper, saveQuiz } from './kinds/quiz/index.ts';

export {
  addRows,
  addSteps,
  handOverGrades,
  type AgreedStep,
  type FinalFacts,
  listAgreed,
  readFinalFacts,
  settleRecords,
  settleRows,
} from './handover/index.ts';
export { correctQuestion, getStatistics, giveScore, markAgain } from './quizResults/index.ts';

export { addKeyOnly, addScan, answerSheets, printedSheets, printSheets, readPicture, readStanding } from './paperTest/index.ts';

export { silentLog } from './platform/log.ts';
export {
  draw as drawPeers,
  getSettingView as getPeerSetting,
  handInReview,
  readPeer,
  readReviewing,
  recordPeerResults,
  type Reviewing,
  saveReview,
  saveOwnLeave,
  showWork,
} from './peer/index.ts';
export { addSample, getSample, saveClosing, savePeer, saveSample } from './peerSetting/index.ts';
