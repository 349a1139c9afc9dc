/** The code of a course, and of its run: up to 20 letters, digits, single spaces, points and hyphens. */
export const COURSE_CODE = /^(?!.* {2})[A-Za-z0-9](?:[A-Za-z0-9 .-]{0,18}[A-Za-z0-9.-])?$/;
