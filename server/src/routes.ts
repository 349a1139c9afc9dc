import { bankRoutes } from './bankSearch/routes.ts';
import { courseEventRoutes } from './course/events.ts';
import { settingsRoutes } from './course/settingsRoutes.ts';
import { courseRoutes } from './courseHome/routes.ts';
import { deskRoutes } from './desk/routes.ts';
import { qtiRoutes } from './exchange/qtiRoutes.ts';
import { exchangeRoutes } from './exchange/routes.ts';
import { fileRoutes } from './files/routes.ts';
import { findRoutes } from './find/routes.ts';
import { followUpRoutes } from './followUp/routes.ts';
import { gradebookRoutes } from './gradebook/routes.ts';
import { groupRoutes } from './groups/routes.ts';
import { studentFileRoutes } from './handIn/fileRoutes.ts';
import { matchingRoutes } from './marking/matchingRoutes.ts';
import { markingRoutes } from './marking/routes.ts';
import { shareRoutes } from './marking/shareRoutes.ts';
import { togetherRoutes } from './marking/togetherRoutes.ts';
import { markingReleaseRoutes } from './markRelease/routes.ts';
import { remarkRoutes } from './marks/remarkRoutes.ts';
import { messageRoutes } from './messages/routes.ts';
import { objectiveRoutes } from './objectives/routes.ts';
import { offlineRoutes } from './offline/routes.ts';
import { studentRoutes } from './own/routes.ts';
import { paperTestRoutes } from './paperTest/routes.ts';
import { peopleRoutes } from './people/routes.ts';
import { releaseRoutes } from './plan/openingRoutes.ts';
import { planRoutes } from './plan/routes.ts';
import type { Route } from './platform/route.ts';
import { progressRoutes } from './progress/routes.ts';
import { quizRoutes } from './quiz/routes.ts';
import { ownQuizRoutes } from './quizTaking/ownRoutes.ts';
import { rosterRoutes } from './roster/routes.ts';
import { keptRubricRoutes } from './rubric/keptRubrics.ts';
import { schoolRoutes } from './school/routes.ts';
import { announcementRoutes } from './announcements/routes.ts';
import { calendarRoutes } from './calendar/routes.ts';
import { discussionRoutes } from './discussions/routes.ts';
import { noticeRoutes } from './notices/routes.ts';
import { fileReachRoutes } from './fileReach/routes.ts';
import { readStandings } from './gradebook/standings.ts';
import { settingInUseRoutes } from './marks/settingRoutes.ts';
import { quizResultRoutes } from './quizResults/routes.ts';

/** The whole route table: every address of the server with what it needs. */
export const routes: readonly Route[] = [
  ...peopleRoutes,
  ...deskRoutes,
  ...findRoutes,
  ...courseRoutes,
  ...settingsRoutes,
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
  ...keptRubricRoutes,
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
