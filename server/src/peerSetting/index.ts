export { copyPeers } from './copyPeer.ts';
export { findPeer, NEW_PEER, type Peer } from './findPeer.ts';
export { PEER_PARTS } from './parts.ts';
export { savePeer, savePeerForm } from './savePeer.ts';
