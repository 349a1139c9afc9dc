export { addGroupSet, listGroupNames, listGroups } from './queries.ts';
export { groupRoutes } from './routes.ts';
export { leaveGroup, moveToGroup } from './membership.ts';
export { listRemovedGroupSets, listTitlesOfGroupSets } from './removed.ts';
