export {
  drawShares,
  listAllShares,
  listMarkers,
  listShares,
  makeSharesView,
  reachesWork,
  saveShares,
  scopeOf,
  type Shares,
} from './shares.ts';
