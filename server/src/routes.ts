import { announcementRoutes } from './announcements/index.ts';
import { bankRoutes } from './bankSearch/index.ts';
import { calendarRoutes } from './calendar/index.ts';
import { courseEventRoutes, settingsRoutes } from './course/index.ts';
import { courseRoutes } from './courseHome/index.ts';
import { dateSheetRoutes } from './dateSheet/index.ts';
import { deskRoutes } from './desk/index.ts';
import { discussionRoutes } from './discussions/index.ts';
import { exchangeRoutes, qtiRoutes } from './exchange/index.ts';
import { fileReachRoutes } from './fileReach/index.ts';
import { fileRoutes } from './files/index.ts';
import { findRoutes } from './find/index.ts';
import { followUpRoutes } from './followUp/index.ts';
import { givingRoutes } from './giving/index.ts';
import { gradebookRoutes, keptSchemeRoutes, readStandings } from './gradebook/index.ts';
import { groupRoutes } from './groups/index.ts';
import { historyRoutes } from './history/index.ts';
import { studentFileRoutes } from './handIn/index.ts';
import { quizRoutes } from './kinds/quiz/index.ts';
import { markingRoutes, matchingRoutes, shareRoutes, togetherRoutes } from './marking/index.ts';
import { markingReleaseRoutes } from './markRelease/index.ts';
import { remarkRoutes, settingInUseRoutes } from './marks/index.ts';
import { messageRoutes } from './messages/index.ts';
import { noticeRoutes } from './notices/index.ts';
import { objectiveRoutes } from './objectives/index.ts';
import { offlineRoutes } from './offline/index.ts';
import { studentRoutes } from './own/index.ts';
import { paperTestRoutes } from './paperTest/index.ts';
import { peerRoutes } from './peer/index.ts';
import { peopleRoutes } from './people/index.ts';
import { planRoutes, releaseRoutes } from './plan/index.ts';
import type { Route } from './platform/route.ts';
import { progressRoutes } from './progress/index.ts';
import { quizResultRoutes } from './quizResults/index.ts';
import { ownQuizRoutes } from './quizTaking/index.ts';
import { rosterRoutes } from './roster/index.ts';
import { handoverRoutes } from './handover/index.ts';
import { keptRubricRoutes } from './rubric/index.ts';
import { sectionRoutes } from './sections/index.ts';
import { schoolRoutes } from './school/index.ts';

/** The whole route table: every address of the server with what it needs. */
export const routes: readonly Route[] = [
  ...peopleRoutes,
  ...dateSheetRoutes,
  ...givingRoutes,
  ...deskRoutes,
  ...findRoutes,
  ...courseRoutes,
  ...settingsRoutes,
  ...historyRoutes,
  ...sectionRoutes,
  ...courseEventRoutes,
  ...planRoutes,
  ...settingInUseRoutes,
  ...releaseRoutes,
  ...objectiveRoutes,
  ...fileRoutes,
  ...fileReachRoutes,
  ...exchangeRoutes,
  ...qtiRoutes,
  ...studentRoutes,
  ...studentFileRoutes,
  ...announcementRoutes,
  ...discussionRoutes,
  ...calendarRoutes,
  ...noticeRoutes,
  ...messageRoutes,
  ...groupRoutes(readStandings),
  ...matchingRoutes,
  ...markingReleaseRoutes,
  ...shareRoutes,
  ...togetherRoutes,
  ...offlineRoutes,
  ...markingRoutes,
  ...peerRoutes,
  ...handoverRoutes,
  ...keptRubricRoutes,
  ...keptSchemeRoutes,
  ...remarkRoutes,
  ...gradebookRoutes,
  ...bankRoutes,
  ...followUpRoutes,
  ...paperTestRoutes,
  ...quizRoutes,
  ...quizResultRoutes,
  ...ownQuizRoutes,
  ...progressRoutes,
  ...rosterRoutes,
  ...schoolRoutes,
];
