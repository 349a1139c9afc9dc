import type { RubricChange } from '../assignment.ts';
import { asks, endpoint, is } from '../contract.ts';
import type { ClosingWord, OwnLeave, ShowingWork, ShownWorkView } from './after.ts';
import type {
  PeerBoard,
  PeerDraw,
  PeerPairing,
  PeerWork,
  ReviewerWorking,
  SettingAside,
  StrictnessView,
  TeacherAssessment,
} from './board.ts';
import type { OwnPeer } from './own.ts';
import type {
  OwnReview,
  PointAnswer,
  ReviewAnswer,
  ReviewChange,
  ReviewHandIn,
  ReviewNote,
  ReviewNoteChange,
  ReviewSaved,
} from './review.ts';
import type { NewSample, OwnSample, PeerSample, SampleChange, SampleRemoval, SampleSource } from './sample.ts';
import type { PeerChange, PeerSetting } from './setting.ts';

const SET = 'peer review set';
const DRAWN = 'reviewers drawn';

export const getPeerSetting = endpoint({
  method: 'get',
  path: '/courses/:courseId/items/:itemId/peer',
  needs: 'marking.see',
  answer: is<PeerSetting>(),
});

/** Once results are out they follow from what is set, so what that moves is seen first. */
export const changePeerSetting = endpoint({
  method: 'put',
  path: '/courses/:courseId/items/:itemId/peer',
  needs: 'plan.edit',
  movesGrades: true,
  body: is<PeerChange>(),
  answer: is<PeerSetting>(),
  audit: SET,
  undo: 'itself',
});

/** Reviews that were given keep the form they were given under. */
export const changePeerForm = endpoint({
  method: 'put',
  path: '/courses/:courseId/items/:itemId/peer/form',
  needs: 'plan.edit',
  movesGrades: true,
  body: is<RubricChange>(),
  answer: is<PeerSetting>(),
  audit: SET,
  undo: 'itself',
});

export const getPeerBoard = endpoint({
  method: 'get',
  path: '/courses/:courseId/items/:itemId/peer/board',
  needs: 'marking.see',
  answer: is<PeerBoard>(),
});

export const getPeerWork = endpoint({
  method: 'get',
  path: '/courses/:courseId/items/:itemId/peer/works/:workId',
  needs: 'marking.see',
  answer: is<PeerWork>(),
});

export const getReviewerWorking = endpoint({
  method: 'get',
  path: '/courses/:courseId/items/:itemId/peer/reviewers/:enrolmentId',
  needs: 'marking.see',
  answer: is<ReviewerWorking>(),
});

export const getStrictness = endpoint({
  method: 'get',
  path: '/courses/:courseId/items/:itemId/peer/strictness',
  needs: 'marking.see',
  answer: is<{ readonly effects: readonly StrictnessView[] }>(),
});

export const undoPeerDraw = endpoint({
  method: 'delete',
  path: '/courses/:courseId/items/:itemId/peer/draws/:drawId',
  needs: 'plan.edit',
  answer: is<PeerBoard>(),
  audit: DRAWN,
});

export const drawPeers = endpoint({
  method: 'post',
  path: '/courses/:courseId/items/:itemId/peer/draws',
  needs: 'plan.edit',
  body: is<PeerDraw>(),
  answer: is<PeerBoard>(),
  audit: DRAWN,
});

export const pairPeers = endpoint({
  method: 'post',
  path: '/courses/:courseId/items/:itemId/peer/pairs',
  needs: 'plan.edit',
  body: is<PeerPairing>(),
  answer: is<PeerBoard>(),
  audit: DRAWN,
});

export const unpairPeers = endpoint({
  method: 'delete',
  path: '/courses/:courseId/items/:itemId/peer/pairs/:reviewId',
  needs: 'plan.edit',
  answer: is<PeerBoard>(),
  audit: DRAWN,
});

export const setReviewAside = endpoint({
  method: 'put',
  path: '/courses/:courseId/items/:itemId/peer/reviews/:reviewId/aside',
  needs: 'marking.release',
  movesGrades: true,
  body: is<SettingAside>(),
  answer: is<PeerBoard>(),
  audit: 'review set aside',
  undo: 'itself',
});

export const assessPeerWork = endpoint({
  method: 'put',
  path: '/courses/:courseId/items/:itemId/peer/works/:workId/own',
  needs: 'marking.release',
  movesGrades: true,
  body: is<TeacherAssessment>(),
  answer: is<PeerWork>(),
  audit: 'work assessed beside its reviews',
  undo: 'itself',
});

/** Gives the results to the students, or brings those that are out up to date. */
export const givePeerResults = endpoint({
  method: 'post',
  path: '/courses/:courseId/items/:itemId/peer/results',
  needs: 'marking.release',
  movesGrades: true,
  answer: is<PeerBoard>(),
  audit: 'results of a peer review given',
  undo: { none: 'students have read them; a review can be set aside, and a result typed over' },
});

export const getOwnPeer = endpoint({
  method: 'get',
  path: '/courses/:courseId/items/:itemId/own-reviews',
  needs: 'work.own',
  answer: is<OwnPeer>(),
});

export const getOwnReview = endpoint({
  method: 'get',
  path: '/courses/:courseId/items/:itemId/own-reviews/:reviewId',
  needs: 'work.own',
  answer: is<OwnReview>(),
});

export const saveReview = endpoint({
  method: 'put',
  path: '/courses/:courseId/items/:itemId/own-reviews/:reviewId',
  needs: 'work.own',
  body: is<ReviewChange>(),
  answer: is<ReviewSaved>(),
  audit: { none: 'what is written before it is handed in is the reviewer’s own' },
  isSilent: true,
});

export const handInReview = endpoint({
  method: 'post',
  path: '/courses/:courseId/items/:itemId/own-reviews/:reviewId/hand-in',
  needs: 'work.own',
  body: is<ReviewHandIn>(),
  answer: is<OwnReview>(),
  audit: { none: 'the review itself says when it was handed in' },
  isSilent: true,
});

export const putReviewNote = endpoint({
  method: 'put',
  path: '/courses/:courseId/items/:itemId/own-reviews/:reviewId/notes/:noteId',
  needs: 'work.own',
  body: is<ReviewNoteChange>(),
  answer: is<{ readonly notes: readonly ReviewNote[] }>(),
  audit: { none: 'what is written before it is handed in is the reviewer’s own' },
  isSilent: true,
});

/** A file of the work that is reviewed, without what it says of its maker where names are hidden. */
export const getReviewedFile = endpoint({
  method: 'get',
  path: '/courses/:courseId/items/:itemId/own-reviews/:reviewId/files/:fileId',
  needs: 'work.own',
  query: asks({ download: 'flag' }),
  isStream: true,
});

/** The author’s word on a review: an answer, thanks, or that something is wrong with it. */
export const answerReview = endpoint({
  method: 'put',
  path: '/courses/:courseId/items/:itemId/received-reviews/:reviewId',
  needs: 'work.own',
  body: is<ReviewAnswer>(),
  answer: is<OwnPeer>(),
  audit: { none: 'it stands with the review' },
  isSilent: true,
});

/** Works of other courses that whoever asks teaches: those with leave first. */
export const listSampleSources = endpoint({
  method: 'get',
  path: '/courses/:courseId/items/:itemId/peer/sample-sources',
  needs: 'plan.edit',
  query: asks({ text: 'text' }),
  answer: is<{ readonly sources: readonly SampleSource[] }>(),
});

export const addPeerSample = endpoint({
  method: 'post',
  path: '/courses/:courseId/items/:itemId/peer/samples',
  needs: 'plan.edit',
  body: is<NewSample>(),
  answer: is<PeerSample>(),
  audit: SET,
});

export const getPeerSample = endpoint({
  method: 'get',
  path: '/courses/:courseId/items/:itemId/peer/samples/:sampleId',
  needs: 'marking.see',
  answer: is<PeerSample>(),
});

export const changePeerSample = endpoint({
  method: 'put',
  path: '/courses/:courseId/items/:itemId/peer/samples/:sampleId',
  needs: 'plan.edit',
  body: is<SampleChange>(),
  answer: is<PeerSample>(),
  audit: SET,
});

/** Takes a sample work away, or brings it back; what students made of it is kept. */
export const removePeerSample = endpoint({
  method: 'put',
  path: '/courses/:courseId/items/:itemId/peer/samples/:sampleId/removed',
  needs: 'plan.edit',
  body: is<SampleRemoval>(),
  answer: is<PeerSetting>(),
  audit: SET,
});

export const getOwnSample = endpoint({
  method: 'get',
  path: '/courses/:courseId/items/:itemId/own-samples/:sampleId',
  needs: 'work.own',
  answer: is<OwnSample>(),
});

export const saveOwnSample = endpoint({
  method: 'put',
  path: '/courses/:courseId/items/:itemId/own-samples/:sampleId',
  needs: 'work.own',
  body: is<ReviewChange>(),
  answer: is<ReviewSaved>(),
  audit: { none: 'practice is the student’s own' },
  isSilent: true,
});

/** Holds the student’s assessment against the teacher’s: from then on both stand side by side. */
export const compareOwnSample = endpoint({
  method: 'post',
  path: '/courses/:courseId/items/:itemId/own-samples/:sampleId/compare',
  needs: 'work.own',
  body: is<ReviewHandIn>(),
  answer: is<OwnSample>(),
  audit: { none: 'practice is the student’s own' },
  isSilent: true,
});

export const setOwnLeave = endpoint({
  method: 'put',
  path: '/courses/:courseId/items/:itemId/own-leave',
  needs: 'work.own',
  body: is<OwnLeave>(),
  answer: is<OwnPeer>(),
  audit: 'leave to show a work',
  isSilent: true,
});

export const answerPoint = endpoint({
  method: 'put',
  path: '/courses/:courseId/items/:itemId/received-reviews/:reviewId/points',
  needs: 'work.own',
  body: is<PointAnswer>(),
  answer: is<OwnPeer>(),
  audit: { none: 'it stands with the review' },
  isSilent: true,
});

export const getShownWork = endpoint({
  method: 'get',
  path: '/courses/:courseId/items/:itemId/shown-works/:workId',
  needs: 'work.own',
  answer: is<ShownWorkView>(),
});

/** A file of a work that is shown, without what it says of its maker where no name is shown. */
export const getShownFile = endpoint({
  method: 'get',
  path: '/courses/:courseId/items/:itemId/shown-works/:workId/files/:fileId',
  needs: 'work.own',
  query: asks({ download: 'flag' }),
  isStream: true,
});

/** Shows a work to the class, or hides it again. */
export const showPeerWork = endpoint({
  method: 'put',
  path: '/courses/:courseId/items/:itemId/peer/works/:workId/shown',
  needs: 'marking.release',
  body: is<ShowingWork>(),
  answer: is<PeerWork>(),
  audit: 'work shown to the class',
});

export const setClosingWord = endpoint({
  method: 'put',
  path: '/courses/:courseId/items/:itemId/peer/closing',
  needs: 'marking.release',
  body: is<ClosingWord>(),
  answer: is<{ readonly closing: ClosingWord }>(),
  audit: 'closing word of a peer review',
});

/** All reviews with their words as a table, as names are seen by whoever asks. */
export const getReviewsTable = endpoint({
  method: 'get',
  path: '/courses/:courseId/items/:itemId/peer/table',
  needs: 'marking.see',
  query: asks({ format: 'text' }),
  isStream: true,
});

/** One student’s works and reviews on paper: what they got and what they gave. */
export const getReviewsPaper = endpoint({
  method: 'get',
  path: '/courses/:courseId/items/:itemId/peer/paper/:enrolmentId',
  needs: 'marking.see',
  isStream: true,
});
