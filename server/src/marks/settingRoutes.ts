import { assignmentChange, instructionsChange, rubricChange } from '@rosemary/api';
import * as api from '@rosemary/api/endpoints';
import { findAssignment, saveAssignment, saveRubric } from '../kinds/assignment/index.ts';
import { implement, type Route } from '../platform/route.ts';
import { findRubric } from '../rubric/index.ts';
import { followCounting } from './followCounting.ts';
import { changeRubricInUse } from './followRubric.ts';

export const settingInUseRoutes: readonly Route[] = [
  implement(api.saveAssignment, assignmentChange, async (c) => {
    const id = c.params.itemId;
    const { version } = await saveAssignment(c.db, c.courseId, id, c.body, c.person.personId, c.now);
    if (c.body.counted !== undefined) await followCounting(c.db, id, c.body.counted, c.person.personId, c.now);
    return { version };
  }),
  implement(api.saveInstructions, instructionsChange, (c) =>
    saveAssignment(c.db, c.courseId, c.params.itemId, c.body, c.person.personId, c.now),
  ),
  implement(api.saveRubric, rubricChange, async (c) => {
    const id = c.params.itemId;
    const { followed, kept } = await changeRubricInUse(c.db, id, c.person.personId, c.now, () =>
      saveRubric(c.db, c.courseId, id, c.body, c.now),
    );
    c.account({ after: { followed, kept } });
    return { rubric: await findRubric(c.db, (await findAssignment(c.db, id))?.rubricId ?? null), followed, kept };
  }),
];
