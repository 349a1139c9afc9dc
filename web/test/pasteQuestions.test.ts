/** @jest-environment ../scripts/jsdomForJest.mjs */
import { flushPromises, type VueWrapper } from '@vue/test-utils';
import { setHooks } from '../src/platform/http.ts';
import PasteQuestions from '../src/quiz/PasteQuestions.vue';
import { listFromHtml } from '../src/quiz/pastedList.ts';
import { beginMounting, endMounting, makeTestRouter, show } from './mounting.ts';
import { fakeServer, quietHooks } from './server.ts';

beforeEach(() => {
  beginMounting();
  localStorage.clear();
  fakeServer();
  setHooks({ ...quietHooks });
});
afterEach(endMounting);

describe('a list copied from a document', () => {
  it('keeps bold keys, numbers that are only drawn, and low letters', () => {
    const html = `<ol><li>Which part <i>locks</i>?<ol style="list-style-type: upper-alpha"><li>roller</li><li><b>pallet </b></li></ol></li>
      <li>Water is <span style="font-weight:700">H<sub>2</sub>O</span></li></ol>`;
    expect(listFromHtml(html)).toBe('1. Which part <i>locks</i>?\na) roller\nb) <b>pallet</b>\n2. Water is <b>H<sub>2</sub>O</b>');
  });
  it('takes the letters a word processor writes before its lines, and what it marks by colour', () => {
    const html = `<html><head><style>p {}</style></head><body><!--StartFragment-->
      <p class="MsoListParagraph" style="mso-list:l0 level1 lfo1"><![if !supportLists]><span style="mso-list:Ignore">1.<span>&nbsp;&nbsp; </span></span><![endif]>Which?<o:p></o:p></p>
      <p style="mso-list:l0 level2 lfo1"><span style="mso-list:Ignore">A.<span>&nbsp;</span></span>this</p>
      <p style="mso-list:l0 level2 lfo1"><span style="mso-list:Ignore">B.<span>&nbsp;</span></span><span style="background:yellow">that</span></p>
      <!--EndFragment--></body></html>`;
    expect(listFromHtml(html)).toBe('1. Which?\nA. this\nB. <b>that</b>');
  });
  it('parts the columns of a table', () => {
    expect(
      listFromHtml(
        '<p>1. Match.</p><table><tr><td><p>lever</p></td><td>locks</td></tr><tr><td>balance</td><td>keeps time</td></tr></table>',
      ),
    ).toBe('1. Match.\nlever\tlocks\nbalance\tkeeps time');
  });
  it('is pasted as it is where it has no styles, and a weight that means none is none', () => {
    expect(listFromHtml('<p>1. Which?</p><p>A. this</p>')).toBeNull();
    expect(listFromHtml('<b style="font-weight:normal"><p>1. Which?</p></b>')).toBe('1. Which?');
    expect(listFromHtml('<p>a<br>b <em>c</em></p>')).toBe('a\nb <i>c</i>');
  });
});

const LIST =
  '1. Which part locks? [2 marks]\nA. pallet\nB. roller\n2. The roller drives the train. (F)\n3. What holds?\nAnswer: lever\nPart B: Essay\n4. Why?';
describe('a list of questions that is pasted', () => {
  const at = (shown: VueWrapper, n: number) => shown.findAll('ol.found > li')[n]!;
  const open = async (make: (questions: unknown) => Promise<boolean> = () => Promise.resolve(true)): Promise<VueWrapper> => {
    const shown = await show(PasteQuestions, { make }, makeTestRouter());
    await flushPromises();
    return shown;
  };
  const button = (shown: VueWrapper, words: string) => shown.findAll('button').find((b) => b.text().startsWith(words))!;

  it('shows every question with its key, counts what lacks what, and says what is left out', async () => {
    const shown = await open();
    await shown.find('textarea').setValue(LIST);
    expect(shown.findAll('ol.found > li')).toHaveLength(4);
    expect(at(shown, 1).find('.right').text()).toBe('False');
    expect((at(shown, 2).find('.answer input').element as HTMLInputElement).value).toBe('lever');
    expect(shown.find('.sum').text()).toContain('4 questions, 5 points · 1 lacks something');
    expect(at(shown, 0).text()).toContain('No answer is marked as right.');
    expect(shown.text()).toContain('Left out as a title: “Part B: Essay”');
  });

  it('has its key, its points and its answers mended beside the list, and is made with them', async () => {
    const made: { points?: number; key: { kind: string; choices?: { share: number }[]; rules?: { accepted: { text: string }[] } } }[][] =
      [];
    const shown = await open((questions) => {
      made.push(questions as never);
      return Promise.resolve(true);
    });
    await shown.find('textarea').setValue(LIST);
    await at(shown, 0).find('input[aria-label="Right: roller"]').setValue(true);
    await flushPromises();
    const points = at(shown, 1).find('input[aria-label="Points of question 2"]');
    await points.setValue('1.5');
    await points.trigger('change');
    const answer = at(shown, 2).find('.answer input');
    await answer.setValue('lever; fork');
    await answer.trigger('change');
    expect(shown.find('.sum').text()).toContain('4 questions, 5.5 points');
    expect(shown.text()).not.toContain('No answer is marked');
    // What was changed is kept with the list.
    shown.unmount();
    const again = await open((questions) => {
      made.push(questions as never);
      return Promise.resolve(true);
    });
    await button(again, 'Make 4 questions').trigger('click');
    await flushPromises();
    expect(made[0]?.map((q) => [q.key.kind, q.points ?? null])).toEqual([
      ['single', 2000],
      ['truth', 1500],
      ['short', null],
      ['essay', null],
    ]);
    expect(made[0]?.[0]?.key.choices?.map((c) => c.share)).toEqual([0, 100_000]);
    expect(made[0]?.[2]?.key.rules?.accepted.map((a) => a.text)).toEqual(['lever', 'fork']);
    expect((again.find('textarea').element as HTMLTextAreaElement).value).toBe('');
  });

  it('stays with all that was typed where it could not be made', async () => {
    const shown = await open(() => Promise.resolve(false));
    await shown.find('textarea').setValue(LIST);
    await button(shown, 'Make 4 questions').trigger('click');
    await flushPromises();
    expect((shown.find('textarea').element as HTMLTextAreaElement).value).toBe(LIST);
  });

  it('is refused points that are none, and leads from one question to look at to the next', async () => {
    const shown = await open();
    await shown.find('textarea').setValue(`${LIST}\n5. Which?\n**A. a**\n**B. b**\nC. c`);
    const points = at(shown, 1).find('input[aria-label="Points of question 2"]');
    await points.setValue('many');
    await points.trigger('change');
    expect(at(shown, 1).find('[role=alert]').text()).toContain('“many” is not a number of points');
    expect(shown.find('.sum').text()).toContain('1 lacks something · 1 to look at');
    for (const id of ['pasted-0', 'pasted-4', 'pasted-0']) {
      await button(shown, 'Next to look at').trigger('click');
      await flushPromises();
      expect(document.activeElement?.closest('li[id]')?.id).toBe(id);
    }
  });

  it('makes at most 200 at once, and says so', async () => {
    const shown = await open();
    await shown.find('textarea').setValue(Array.from({ length: 201 }, (_, n) => `${n + 1}. Why ${n}?`).join('\n'));
    expect(button(shown, 'Make 201 questions').attributes('disabled')).toBeDefined();
    expect(shown.text()).toContain('At most 200 are made at once.');
  });
});
