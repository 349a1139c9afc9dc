export { bringPeer, readOutPeers } from './archivePeer.ts';
export { copyPeers } from './copyPeer.ts';
export { findPeer, listMarkedByPeers, NEW_PEER, type Peer } from './findPeer.ts';
export { PEER_PARTS } from './parts.ts';
export { addSample, getSample, listSamples, type Sample, saveSample, setSampleRemoved, unjudgedOf, wordsOfDocument } from './samples.ts';
export { noteDrawn, noteNothingDrawn, noteResultsOut, saveClosing, savePeer, savePeerForm } from './savePeer.ts';
