/** @jest-environment ../scripts/jsdomForJest.mjs */
import { flushPromises, type VueWrapper } from '@vue/test-utils';
import { defineComponent, h, nextTick, ref, type Component } from 'vue';
import ActButton from '../src/parts/ActButton.vue';
import ActionMenu from '../src/parts/ActionMenu.vue';
import CellField from '../src/parts/CellField.vue';
import DragList from '../src/parts/DragList.vue';
import FloatMenu from '../src/parts/FloatMenu.vue';
import FoldOut from '../src/parts/FoldOut.vue';
import PlainTable from '../src/parts/PlainTable.vue';
import ProgressBar from '../src/parts/ProgressBar.vue';
import ChoiceField from '../src/parts/fields/ChoiceField.vue';
import LineField from '../src/parts/fields/LineField.vue';
import PickMark from '../src/parts/fields/PickMark.vue';
import SearchChoice from '../src/parts/fields/SearchChoice.vue';
import TextField from '../src/parts/fields/TextField.vue';
import TickBox from '../src/parts/fields/TickBox.vue';
import ZoneChoice from '../src/parts/fields/ZoneChoice.vue';
import { keyOf, readChoices } from '../src/parts/fields/choices.ts';
import type { Typing } from '../src/parts/fields/typing.ts';
import FileInput from '../src/parts/media/FileInput.vue';
import { beginMounting, endMounting, showPart } from './mounting.ts';
import { until } from './server.ts';

beforeEach(beginMounting);
afterEach(endMounting);

const titles = (field: { readonly props: (name: 'items') => unknown }): string[] =>
  (field.props('items') as { title: string }[]).map((i) => i.title);
/** A page that holds a part as pages do: by a template of its own, which may change. */
const page = (render: () => unknown): Promise<VueWrapper> => showPart(defineComponent({ render }) as Component);
const valueOf = (shown: VueWrapper, selector = 'input'): string => (shown.find(selector).element as HTMLInputElement).value;

describe('a button', () => {
  it('does what it says, sends no form unless it is told to, and rests while it is off', async () => {
    const done: string[] = [];
    const isOff = ref(false);
    const shown = await page(() => h(ActButton, { look: 'go', disabled: isOff.value, onClick: () => done.push('done') }, () => 'Hand in'));
    const button = shown.find('button');
    expect([button.text(), button.attributes('type'), button.classes().includes('go')]).toEqual(['Hand in', 'button', true]);
    await button.trigger('click');
    isOff.value = true;
    await nextTick();
    await button.trigger('click');
    expect([done, button.attributes('disabled')]).toEqual([['done'], '']);
  });

  it('sends the form it stands in where it is of that type', async () => {
    const shown = await page(() => h(ActButton, { type: 'submit' }, () => 'Add'));
    expect(shown.find('button').attributes('type')).toBe('submit');
  });
});

describe('a line to type in', () => {
  it('is its model, and tells of a change as any field does', async () => {
    const text = ref('Going');
    const left: string[] = [];
    const shown = await page(() =>
      h(LineField, {
        modelValue: text.value,
        'onUpdate:modelValue': (typed: string) => (text.value = typed),
        onChange: (event: Event) => left.push((event.target as HTMLInputElement).value),
        maxlength: 20,
        'aria-label': 'Title',
      }),
    );
    const input = shown.find('input');
    expect([valueOf(shown), input.attributes('maxlength'), input.attributes('aria-label')]).toEqual(['Going', '20', 'Title']);
    await input.setValue('Going train');
    expect([text.value, left.at(-1)]).toEqual(['Going train', 'Going train']);
    text.value = 'From elsewhere';
    await nextTick();
    expect(valueOf(shown)).toBe('From elsewhere');
  });

  it('keeps what is typed where nobody holds its model', async () => {
    const shown = await page(() => h(LineField, { modelValue: 'as it was' }));
    await shown.find('input').setValue('as it is');
    expect(valueOf(shown)).toBe('as it is');
  });

  it('is a number where one is asked for, as far as what is typed is one', async () => {
    const typed: unknown[] = [];
    const shown = await page(() =>
      h(LineField, { modelValue: 4, modelModifiers: { number: true }, 'onUpdate:modelValue': (v: unknown) => typed.push(v) }),
    );
    await shown.find('input').setValue('12');
    await shown.find('input').setValue('many');
    expect(typed).toEqual([12, 'many']);
  });

  it('takes the caret when it comes, with its words selected where that is asked', async () => {
    const shown = await page(() => h(LineField, { modelValue: 'Bench', takesFocus: 'all' }));
    const input = shown.find('input').element as HTMLInputElement;
    expect(document.activeElement).toBe(input);
    expect(input.value.slice(input.selectionStart ?? 0, input.selectionEnd ?? 0)).toBe('Bench');
  });

  it('gives its role to the input alone, and its caret to whoever holds it', async () => {
    const held = ref<Typing | null>(null);
    const shown = await page(() => h(LineField, { ref: held, modelValue: '', inputRole: 'combobox' }));
    expect(shown.findAll('[role="combobox"]')).toHaveLength(1);
    held.value?.focus();
    expect(document.activeElement).toBe(shown.find('input').element);
    held.value?.blur();
    expect(document.activeElement).not.toBe(shown.find('input').element);
  });
});

describe('several lines to type in', () => {
  it('are their model, and can take the caret', async () => {
    const text = ref('one');
    const shown = await page(() =>
      h(TextField, {
        modelValue: text.value,
        takesFocus: true,
        'onUpdate:modelValue': (typed: string | null) => (text.value = typed ?? ''),
      }),
    );
    expect(document.activeElement).toBe(shown.find('textarea').element);
    await shown.find('textarea').setValue('one\ntwo');
    expect(text.value).toBe('one\ntwo');
  });
});

describe('a tick', () => {
  it('is on or off', async () => {
    const isOn = ref(false);
    const shown = await page(() =>
      h(TickBox, { modelValue: isOn.value, 'aria-label': 'counts', 'onUpdate:modelValue': (on: boolean) => (isOn.value = on) }),
    );
    await shown.find('input').setValue(true);
    expect(isOn.value).toBe(true);
    await shown.find('input').setValue(false);
    expect(isOn.value).toBe(false);
  });

  it('puts its value into a list and takes it out again', async () => {
    const list = ref(['a']);
    const shown = await page(() =>
      h(TickBox, { modelValue: list.value, value: 'b', 'onUpdate:modelValue': (now: string[]) => (list.value = now) } as never),
    );
    await shown.find('input').setValue(true);
    expect(list.value).toEqual(['a', 'b']);
    await shown.find('input').setValue(false);
    expect(list.value).toEqual(['a']);
  });
});

describe('marks of which one is picked', () => {
  const marks = (picked: { value: string | null }, isSeveral = false) =>
    page(() =>
      h(
        'div',
        ['key', 'credit'].map((value) =>
          h(PickMark, {
            name: 'correction',
            value,
            isSeveral,
            modelValue: picked.value,
            'onUpdate:modelValue': (now: unknown) => (picked.value = now as string | null),
          }),
        ),
      ),
    );

  it('exclude each other, and have one name for the arrow keys', async () => {
    const picked = ref<string | null>('key');
    const shown = await marks(picked);
    const inputs = shown.findAll('input');
    expect(inputs.map((i) => [i.attributes('type'), i.attributes('name'), (i.element as HTMLInputElement).checked])).toEqual([
      ['radio', 'correction', true],
      ['radio', 'correction', false],
    ]);
    await inputs[1]!.setValue(true);
    expect(picked.value).toBe('credit');
    expect(inputs.map((i) => (i.element as HTMLInputElement).checked)).toEqual([false, true]);
  });

  it('are ticks where several may be picked', async () => {
    const picked = ref<string | null>(null);
    const shown = await marks(picked, true);
    expect(shown.findAll('input').map((i) => i.attributes('type'))).toEqual(['checkbox', 'checkbox']);
    await shown.findAll('input')[0]!.setValue(true);
    expect(picked.value).toBe('key');
    await shown.findAll('input')[0]!.setValue(false);
    expect(picked.value).toBe(null);
  });
});

describe('the lines of a list', () => {
  it('are read as they stand in a page, with their headings and what cannot be chosen', () => {
    const list = readChoices([
      h('option', { value: '' }, 'none'),
      h('optgroup', { label: 'A group' }, [h('option', { value: 3, disabled: '' }, 'Three'), h('option', null, '  spaced\n out ')]),
    ]);
    expect(list.map((c) => [c.title, c.value, c.isOff, c.isHeading])).toEqual([
      ['none', '', false, false],
      ['A group', null, true, true],
      ['Three', 3, true, false],
      ['spaced out', 'spaced out', false, false],
    ]);
    expect([keyOf(null), keyOf(undefined), keyOf(3), keyOf('3'), keyOf(true)]).toEqual(['', '', '3', '3', 'true']);
  });
});

describe('a choice in a list', () => {
  const OPTIONS = () => [h('option', { value: 'item' }, 'items that are done'), h('option', { value: 'minutes' }, 'minutes')];
  const select = async (shown: VueWrapper) => {
    await until(() => shown.findComponent({ name: 'VSelect' }).exists(), 'the list');
    return shown.findComponent({ name: 'VSelect' });
  };

  it('shows what is chosen in its words, and tells of another', async () => {
    const chosen = ref('item');
    const shown = await page(() =>
      h(ChoiceField, { modelValue: chosen.value, onChange: (next: string) => (chosen.value = next) }, OPTIONS),
    );
    const list = await select(shown);
    expect(shown.text()).toContain('items that are done');
    list.vm.$emit('update:modelValue', 'minutes');
    await flushPromises();
    expect(chosen.value).toBe('minutes');
    expect(shown.text()).toContain('minutes');
  });

  it('shows what is kept again once saving another is refused', async () => {
    let refuse: () => void = () => undefined;
    const shown = await page(() =>
      h(ChoiceField, { modelValue: 'item', onChange: () => new Promise<void>((done) => (refuse = done)) }, OPTIONS),
    );
    const list = await select(shown);
    list.vm.$emit('update:modelValue', 'minutes');
    await nextTick();
    expect(list.props('modelValue')).toBe('minutes');
    refuse();
    await flushPromises();
    expect(list.props('modelValue')).toBe('item');
  });

  it('tells nothing where what stands is chosen once more, as text or as a number', async () => {
    const told: unknown[] = [];
    const shown = await page(() =>
      h(ChoiceField, { modelValue: 60, onChange: (next: unknown) => told.push(next) }, () => [h('option', { value: '60' }, 'hour')]),
    );
    const list = await select(shown);
    expect(shown.text()).toContain('hour');
    list.vm.$emit('update:modelValue', '60');
    await flushPromises();
    expect(told).toEqual([]);
  });
});

describe('a choice among many', () => {
  interface Person {
    readonly id: string;
    readonly name: string;
  }
  const open = async (find: (letters: string) => Promise<readonly Person[]>) => {
    const chosen = ref('');
    const shown = await page(() =>
      h(SearchChoice, {
        modelValue: chosen.value,
        'onUpdate:modelValue': (id: string) => (chosen.value = id),
        label: 'Add someone',
        placeholder: 'letters of a name',
        find,
        wordsOf: (p: Person) => p.name,
      } as never),
    );
    await until(() => shown.findComponent({ name: 'VAutocomplete' }).exists(), 'the field');
    return { shown, chosen, field: shown.findComponent({ name: 'VAutocomplete' }) };
  };

  it('asks for those with the letters, and shows them', async () => {
    const asked: string[] = [];
    const { field, chosen, shown } = await open((letters) => {
      asked.push(letters);
      return Promise.resolve([{ id: 'p1', name: 'Dent, Stu' }]);
    });
    field.vm.$emit('update:search', 'den');
    await until(() => titles(field).length > 0, 'somebody found');
    expect([asked, titles(field)]).toEqual([['den'], ['Dent, Stu']]);
    field.vm.$emit('update:modelValue', 'p1');
    await nextTick();
    expect(chosen.value).toBe('p1');
    // The words of who was chosen now stand in the field: nobody else is asked for.
    field.vm.$emit('update:search', 'Dent, Stu');
    await flushPromises();
    expect(asked).toEqual(['den']);
    expect(shown.find('label').text()).toBe('Add someone');
  });

  it('leaves an answer that comes after other letters were typed', async () => {
    const answers: ((list: readonly Person[]) => void)[] = [];
    const { field } = await open(() => new Promise((done) => answers.push(done)));
    field.vm.$emit('update:search', 'a');
    await until(() => answers.length === 1, 'the first asking');
    field.vm.$emit('update:search', 'ab');
    answers[0]!([{ id: 'old', name: 'Old' }]);
    await until(() => answers.length === 2, 'the second asking');
    answers[1]!([{ id: 'new', name: 'New' }]);
    await until(() => titles(field).length > 0, 'somebody found');
    expect(titles(field)).toEqual(['New']);
  });

  it('says that the search did not answer', async () => {
    const { field } = await open(() => Promise.reject(new Error('gone')));
    field.vm.$emit('update:search', 'x');
    await until(() => String(field.props('noDataText')).includes('did not answer'), 'the fault');
    expect(titles(field)).toEqual([]);
  });
});

describe('a table that is read', () => {
  it('stands in rows between rules, with its name for those who hear it', async () => {
    const shown = await page(() => h(PlainTable, { 'aria-label': 'Sheets' }, () => h('tbody', h('tr', h('td', 'one')))));
    expect(shown.find('table').attributes('aria-label')).toBe('Sheets');
    expect(shown.find('.plain td').text()).toBe('one');
  });

  it('has the look of its page where it is bare', async () => {
    const shown = await page(() => h(PlainTable, { look: 'bare' }, () => h('tbody')));
    expect(shown.find('.plain').exists()).toBe(false);
  });
});

describe('what folds out', () => {
  it('opens and closes, and tells which', async () => {
    const told: boolean[] = [];
    const shown = await page(() =>
      h(FoldOut, { onToggle: (isOpen: boolean) => told.push(isOpen) }, { summary: () => 'Earlier changes', default: () => h('p', 'none') }),
    );
    const details = shown.find('details');
    expect([details.attributes('open'), shown.find('summary').text()]).toEqual([undefined, 'Earlier changes']);
    (details.element as HTMLDetailsElement).open = true;
    await details.trigger('toggle');
    (details.element as HTMLDetailsElement).open = false;
    await details.trigger('toggle');
    expect(told).toEqual([true, false]);
  });
});

describe('how far something is', () => {
  it('is read out in parts of one', async () => {
    const shown = await page(() => h(ProgressBar, { share: 0.4, label: 'Arrived' }));
    const bar = shown.find('[role="progressbar"]');
    expect([bar.attributes('aria-label'), bar.attributes('aria-valuenow'), bar.attributes('aria-valuemax')]).toEqual([
      'Arrived',
      '0.4',
      '1',
    ]);
  });
});

describe('what opens over the page', () => {
  it('is told by its button, opens by it and by an arrow, and closes by it', async () => {
    const opened: boolean[] = [];
    const shown = await page(() =>
      h(
        FloatMenu,
        { 'onUpdate:modelValue': (is: boolean) => opened.push(is) },
        { activator: ({ props }: { props: object }) => h(ActButton, props, () => 'More'), default: () => h('p', 'inside') },
      ),
    );
    const button = shown.find('button');
    expect([button.attributes('aria-haspopup'), button.attributes('aria-expanded')]).toEqual(['menu', 'false']);
    await button.trigger('keydown', { key: 'ArrowDown' });
    expect([opened, button.attributes('aria-expanded')]).toEqual([[true], 'true']);
    await button.trigger('click');
    expect(opened).toEqual([true, false]);
  });
});

describe('a menu of actions', () => {
  it('does what is chosen in it, leaves what is off, and names its headings', async () => {
    const done: string[] = [];
    const shown = await page(() =>
      h(ActionMenu, { words: 'more', label: 'What can be done', onChoose: (what: unknown) => done.push(String(what)) }, () => [
        h('option', { value: 'see' }, 'See as this student'),
        h('optgroup', { label: 'Move' }, [h('option', { value: 'off', disabled: true }, 'Evening')]),
      ]),
    );
    await shown.find('button').trigger('click');
    const items = () => [...document.querySelectorAll<HTMLElement>('[role="menuitem"]')];
    await until(() => items().length === 2, 'what is in it');
    expect(document.querySelector('.menu .heading')?.textContent).toBe('Move');
    items()[1]!.click();
    items()[0]!.click();
    await flushPromises();
    expect(done).toEqual(['see']);
  });
});

describe('a file that is chosen', () => {
  it('is told of, and the same one can be chosen again', async () => {
    const chosen: string[] = [];
    const held = ref<{ open: () => void } | null>(null);
    const shown = await page(() =>
      h(FileInput, {
        ref: held,
        label: 'Files to add',
        isMany: true,
        onChoose: (files: readonly File[]) => chosen.push(...files.map((f) => f.name)),
      }),
    );
    const input = shown.find('input');
    expect([input.attributes('aria-label'), input.attributes('multiple'), input.attributes('tabindex')]).toEqual([
      'Files to add',
      '',
      '-1',
    ]);
    let wasOpened = false;
    (input.element as HTMLInputElement).addEventListener('click', (event) => {
      wasOpened = true;
      event.preventDefault();
    });
    held.value?.open();
    expect(wasOpened).toBe(true);
    Object.defineProperty(input.element, 'files', { value: [new File(['x'], 'oil.txt')], configurable: true });
    await input.trigger('change');
    Object.defineProperty(input.element, 'files', { value: [], configurable: true });
    await input.trigger('change');
    expect(chosen).toEqual(['oil.txt']);
  });
});

describe('a list whose lines are dragged', () => {
  it('is drawn at once, as the element it is asked to be', async () => {
    const shown = await page(() =>
      h(DragList, { modelValue: ['a', 'b'], tag: 'ol', handle: '.no' } as never, () => [h('li', 'a'), h('li', 'b')]),
    );
    expect(
      shown
        .find('ol')
        .findAll('li')
        .map((li) => li.text()),
    ).toEqual(['a', 'b']);
  });
});

describe('what is typed into a cell', () => {
  it('is its model', async () => {
    const text = ref('1');
    const shown = await page(() =>
      h(CellField, { modelValue: text.value, id: 'cell', 'onUpdate:modelValue': (t: string) => (text.value = t) }),
    );
    await shown.find('#cell').setValue('17.5');
    expect(text.value).toBe('17.5');
  });
});

describe('a time zone', () => {
  it('is found by letters of its city, and shown as it is called', async () => {
    const zone = ref('Europe/Lisbon');
    const shown = await page(() =>
      h(ZoneChoice, { label: 'Time zone', modelValue: zone.value, 'onUpdate:modelValue': (next: string) => (zone.value = next) }),
    );
    await until(() => shown.findComponent({ name: 'VAutocomplete' }).exists(), 'the field');
    const field = shown.findComponent({ name: 'VAutocomplete' });
    expect(field.props('modelValue')).toBe('Europe/Lisbon');
    field.vm.$emit('update:search', 'new york');
    await until(() => titles(field).length === 1, 'the zone');
    expect(titles(field)).toEqual(['America/New York']);
    field.vm.$emit('update:modelValue', 'America/New_York');
    await nextTick();
    expect(zone.value).toBe('America/New_York');
    field.vm.$emit('update:search', 'nowhere at all');
    await until(() => field.props('noDataText') === 'No time zone has these letters.', 'that there is none');
  });
});

describe('the lines of a list that are moved by keys', () => {
  const open = (more: object = {}) => {
    const order = ref(['a', 'b', 'c']);
    const list = defineComponent({
      setup: () => () =>
        h(
          DragList,
          { modelValue: order.value, 'onUpdate:modelValue': (next: string[]) => (order.value = next), tag: 'ol', ...more } as never,
          () => order.value.map((word) => h('li', { key: word }, [h('input', { 'aria-label': word })])),
        ),
    });
    return showPart(list).then((shown) => ({ shown, order }));
  };
  const press = (shown: Awaited<ReturnType<typeof open>>['shown'], word: string, key: string) => {
    const field = shown.find(`input[aria-label="${word}"]`);
    (field.element as HTMLElement).focus();
    return field.trigger('keydown', { key, altKey: true });
  };

  it('go up and down with Alt and the arrows, no further than the ends, and the hand goes with them', async () => {
    const { shown, order } = await open();
    await press(shown, 'b', 'ArrowUp');
    expect(order.value).toEqual(['b', 'a', 'c']);
    expect(document.activeElement?.getAttribute('aria-label')).toBe('b');
    await press(shown, 'b', 'ArrowUp');
    expect(order.value).toEqual(['b', 'a', 'c']);
    await press(shown, 'b', 'ArrowDown');
    await press(shown, 'b', 'ArrowDown');
    expect(order.value).toEqual(['a', 'c', 'b']);
  });

  it('stay where nothing may be moved, and where a group keeps its own order', async () => {
    for (const more of [{ isFixed: true }, { group: 'items' }]) {
      const { shown, order } = await open(more);
      await press(shown, 'b', 'ArrowUp');
      expect(order.value).toEqual(['a', 'b', 'c']);
      shown.unmount();
    }
  });
});
