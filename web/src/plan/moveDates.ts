/** By itself, so that the Plan loads the arithmetic of dates only when something is moved. */
export { moveDates } from '@rosemary/core';
