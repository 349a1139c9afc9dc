import { newSection, sectionChange, sectionJoin, sectionParting } from '@rosemary/api';
import * as api from '@rosemary/api/endpoints';
import { getSettings } from '../course/index.ts';
import { implement, type Route } from '../platform/route.ts';
import { addSection, changeSection, joinSection, partAgain, removeSection } from './sections.ts';

export const sectionRoutes: readonly Route[] = [
  implement(api.addSection, newSection, (c) => addSection(c.db, c.courseId, c.body, c.now)),
  implement(api.changeSection, sectionChange, async (c) => {
    await changeSection(c.db, c.courseId, c.params.sectionId, c.body);
    return getSettings(c.db, c.courseId);
  }),
  implement(api.joinSection, sectionJoin, (c) => joinSection(c.db, c.courseId, c.params.sectionId, c.body.into, c.now)),
  implement(api.partSections, sectionParting, (c) => partAgain(c.db, c.courseId, c.body.actId, c.now)),
  implement(api.removeSection, (c) => removeSection(c.db, c.courseId, c.params.sectionId, c.now)),
];
