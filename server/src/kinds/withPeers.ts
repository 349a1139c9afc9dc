import { bringPeer, copyPeers, findPeer, PEER_PARTS, readOutPeers } from '../peerSetting/index.ts';
import type { ServedKind } from './servedKind.ts';

/** A kind of item whose works other students can review: what is set of that is copied, shown and archived with each item. */
export const withPeers = (kind: ServedKind): ServedKind => ({
  ...kind,
  parts: { ...kind.parts, ...PEER_PARTS },
  copy: async (copying) => {
    await kind.copy(copying);
    await copyPeers(copying);
  },
  detail: async (db, itemId) => ({ ...(await kind.detail(db, itemId)), hasPeers: (await findPeer(db, itemId))?.isOn === true }),
  readOut: async (db, itemIds) => {
    const [own, peers] = [await kind.readOut(db, itemIds), await readOutPeers(db, itemIds)];
    return { ...own, items: new Map([...own.items].map(([id, item]) => [id, { ...item, peer: peers.get(id) ?? null }])) };
  },
  bring: async (bringing, item) => {
    await kind.bring(bringing, item);
    const { db, courseId, itemId, moved, now } = bringing;
    if (item.peer !== null) await bringPeer(db, courseId, itemId, item.peer, moved, now);
  },
});
