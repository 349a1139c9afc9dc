import { bankRoutes } from './bank/routes.ts';
import { courseRoutes } from './course/routes.ts';
import { settingsRoutes } from './course/settingsRoutes.ts';
import { courseEventRoutes } from './course/events.ts';
import { deskRoutes } from './desk/routes.ts';
import { qtiRoutes } from './exchange/qtiRoutes.ts';
import { exchangeRoutes } from './exchange/routes.ts';
import { fileRoutes } from './files/routes.ts';
import { findRoutes } from './find/routes.ts';
import { groupRoutes } from './groups/routes.ts';
import { gradebookRoutes } from './gradebook/routes.ts';
import { keptRubricRoutes } from './marking/keptRubrics.ts';
import { remarkRoutes } from './marking/remarkRoutes.ts';
import { markingReleaseRoutes } from './marking/releaseRoutes.ts';
import { offlineRoutes } from './marking/offlineRoutes.ts';
import { togetherRoutes } from './marking/togetherRoutes.ts';
import { shareRoutes } from './marking/shareRoutes.ts';
import { markingRoutes } from './marking/routes.ts';
import { matchingRoutes } from './matching/routes.ts';
import { objectiveRoutes } from './objectives/routes.ts';
import { peopleRoutes } from './people/routes.ts';
import { planRoutes } from './plan/routes.ts';
import type { Route } from './platform/route.ts';
import { progressRoutes } from './progress/routes.ts';
import { ownQuizRoutes } from './quiz/ownRoutes.ts';
import { followUpRoutes } from './followUp/routes.ts';
import { paperTestRoutes } from './paperTest/routes.ts';
import { quizRoutes } from './quiz/routes.ts';
import { releaseRoutes } from './release/routes.ts';
import { rosterRoutes } from './roster/routes.ts';
import { schoolRoutes } from './school/routes.ts';
import { studentFileRoutes } from './student/fileRoutes.ts';
import { studentRoutes } from './student/routes.ts';
import { messageRoutes } from './talk/messageRoutes.ts';
import { talkRoutes } from './talk/routes.ts';

/** The whole route table: every address of the server with what it needs. */
export const routes: readonly Route[] = [
  ...peopleRoutes,
  ...deskRoutes,
  ...findRoutes,
  ...courseRoutes,
  ...settingsRoutes,
  ...courseEventRoutes,
  ...planRoutes,
  ...releaseRoutes,
  ...objectiveRoutes,
  ...fileRoutes,
  ...exchangeRoutes,
  ...qtiRoutes,
  ...studentRoutes,
  ...studentFileRoutes,
  ...talkRoutes,
  ...messageRoutes,
  ...groupRoutes,
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
  ...ownQuizRoutes,
  ...progressRoutes,
  ...rosterRoutes,
  ...schoolRoutes,
];
