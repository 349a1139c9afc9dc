import { newShares, type NewShares, shareDraw, type SharesView } from '@rosemary/api';
import * as api from '@rosemary/api/endpoints';
import { findVeil, veiledId, veiledName } from '../anonymity/index.ts';
import { findWorkColumn, readFacts } from '../gradebook/index.ts';
import { invalid, notFound } from '../platform/errors.ts';
import { implement, type MemberContext, type Route } from '../platform/route.ts';
import { drawShares, makeSharesView, saveShares } from '../shares/index.ts';
import { listWorkGroups, listWorks, worksOf } from './works.ts';

interface Named {
  readonly id: string;
  readonly name: string;
  readonly sectionId: string | null;
  readonly mates: readonly string[];
}

/** The works of an item as whoever shares them out knows them: by name, or without. */
async function listNamedWorks(c: MemberContext<unknown>): Promise<{ works: Named[]; markers: 1 | 2 }> {
  const itemId = c.params.itemId ?? '';
  const facts = await readFacts(c.db, c.courseId, { seesVeiled: true });
  const column = findWorkColumn(facts, itemId);
  if (column === undefined) throw notFound();
  const veil = await findVeil(c.db, itemId, c.now);
  const works = worksOf(facts, column, await listWorks(c.db, c.courseId, itemId), await listWorkGroups(c.db, c.courseId, itemId)).map(
    (w): Named => {
      const { enrolmentId, givenName, familyName, sectionId } = w.person;
      const isVeiled = veil !== null && veil.isHidden(enrolmentId);
      const id = isVeiled ? veiledId(veil.key, enrolmentId) : enrolmentId;
      const name = isVeiled ? `Work ${veiledName(id)}` : w.mates.length > 1 && w.group !== '' ? w.group : `${givenName} ${familyName}`;
      return { id, name, sectionId, mates: w.mates.map((m) => m.enrolmentId) };
    },
  );
  return { works: works.sort((a, b) => a.name.localeCompare(b.name)), markers: column.markers };
}

export const shareRoutes: readonly Route[] = [
  implement(api.getShares, async (c): Promise<SharesView> =>
    makeSharesView(c.db, c.courseId, c.params.itemId, (await listNamedWorks(c)).works),
  ),
  implement(api.drawShares, shareDraw, async (c): Promise<NewShares> => {
    const { works, markers } = await listNamedWorks(c);
    return { shares: await drawShares(c.db, c.courseId, works, c.body, markers) };
  }),
  implement(api.saveShares, newShares, async (c): Promise<SharesView> => {
    const itemId = c.params.itemId;
    const { works, markers } = await listNamedWorks(c);
    const shares = c.body.shares.map((s) => {
      const work = works.find((w) => w.id === s.workId);
      if (work === undefined) throw invalid('shares', 'A work named is no longer here. Draw again.');
      return { mates: work.mates, markerIds: s.markerIds };
    });
    await saveShares(c.db, c.courseId, itemId, shares, markers);
    return makeSharesView(c.db, c.courseId, itemId, works);
  }),
];
