import fc from 'fast-check';
import { countChanges, differences, type Difference } from './differences.ts';

const text = (before: string, after: string, kinds: readonly Difference['kind'][]): string =>
  differences(before, after)
    .flatMap((p) => {
      const own = p.parts.filter((part) => kinds.includes(part.kind));
      return own.length === 0 ? [] : [own.map((part) => part.text).join('')];
    })
    .join('\n');
const marks = (before: string, after: string): string[] =>
  differences(before, after).map((p) =>
    p.parts.map((part) => (part.kind === 'same' ? part.text : `${part.kind === 'added' ? '+' : '-'}[${part.text}]`)).join(''),
  );

describe('what changed between two texts', () => {
  it.each([
    ['a b', 'a c', ['a -[b]+[c]']],
    ['one\ntwo', 'one\ntwo', ['one', 'two']],
    ['one', 'one\ntwo', ['one', '+[two]']],
    ['one\ntwo', 'two', ['-[one]', 'two']],
    [
      'The barrel arbor is scored.\nNothing else was found.',
      'The barrel arbor is badly scored.\nAmplitude is low at once.',
      ['The barrel arbor is +[badly ]scored.', '+[Amplitude is low at once.]', '-[Nothing else was found.]'],
    ],
    ['', 'all new', ['-[]', '+[all new]']],
  ])('%j → %j', (before, after, shown) =>
    expect(marks(before, after).filter((m) => m !== '-[]')).toEqual(shown.filter((m) => m !== '-[]')),
  );

  it('what stayed and came is the new text, what stayed and went the old one', () => {
    const word = fc.constantFrom('wheel', 'pinion', 'the', 'of', 'jewel,', 'worn');
    const paragraph = fc.array(word, { minLength: 1, maxLength: 8 }).map((w) => w.join(' '));
    const document = fc.array(paragraph, { minLength: 1, maxLength: 6 }).map((p) => p.join('\n'));
    fc.assert(
      fc.property(document, document, (before, after) => {
        expect(text(before, after, ['same', 'added'])).toBe(after);
        expect(text(before, after, ['same', 'removed'])).toBe(before);
        expect(differences(before, before).every((p) => !p.isChanged)).toBe(true);
      }),
    );
  });

  it('says of each paragraph what became of it: replaced, added, deleted, or moved', () => {
    const before = 'The barrel arbor is scored.\nThe train is clean.\nThe dial is whole.\nOil has run.\nIt strikes behind.';
    const after = 'It strikes behind.\nThe barrel arbor is badly scored.\nThe train is clean.\nThe dial is whole.\nA jewel is cracked.';
    const found = differences(before, after);
    const changes = found.map((p) => [p.change, p.parts.map((part) => part.text).join('')]);
    expect(changes).toContainEqual(['moved', 'It strikes behind.']);
    expect(changes).toContainEqual(['moved away', 'It strikes behind.']);
    expect(changes).toContainEqual(['deleted', 'Oil has run.']);
    expect(changes).toContainEqual(['added', 'A jewel is cracked.']);
    expect(countChanges(found)).toEqual({ replaced: 1, added: 1, deleted: 1, moved: 1 });
    // The same paragraph twice: as many moved as went.
    expect(countChanges(differences('a\nb\nc', 'b\nc\na\na'))).toEqual({ replaced: 0, added: 1, deleted: 0, moved: 1 });
  });
});
