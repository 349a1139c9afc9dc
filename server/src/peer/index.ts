export { drawReviewers, givePeerResults } from './jobs.ts';
export { peerRoutes } from './routes.ts';
export { draw } from './draw.ts';
export { handInReview, saveReview } from './give.ts';
export { readReviewing, type Reviewing } from './own.ts';
export { readPeer } from './readPeer.ts';
export { recordPeerResults } from './results.ts';
export { getSettingView } from './settingView.ts';
export { listReviewsDue } from './reviewsDue.ts';
