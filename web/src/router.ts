import { createRouter, createWebHistory, type RouteRecordRaw } from 'vue-router';

const course: RouteRecordRaw[] = [
  { path: 'plan', name: 'plan', component: () => import('./plan/PlanPage.vue') },
  { path: 'programme', name: 'programme', component: () => import('./course/ProgrammePage.vue') },
  { path: 'carry', name: 'carry', component: () => import('./plan/CarryPage.vue') },
  { path: 'check', name: 'check', component: () => import('./plan/CheckPage.vue') },
  { path: 'items/:itemId', name: 'item', component: () => import('./plan/ItemPage.vue') },
  { path: 'time', name: 'time', component: () => import('./plan/TimePage.vue') },
  { path: 'objectives', name: 'objectives', component: () => import('./objectives/ObjectivesPage.vue') },
  { path: 'files', name: 'files', component: () => import('./files/FilesPage.vue') },
  { path: 'announcements', name: 'announcements', component: () => import('./talk/AnnouncementsPage.vue') },
  { path: 'calendar', name: 'calendar', component: () => import('./talk/CalendarPage.vue') },
  { path: 'marking', name: 'marking', component: () => import('./marking/MarkingPage.vue') },
  { path: 'gradebook', name: 'gradebook', component: () => import('./gradebook/GradebookPage.vue') },
  { path: 'policy', name: 'policy', component: () => import('./gradebook/PolicyPage.vue') },
  { path: 'progress', name: 'progress', component: () => import('./progress/ProgressPage.vue') },
  { path: 'roster', name: 'roster', component: () => import('./roster/RosterPage.vue') },
  { path: 'exchange', name: 'exchange', component: () => import('./exchange/ExchangePage.vue') },
  { path: 'settings', name: 'settings', component: () => import('./course/SettingsPage.vue') },
  { path: 'week', name: 'own-week', component: () => import('./student/ThisWeekPage.vue') },
  { path: 'study', name: 'study', component: () => import('./student/CoursePage.vue') },
  { path: 'study/:itemId', name: 'study-item', component: () => import('./student/StudyItemPage.vue') },
  { path: 'grades', name: 'grades', component: () => import('./student/GradesPage.vue') },
];

export const router = createRouter({
  history: createWebHistory(),
  routes: [
    { path: '/', name: 'desk', component: () => import('./desk/DeskPage.vue') },
    { path: '/sign-in', name: 'sign-in', component: () => import('./people/SignInPage.vue') },
    { path: '/this-week', name: 'this-week', component: () => import('./student/ThisWeekPage.vue') },
    { path: '/calendar', name: 'all-calendar', component: () => import('./talk/CalendarPage.vue') },
    { path: '/outbox', name: 'outbox', component: () => import('./talk/OutboxPage.vue') },
    { path: '/school', name: 'school', component: () => import('./school/SchoolPage.vue') },
    { path: '/school/lists', name: 'school-lists', component: () => import('./school/ListsPage.vue') },
    { path: '/welcome/:token', name: 'welcome', component: () => import('./people/WelcomePage.vue') },
    { path: '/about/:publicId', name: 'about', component: () => import('./course/AboutPage.vue') },
    { path: '/courses/new', name: 'new-course', component: () => import('./course/NewCoursePage.vue') },
    { path: '/courses/:courseId', component: () => import('./shell/CourseFrame.vue'), children: course },
    { path: '/courses/:courseId/marking/:itemId/:enrolmentId?', name: 'work', component: () => import('./marking/WorkPage.vue') },
    { path: '/:rest(.*)*', name: 'nothing', component: () => import('./shell/NothingPage.vue') },
  ],
});
