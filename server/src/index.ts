export { addCourse } from './courseHome/addCourse.ts';

export { addPerson } from './people/create.ts';

export { addTerm } from './term/change.ts';

export { changeSettings, getSettings } from './course/settings.ts';

export { saveProgramme } from './courseHome/programme.ts';

export { addItem } from './plan/addItem.ts';

export { addUnit } from './plan/units.ts';

export { changeItem } from './plan/changes.ts';

export { saveAssignment } from './plan/saveAssignment.ts';

export { savePage } from './plan/savePage.ts';

export { saveRubric } from './rubric/saveRubric.ts';

export { saveVariants } from './plan/saveVariants.ts';

export { saveLink, saveShownFile } from './plan/material.ts';

export { findAssignment, findPage } from './items/material.ts';

export { findRubric } from './rubric/rubrics.ts';

export { getPlanItem } from './items/queries.ts';

export { addNote } from './marks/notes.ts';

export { finishMark } from './marks/finish.ts';

export { getMark, saveMark, setReleased } from './marks/marks.ts';

export { makeSubmission } from './handIn/submission.ts';

export { handIn } from './handIn/handIn.ts';

export { saveDraft } from './handIn/draft.ts';

export { askRevision } from './handIn/revision.ts';

export { addStarterRemarks, listRemarks } from './marks/remarks.ts';

export { sayWord } from './marks/words.ts';

export { storeFile } from './files/store.ts';

export { changeCell } from './gradebook/cellChange.ts';

export { recordGrade } from './gradebook/ledger.ts';

export { applyPolicy, getPolicyChange } from './gradebook/policy.ts';

export { calculate } from './gradebook/cells.ts';

export { readFacts } from './gradebook/facts.ts';

export { hashPassword } from './people/passwords.ts';

export { migrate } from './platform/migrate.ts';

export { makePool, maybe, rows, run, withDb, type Db, type Pool } from './platform/database.ts';

export { readConfig } from './platform/config.ts';

export { serve, type Running } from './serve.ts';

export { addMember, giveSections, setArrangements, withdrawMember } from './roster/members.ts';

export { addVisit } from './own/visits.ts';

export { addAnnouncement } from './announcements/announcements.ts';

export { replyTo, sendMessage } from './messages/messages.ts';

export { addPost, saveDiscussion } from './discussions/discussions.ts';

export { addObjective, align } from './objectives/queries.ts';

export { addGroupSet, listGroups } from './groups/queries.ts';

export { askMatching } from './matching/setting.ts';

export { runMatching } from './matching/run.ts';

export { findSignedIn } from './people/actor.ts';

export { saveAnswer } from './quizTaking/answers.ts';

export { begin as beginQuiz } from './quizTaking/begin.ts';

export { handInQuiz } from './quizTaking/attempts.ts';

export { addQuestions, savePaper } from './quiz/savePaper.ts';

export { getQuizDetail } from './quiz/quizzes.ts';

export { saveQuiz } from './quiz/setting.ts';

export { giveScore } from './quizResults/giveScore.ts';

export { getStatistics } from './quizResults/statistics.ts';

export { answerSheets } from './paperTest/answerSheets.ts';

export { readPicture } from './paperTest/readPicture.ts';

export { printSheets } from './paperTest/forms.ts';

export { addKeyOnly } from './paperTest/keyOnly.ts';

export { addScan } from './paperTest/scans.ts';

export { printedSheets } from './paperTest/sheetBook.ts';

export { readStanding } from './paperTest/sheets.ts';

export { markAgain } from './quizResults/corrections.ts';

export { silentLog } from './platform/log.ts';
