/** @jest-environment ../scripts/jsdomForJest.mjs */
import { flushPromises } from '@vue/test-utils';
import LedgerChecks from '../src/school/LedgerChecks.vue';
import { setHooks } from '../src/platform/http.ts';
import { beginMounting, endMounting, show } from './mounting.ts';
import { fakeServer, quietHooks, Refusal } from './server.ts';

let server: ReturnType<typeof fakeServer>;
beforeEach(() => {
  beginMounting();
  setHooks(quietHooks);
  server = fakeServer();
});
afterEach(endMounting);

const open = async () => {
  const shown = await show(LedgerChecks, {});
  await flushPromises();
  return shown;
};
const check = (more: object = {}) => ({ at: '2026-11-18T02:00:00Z', cells: 120, differing: 0, examples: [], ...more });

describe('the ledger of grades, for the administrator', () => {
  it('says that it comes to what is kept, or that it was not looked at yet', async () => {
    server.on('GET /school/ledger', () => ({ checks: [] }));
    expect((await open()).text()).toContain('It has not been compared with the grades yet');
    server.on('GET /school/ledger', () => ({ checks: [check()] }));
    expect((await open()).text()).toContain('replayed, it comes to every one of the 120 grades that are kept.');
  });

  it('names what differs after it is compared now', async () => {
    server.on('GET /school/ledger', () => ({ checks: [check()] }));
    server.on('POST /school/ledger', () => ({
      checks: [check({ differing: 1, examples: ['scored 30 in the ledger, scored 59 kept (Report, Abiola, Tunde)'] })],
    }));
    const shown = await open();
    await shown
      .findAll('button')
      .find((b) => b.text() === 'Compare now')!
      .trigger('click');
    await flushPromises();
    expect(shown.text()).toContain('1 of 120 grades differ from it.');
    expect(shown.text()).toContain('scored 59 kept (Report');
  });

  it('says why it cannot be read', async () => {
    server.on('GET /school/ledger', () => new Refusal(503, 'database-away', { detail: 'The database does not answer.' }));
    expect((await open()).text()).toContain('The database does not answer.');
  });
});
