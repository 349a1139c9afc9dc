import { plainText, type DocumentNode } from '../document/plainText.ts';
import type { QuestionContent } from '../quiz/question.ts';
import type { Choice, NumberRules, QuestionKey } from '../quiz/question.ts';
import { isMarkedByPerson } from '../quiz/drawInWords.ts';
import { alikeWeights } from '../quiz/newKey.ts';
import { fromBody } from './qtiBody.ts';
import { Unread } from './qtiFormula.ts';
import { ALL, isInteraction, isNumeric, QtiItem, usable, type QtiItemRead, type QtiReadQuestion, type QtiSources } from './qtiItem.ts';
import { DONT_KNOW } from './qtiParts.ts';
import { templateOf, type QtiValue } from './qtiProcessing.ts';
import { calculatedKey, numberKey, regionOf, severalShares, singleShares, textRules, type Asking } from './qtiReadKey.ts';
import { allNamed, attr, childNamed, childrenNamed, h, nodesIn, q, wordsIn, type QtiChild, type QtiNode } from './qtiTree.ts';

const interactionsIn = (node: QtiNode | undefined): readonly QtiNode[] =>
  nodesIn(node).flatMap((child) => (isInteraction(child) ? [child] : interactionsIn(child)));
const INLINE = ['textEntryInteraction', 'inlineChoiceInteraction'];

class ItemReader extends QtiItem {
  read(): QtiReadQuestion[] {
    const found = interactionsIn(this.body).filter((i) => i.name !== 'endAttemptInteraction');
    const [first] = found;
    if (interactionsIn(this.body).length > found.length)
      this.note('endAttemptInteraction', 'A button that ends the attempt (for a hint) was left out.');
    if (first === undefined) throw new Unread('itemBody', 'There is no interaction in it, so it asks nothing.');
    const title = attr(this.item, 'title');
    const stimulus = this.ownStimulus();
    const base = { title, stimulus };
    const isNumber = found.length === 2 && found[0]?.name === 'textEntryInteraction' && this.unitsOf(found[1]).length > 0;
    if (found.length === 1 || isNumber) return [{ ...base, ...this.#question(first, isNumber ? found[1] : undefined) }];
    if (found.every((i) => INLINE.includes(i.name))) return [{ ...base, ...this.#blanks(found) }];
    return this.#parted(found, title);
  }

  /** An item that asks several things: a question for each, with what stands around them as the text they share. */
  #parted(found: readonly QtiNode[], title: string): QtiReadQuestion[] {
    const kept = this.bodyWithout();
    const document = this.says(kept);
    const hasWords = plainText(document).trim() !== '' || document.content?.some((c) => c.type === 'picture') === true;
    const id = attr(this.item, 'identifier');
    const stimulus = hasWords ? { id: `${id} text`, title, document } : null;
    this.note('itemBody', `It asks ${found.length} things at once; each came in as a question of its own.`);
    return found.map((interaction, n) => {
      const declaration = childrenNamed(this.item, 'responseDeclaration').filter(
        (d) => attr(d, 'identifier') === attr(interaction, 'responseIdentifier'),
      );
      // Each is scored by its own mapping or key; how the whole combined them has no place in a question.
      const item = q('assessmentItem', {}, ...declaration, q('itemBody', {}, h('div', {}, interaction)));
      const reader = new ItemReader(item, this.from);
      const asked = reader.#question(interaction, undefined);
      for (const p of reader.problems) this.note(p.element, p.text);
      return { ...asked, title: title === '' ? '' : `${title} ${n + 1}`, stimulus };
    });
  }

  #question(interaction: QtiNode, unit: QtiNode | undefined): Omit<QtiReadQuestion, 'title' | 'stimulus'> {
    const a = this.asking(interaction);
    const done = (
      key: QuestionKey,
      full: number,
      words: DocumentNode,
      more: { takesAway?: boolean; picture?: QuestionContent['picture'] } = {},
    ): Omit<QtiReadQuestion, 'title' | 'stimulus'> => {
      if (full <= 0 && !isMarkedByPerson(key.kind))
        this.note('responseDeclaration', 'No answer gives anything: the key is missing. Give the question its key.');
      const feedback = this.feedback(a, key, full);
      return {
        key: feedback.key,
        words,
        picture: more.picture ?? null,
        feedback: feedback.feedback,
        points: full > 0 ? Math.max(1, Math.round(full * 1000)) : Math.round(this.declaredMax() * 1000),
        takesAway: more.takesAway ?? false,
      };
    };
    switch (interaction.name) {
      case 'choiceInteraction':
        return this.#choice(a, interaction, done);
      case 'hottextInteraction': {
        this.note('hottextInteraction', 'Words to be picked in a text came in as answers below it.');
        const texts = allNamed(interaction, 'hottext');
        const words = this.words((node) => (node.name === 'hottext' ? node.children : [h('div', {}, ...node.children)]));
        return this.#choiceOf(a, texts, words, attr(interaction, 'maxChoices') === '1', false, done);
      }
      case 'orderInteraction': {
        const things = childrenNamed(interaction, 'simpleChoice');
        const order = a.declaration.correct.flatMap((id) => things.find((c) => attr(c, 'identifier') === id) ?? []);
        if (order.length < things.length)
          this.note('orderInteraction', 'Not every thing stands in the key; those that do not are left out.');
        const full = a.processing.score(new Map([[a.declaration.id, a.declaration.correct]]));
        return done({ kind: 'ordering', order: this.texts(order, 'simpleChoice'), isAllOrNothing: true }, full, this.prompted());
      }
      case 'matchInteraction':
      case 'associateInteraction':
        return this.#matching(a, interaction, done);
      case 'gapMatchInteraction':
        return this.#gaps(a, interaction, done);
      case 'inlineChoiceInteraction': {
        const blanks = this.#blanks([interaction]);
        return done(blanks.key, blanks.points / 1000, blanks.words);
      }
      case 'textEntryInteraction':
        return this.#entry(a, interaction, unit, done);
      case 'extendedTextInteraction':
        if (a.declaration.correct.length > 0 || a.declaration.mapping !== null)
          this.note('extendedTextInteraction', 'A long answer waits for a person here; the words of its key were left out.');
        return done({ kind: 'essay' }, 0, this.prompted());
      case 'uploadInteraction':
        return done({ kind: 'file' }, 0, this.prompted());
      case 'drawingInteraction':
        this.note('drawingInteraction', 'A drawing is handed in as a file here.');
        return done({ kind: 'file' }, 0, this.prompted());
      case 'sliderInteraction': {
        this.note('sliderInteraction', 'A slider came in as a number to be typed.');
        const { accepted, full } = numberKey(a);
        return done({ kind: 'numeric', rules: { ...PLAIN, accepted } }, full, this.prompted());
      }
      case 'selectPointInteraction':
      case 'hotspotInteraction':
        return this.#hotspot(a, interaction, done);
      default:
        throw new Unread(interaction.name, 'Questions of this kind have no place here.');
    }
  }

  #choice(a: Asking, interaction: QtiNode, done: Done): ReturnType<Done> {
    const isSingle = !a.declaration.isMany;
    const all = childrenNamed(interaction, 'simpleChoice');
    const dontKnow = all.find((c) => attr(c, 'identifier') === DONT_KNOW);
    const choices = all.filter((c) => c !== dontKnow);
    return this.#choiceOf(a, choices, this.prompted(), isSingle, dontKnow !== undefined, done);
  }
  #choiceOf(
    a: Asking,
    nodes: readonly QtiNode[],
    words: DocumentNode,
    isSingle: boolean,
    hasDontKnow: boolean,
    done: Done,
  ): ReturnType<Done> {
    const ids = nodes.map((c) => attr(c, 'identifier'));
    const made = (shares: readonly number[]): Choice[] =>
      nodes.map((node, n) => {
        const said = childrenNamed(node, 'feedbackInline', 'feedbackBlock').filter((f) => attr(f, 'showHide') !== 'hide');
        const rest = node.children.filter((c) => typeof c === 'string' || !['feedbackInline', 'feedbackBlock'].includes(c.name));
        const feedback = said.length === 0 ? null : this.says(said.flatMap((f) => f.children));
        return { id: this.from.newId(), words: this.says(rest), share: shares[n] ?? 0, feedback };
      });
    if (isSingle) {
      const { shares, full } = singleShares(a, ids);
      const choices = made(shares);
      const names = choices.map((c) => plainText(c.words).trim().toLowerCase());
      const isTruth = names.length === 2 && names.includes('true') && names.includes('false');
      return done({ kind: isTruth ? 'truth' : 'single', choices, hasDontKnow }, full, words, {
        takesAway: shares.some((s) => s < 0),
      });
    }
    const { shares, rule, full, takesAway } = severalShares(a, ids);
    return done({ kind: 'several', choices: made(shares), rule, hasDontKnow }, full, words, { takesAway });
  }

  #matching(a: Asking, interaction: QtiNode, done: Done): ReturnType<Done> {
    const [firstSet, secondSet] = childrenNamed(interaction, 'simpleMatchSet');
    const isPair = interaction.name === 'associateInteraction';
    const from = childrenNamed(isPair ? interaction : firstSet, 'simpleAssociableChoice');
    const to = isPair ? from : childrenNamed(secondSet, 'simpleAssociableChoice');
    const textOf = new Map([...from, ...to].map((c) => [attr(c, 'identifier'), this.texts([c], 'simpleAssociableChoice')[0] ?? '']));
    const mapped = childrenNamed(a.declaration.mapping ?? undefined, 'mapEntry').filter((e) => Number(attr(e, 'mappedValue')) > 0);
    const keys = a.declaration.correct.length > 0 ? a.declaration.correct : mapped.map((e) => attr(e, 'mapKey'));
    const split = keys.map((key) => key.trim().split(/\s+/));
    const lefts = new Set(split.map(([l]) => l));
    // Where each on the right has one on the left, and some on the left have several, the sides are the other way round.
    const isTurned = lefts.size < split.length && new Set(split.map(([, r]) => r)).size === split.length;
    const pairs = split.map(([l = '', r = '']) => {
      const [left, right] = [textOf.get(l) ?? '', textOf.get(r) ?? ''];
      return isTurned ? { left: right, right: left } : { left, right };
    });
    if (isTurned) this.note(interaction.name, 'The two sides changed places: several belong to one.');
    else if (lefts.size < split.length)
      throw new Unread(interaction.name, 'One thing belongs to several, and others do too; only one may.');
    const asked = isTurned ? to : from;
    const used = new Set(pairs.flatMap((p) => (isPair ? [p.left, p.right] : [p.left])));
    const unused = asked.filter((c) => !used.has(textOf.get(attr(c, 'identifier')) ?? ''));
    if (!isPair && unused.length > 0) this.note(interaction.name, `${unused.length} on the left belong to nothing and were left out.`);
    const extra = (isPair ? unused : isTurned ? from : to)
      .map((c) => textOf.get(attr(c, 'identifier')) ?? '')
      .filter((text) => !pairs.some((p) => p.right === text));
    if (isPair) this.note('associateInteraction', 'Pairs within one list came in as two lists, first and second of each pair.');
    const correct: QtiValue = keys;
    const full = a.processing.score(new Map([[a.declaration.id, correct]]));
    const part = keys.length > 1 ? a.processing.score(new Map([[a.declaration.id, keys.slice(0, 1)]])) : full;
    if (keys.length > 1 && part <= 0)
      this.note(interaction.name, 'It gave all of its points or none; here each right pair gives its share.');
    const key: QuestionKey = { kind: 'matching', pairs: [...pairs, ...extra.map((right) => ({ left: '', right }))] };
    return done(key, full, this.prompted());
  }

  #gaps(a: Asking, interaction: QtiNode, done: Done): ReturnType<Done> {
    const texts = childrenNamed(interaction, 'gapText');
    if (childrenNamed(interaction, 'gapImg').length > 0) throw new Unread('gapImg', 'Pictures to be put into gaps have no place here.');
    this.note('gapMatchInteraction', 'Words to be dragged into gaps came in as gaps to be filled in; the words stand below the text.');
    const said = new Map(texts.map((t) => [attr(t, 'identifier'), this.texts([t], 'gapText')[0] ?? '']));
    const gaps = allNamed(interaction, 'gap').map((gap) => ({ gap, id: this.from.newId() }));
    const keys = [
      ...a.declaration.correct,
      ...childrenNamed(a.declaration.mapping ?? undefined, 'mapEntry').map((e) => attr(e, 'mapKey')),
    ].map((key) => key.split(/\s+/));
    const weights = alikeWeights(gaps.length);
    const blanks = gaps.map(({ gap, id }, n) => {
      const right = keys.filter(([, g]) => g === attr(gap, 'identifier')).map(([t = '']) => said.get(t) ?? '');
      const accepted = [...new Set(right)].map((text) => ({ text, isPattern: false, share: ALL }));
      return { id, weight: weights[n] ?? 0, rules: { accepted, caseMatters: false, spaceMatters: false } };
    });
    const words = this.words((node) => {
      if (node.name !== 'gap') {
        const rest = node.children.filter((c) => typeof c === 'string' || c.name !== 'gapText');
        return [h('div', {}, ...rest), h('p', {}, [...said.values()].join(' · '))];
      }
      return { type: 'blank', attrs: { id: gaps.find((g) => attr(g.gap, 'identifier') === attr(node, 'identifier'))?.id ?? '', size: 0 } };
    });
    const full = a.processing.score(new Map([[a.declaration.id, a.declaration.correct]]));
    return done({ kind: 'blanks', blanks }, full, words);
  }

  /** One place to write in: a number, a short text, or, in the midst of a sentence, a gap. */
  #entry(a: Asking, interaction: QtiNode, unit: QtiNode | undefined, done: Done): ReturnType<Done> {
    const id = this.from.newId();
    const size = Number(attr(interaction, 'expectedLength')) || 0;
    const placed = this.words((node) => (isSame(node, unit) ? [] : { type: 'blank', attrs: { id, size } }));
    const { document, isAlone } = withoutLonePlace(placed);
    const isNumber = ['float', 'integer'].includes(a.declaration.baseType);
    const isCalculated = childNamed(this.item, 'templateProcessing') !== undefined;
    if (!isNumber && !isAlone) {
      const { rules, full } = textRules(a);
      return done({ kind: 'blanks', blanks: [{ id, weight: ALL, rules }] }, full, placed);
    }
    if (!isNumber) {
      const { rules, full } = textRules(a);
      return done({ kind: 'short', rules }, full, document);
    }
    const mask = /^\[\+\\?-\]\?\[0-9\]\*(?:\[\.,\]\[0-9\]\{(\d+)\})?$/.exec(attr(interaction, 'patternMask'));
    if (attr(interaction, 'patternMask') !== '' && mask === null)
      this.note('textEntryInteraction', `The form “${attr(interaction, 'patternMask').slice(0, 60)}” of an answer was left out.`);
    const declared = childrenNamed(this.item, 'responseDeclaration').find(
      (d) => attr(d, 'identifier') === attr(unit, 'responseIdentifier'),
    );
    const rules: Omit<NumberRules, 'accepted'> = {
      units: this.unitsOf(unit),
      isUnitNeeded: unit !== undefined && Number(attr(childNamed(declared, 'mapping'), 'defaultValue')) === 0,
      decimals: mask === null ? null : Number(mask[1] ?? '0'),
      isSignFree: this.processing.all('mathOperator').some((m) => attr(m, 'name') === 'abs' && allNamed(m, 'variable').length > 0),
    };
    const words = isAlone ? document : withText(placed, '____');
    if (isCalculated) return done({ kind: 'calculated', question: calculatedKey(a), rules }, 1, words);
    const { accepted, full } = numberKey(a);
    return done({ kind: 'numeric', rules: { ...rules, accepted } }, full, words);
  }

  /** Several places in a text, or one where an answer is picked from a list. */
  #blanks(found: readonly QtiNode[]): Omit<QtiReadQuestion, 'title' | 'stimulus'> {
    const places = found.map((interaction) => ({ interaction, a: this.asking(interaction), id: this.from.newId() }));
    const read = places.map(({ interaction, a }) => (interaction.name === 'textEntryInteraction' ? this.#typed(a) : this.#picked(a, interaction))); // prettier-ignore
    const total = read.reduce((sum, r) => sum + r.full, 0);
    const whole = this.processing.score(this.declaredRight());
    const isJoint = total <= 0 && whole > 0;
    if (isJoint) this.note('responseProcessing', 'It gave all of its points or none; here each place gives its share.');
    const alike = alikeWeights(places.length);
    const weights = isJoint || total <= 0 ? alike : weightsOf(read.map((r) => r.full / total));
    const blanks = places.map(({ id, a }, n) => {
      const kept = read[n]?.rules ?? { accepted: [], caseMatters: false, spaceMatters: false };
      const accepted =
        kept.accepted.length > 0 ? kept.accepted : a.declaration.correct.map((text) => ({ text, isPattern: false, share: ALL }));
      return { id, weight: weights[n] ?? 0, rules: { ...kept, accepted } };
    });
    const words = this.words((node) => {
      const at = places.find((p) => isSame(p.interaction, node));
      if (at === undefined) return [];
      const size = Number(attr(node, 'expectedLength')) || 0;
      const blank = { type: 'blank', attrs: { id: at.id, size } };
      if (node.name === 'textEntryInteraction') return blank;
      const list = childrenNamed(node, 'inlineChoice').map((c) => wordsIn(c).trim());
      // What there was to pick from stands behind the place, so that it can still be answered.
      return [q('blankPlace', { id: at.id }), ` (${list.join(' / ')})`];
    });
    const [first] = places;
    if (first === undefined) throw new Unread('itemBody', 'There is no interaction in it, so it asks nothing.');
    const full = isJoint ? whole : total;
    const feedback = this.feedback(first.a, { kind: 'blanks', blanks }, full);
    if (full <= 0) this.note('responseDeclaration', 'No answer gives anything: the key is missing. Give the question its key.');
    const points = full > 0 ? Math.max(1, Math.round(full * 1000)) : Math.round(this.declaredMax() * 1000);
    return { key: feedback.key, words, picture: null, feedback: feedback.feedback, points, takesAway: false };
  }
  #typed(a: Asking): ReturnType<typeof textRules> {
    if (!isNumeric(a)) return textRules(a);
    this.note('textEntryInteraction', 'Numbers among several places are compared as they are written; their tolerance was left out.');
    const { accepted, full } = numberKey(a);
    return {
      rules: {
        accepted: accepted.map((n) => ({ text: n.value, isPattern: false, share: n.share })),
        caseMatters: false,
        spaceMatters: false,
      },
      full,
    };
  }
  #picked(a: Asking, interaction: QtiNode): ReturnType<typeof textRules> {
    this.note('inlineChoiceInteraction', 'A list to pick from came in as a place to write in, with the list behind it.');
    const choices = childrenNamed(interaction, 'inlineChoice');
    const { id } = a.declaration;
    const nothing = a.processing.score(new Map());
    const gains = choices.map((c) => a.processing.score(new Map([[id, [attr(c, 'identifier')]]])) - nothing);
    const full = Math.max(0, ...gains);
    const right = choices.filter((c, n) => (full > 0 ? (gains[n] ?? 0) > 0 : a.declaration.correct.includes(attr(c, 'identifier'))));
    const accepted = right.map((c) => {
      const gain = gains[choices.indexOf(c)] ?? 0;
      return { text: wordsIn(c).trim(), isPattern: false, share: full > 0 ? Math.round((gain / full) * ALL) : ALL };
    });
    return { rules: { accepted, caseMatters: false, spaceMatters: false }, full };
  }

  #hotspot(a: Asking, interaction: QtiNode, done: Done): ReturnType<Done> {
    const shown = allNamed(interaction, 'object', 'img')[0];
    if (shown === undefined) throw new Unread(interaction.name, 'It shows no picture.');
    const [width, height] = [Number(attr(shown, 'width')), Number(attr(shown, 'height'))];
    if (!(width > 0 && height > 0))
      throw new Unread(shown.name, 'The picture does not say its width and height, by which its places are told.');
    const file = this.from.file(attr(shown, 'data') || attr(shown, 'src'));
    if (file === null) this.note(shown.name, `The picture “${attr(shown, 'data') || attr(shown, 'src')}” is not in the package.`);
    const alt = attr(shown, 'alt') || wordsIn(shown).trim();
    const picture = file === null ? null : { fileId: file.fileId, src: file.src, alt };
    const { id } = a.declaration;
    if (a.declaration.isMany && a.declaration.correct.length > 1)
      throw new Unread(interaction.name, 'Several places have to be found in it; one can be pointed at here.');
    const isPoint = interaction.name === 'selectPointInteraction';
    const areas = isPoint
      ? [...childrenNamed(a.declaration.areas ?? undefined, 'areaMapEntry'), ...a.processing.all('inside')]
      : allNamed(interaction, 'hotspotChoice');
    const scored = areas.map((area) => {
      const region = regionOf(area, width, height);
      const given = isPoint ? middle(region, width, height) : attr(area, 'identifier');
      return { region, score: a.processing.score(new Map([[id, [given]]])) };
    });
    const full = Math.max(0, ...scored.map((s) => s.score));
    const regions = scored
      .filter((s) => s.score !== 0)
      .map(({ region, score }) => ({ id: this.from.newId(), region, share: Math.round((score / (full || 1)) * ALL) }));
    return done({ kind: 'hotspot', regions }, full, this.prompted(), { picture });
  }
}

const isSame = (a: QtiNode, b: QtiNode | undefined): boolean => attr(a, 'responseIdentifier') === attr(b, 'responseIdentifier');
type Done = (
  key: QuestionKey,
  full: number,
  words: DocumentNode,
  more?: { takesAway?: boolean; picture?: QuestionContent['picture'] },
) => Omit<QtiReadQuestion, 'title' | 'stimulus'>;
const PLAIN: Omit<NumberRules, 'accepted'> = { units: [], isUnitNeeded: false, decimals: null, isSignFree: false };
function weightsOf(parts: readonly number[]): number[] {
  const weights = parts.map((p) => Math.round(p * ALL));
  const rest = ALL - weights.reduce((sum, w) => sum + w, 0);
  return weights.map((w, n) => (n === weights.length - 1 ? w + rest : w));
}
function middle(region: ReturnType<typeof regionOf>, width: number, height: number): string {
  const spots = region.shape === 'rectangle' ? [region.from, region.to] : region.shape === 'ellipse' ? [region.centre] : region.corners;
  const x = spots.reduce((sum, s) => sum + s.x, 0) / spots.length;
  const y = spots.reduce((sum, s) => sum + s.y, 0) / spots.length;
  return `${x * width} ${y * height}`;
}

const isBlankLine = (node: DocumentNode): boolean =>
  node.type === 'paragraph' &&
  (node.content ?? []).some((c) => c.type === 'blank') &&
  (node.content ?? []).every((c) => c.type === 'blank' || c.type === 'hardBreak' || (c.type === 'text' && (c.text ?? '').trim() === ''));
/** A place that has a line of its own stands for the field below the words. */
function withoutLonePlace(document: DocumentNode): { document: DocumentNode; isAlone: boolean } {
  const content = document.content ?? [];
  const kept = content.filter((block) => !isBlankLine(block));
  if (kept.length === content.length) return { document, isAlone: false };
  return { document: { ...document, content: kept.length === 0 ? [{ type: 'paragraph' }] : kept }, isAlone: true };
}
function withText(node: DocumentNode, text: string): DocumentNode {
  if (node.type === 'blank') return { type: 'text', text };
  return node.content === undefined ? node : { ...node, content: node.content.map((child) => withText(child, text)) };
}

const READ = new Set([
  ...['responseDeclaration', 'outcomeDeclaration', 'templateDeclaration', 'templateProcessing', 'assessmentStimulusRef'],
  ...['itemBody', 'responseProcessing', 'modalFeedback'],
]);
const LEFT_OUT: Readonly<Record<string, string>> = {
  stylesheet: 'Its styles were left out; questions look as everything here does.',
  catalogInfo: 'Other forms of its words (spoken, signed, translated) were left out.',
  companionMaterialsInfo: 'Tools and tables it wants beside it were left out. A calculator is set for the whole quiz.',
  contextDeclaration: 'What it wants to know of the test around it was left out.',
};

/**
 * Reads an item of QTI 2.1, 2.2 or 3.0. What its answers are worth is learnt by running its processing (templates and rules that are written
 * out alike); what is not understood is named by its element. Throws {@link Unread} where nothing can be made of it.
 * Worked example: a `choiceInteraction` of two choices with `match_correct` is a single choice with one right answer.
 */
export function readItem(item: QtiNode, from: QtiSources): QtiItemRead {
  if (item.name !== 'assessmentItem') throw new Unread(item.name, 'This is no item: an item begins with assessmentItem.');
  const processing = childNamed(item, 'responseProcessing');
  const template = attr(processing, 'template');
  const reader = new ItemReader(item, from);
  if (template !== '' && templateOf(processing) === null && nodesIn(processing).length === 0)
    reader.note('responseProcessing', `The template “${template.slice(0, 90)}” is not known; the key of the item is used.`);
  if (attr(item, 'adaptive') === 'true') reader.note('assessmentItem', 'It changes while it is answered; only its first state came in.');
  for (const part of nodesIn(item)) {
    const what = LEFT_OUT[part.name];
    if (what !== undefined) reader.note(part.name, what);
    else if (!READ.has(part.name)) reader.note(part.name, 'This part of an item is not understood; it was left out.');
  }
  const questions = reader.read();
  return {
    questions,
    stimulusRefs: childrenNamed(item, 'assessmentStimulusRef').map((ref) => attr(ref, 'href')),
    problems: reader.problems,
  };
}

/** Reads a text that several questions share, of version 2.2 or 3.0. */
export function readStimulus(root: QtiNode, from: QtiSources): { title: string; document: DocumentNode; problems: readonly string[] } {
  const body = childNamed(root, 'stimulusBody');
  if (root.name !== 'assessmentStimulus' || body === undefined) throw new Unread(root.name, 'This is no shared text.');
  const read = fromBody(usable(body.children), { file: from.file, place: (node) => node.children });
  return { title: attr(root, 'title'), document: read.document, problems: read.problems };
}

/** The words before a test as a document; see `instructions` of a test that was read. */
export const readTestWords = (children: readonly QtiChild[], from: QtiSources): DocumentNode =>
  fromBody(usable(children), { file: from.file, place: (node) => node.children }).document;
