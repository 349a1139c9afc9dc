import { offerRemarks, STARTER_REMARKS, type RemarkFacts } from './remarks.ts';

const remark = (shortcut: string, body: string, more: Partial<RemarkFacts> = {}): RemarkFacts => ({
  id: shortcut,
  body,
  criterion: '',
  shortcut,
  uses: 0,
  ...more,
});
const offered = (remarks: readonly RemarkFacts[], typed: string, criterion = ''): string[] =>
  offerRemarks(remarks, typed, criterion).map((r) => r.shortcut);

describe('remarks offered for what is typed', () => {
  const all = [
    remark('long', 'How long is it?'),
    remark('how', 'What makes you sure?'),
    remark('howl', 'A third thing'),
    remark('unit', 'In which unit, Zoë?', { uses: 4 }),
    remark('limit', 'Give the limit.', { criterion: 'Evidence', uses: 1 }),
  ];
  it.each([
    ['how', '', ['how', 'howl', 'long']],
    ['HOW ', '', ['how', 'howl', 'long']],
    ['long how', '', ['long']],
    ['zoe', '', ['unit']],
    ['evidence', '', ['limit']],
    ['nothing of the kind', '', []],
    ['', '', ['unit', 'limit', 'howl', 'long', 'how']],
    ['', 'Evidence', ['limit', 'unit', 'howl', 'long', 'how']],
  ])('%j with the criterion %j', (typed, criterion, shortcuts) => expect(offered(all, typed, criterion)).toEqual(shortcuts));

  it('to begin with are each called by letters of their own', () => {
    const calls = STARTER_REMARKS.map((r) => r.shortcut);
    expect(new Set(calls).size).toBe(calls.length);
    expect(calls.every((call) => /^[a-z0-9]{1,6}$/.test(call))).toBe(true);
  });
});
