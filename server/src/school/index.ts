export { changeTaskTypes } from './progressSetting.ts';
export { schoolRoutes } from './routes.ts';
