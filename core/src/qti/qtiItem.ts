import type { HtmlFile } from '../document/fromHtml.ts';
import { plainText, type DocumentNode } from '../document/plainText.ts';
import type { QuestionContent, QuestionFeedback } from '../quiz/question.ts';
import type { NumberRules, QuestionKey } from '../quiz/question.ts';
import { fromBody } from './qtiBody.ts';
import { Unread } from './qtiFormula.ts';
import { QtiProcessing, readDeclarations, type Declaration, type QtiValue } from './qtiProcessing.ts';
import { parameterNames, type Asking, type QtiProblem } from './qtiReadKey.ts';
import { allNamed, attr, childNamed, childrenNamed, h, nodesIn, wordsIn, type QtiChild, type QtiNode } from './qtiTree.ts';

export interface QtiSources {
  /** A file of the package by its address as seen from the item. */
  readonly file: (address: string) => HtmlFile | null;
  readonly newId: () => string;
}
/** A question that came out of an item. */
export interface QtiReadQuestion extends QuestionContent {
  readonly title: string;
  /** A text that stands before it, when it stands in the item itself. */
  readonly stimulus: { readonly id: string; readonly title: string; readonly document: DocumentNode } | null;
  /** What the item is worth by itself, in thousandths of a point. */
  readonly points: number;
  /** Whether a wrong answer takes away more than was earned. */
  readonly takesAway: boolean;
}
export interface QtiItemRead {
  readonly questions: readonly QtiReadQuestion[];
  /** Addresses of shared texts that the item refers to. */
  readonly stimulusRefs: readonly string[];
  readonly problems: readonly QtiProblem[];
}

export const isInteraction = (node: QtiNode): boolean => /Interaction$/.test(node.name);
/** What is said of a question for those who score it is not for those who take it. */
const isForTakers = (node: QtiNode): boolean => attr(node, 'view') === '' || /candidate|testConstructor/.test(attr(node, 'view'));
export const ALL = 100_000;
const web = (href: string): string | null => (/^(https?:|mailto:)/i.test(href.trim()) ? href.trim() : null);
export const usable = (html: readonly QtiChild[]): readonly QtiChild[] =>
  html.map((c): QtiChild => {
    if (typeof c === 'string') return c;
    const attrs = c.name === 'a' && web(attr(c, 'href')) === null ? {} : c.attrs;
    return { ...c, attrs, children: usable(c.children) };
  });

export const isNumeric = (a: Asking): boolean => ['float', 'integer'].includes(a.declaration.baseType);
/** By its name alone, where nobody but a person can tell what is right. */
const guessed = (name: string): readonly [boolean, boolean] =>
  /^(right|correct)/i.test(name) ? [true, false] : /^(wrong|incorrect)/i.test(name) ? [false, true] : [true, true];

/** An item and what is said in it: its words, its declarations, its feedback. */
export class QtiItem {
  readonly problems: QtiProblem[] = [];
  protected readonly item: QtiNode;
  protected readonly body: QtiNode;
  protected readonly from: QtiSources;
  protected readonly declarations: ReadonlyMap<string, Declaration>;
  protected readonly processing: QtiProcessing;

  constructor(item: QtiNode, from: QtiSources) {
    this.item = item;
    this.from = from;
    const body = childNamed(item, 'itemBody');
    if (body === undefined) throw new Unread('itemBody', 'The item has none, so it asks nothing.');
    this.body = body;
    this.declarations = readDeclarations(item);
    this.processing = new QtiProcessing(item, this.declarations);
  }

  note(element: string, text: string): void {
    if (!this.problems.some((p) => p.element === element && p.text === text)) this.problems.push({ element, text });
  }

  /** Reads nodes as a document; `inner` says what an interaction in them becomes. */
  says(children: readonly QtiChild[], inner: (node: QtiNode) => DocumentNode | readonly QtiChild[] | null = () => null): DocumentNode {
    const place = (node: QtiNode): DocumentNode | readonly QtiChild[] | null => {
      if (isInteraction(node) || node.name === 'gap' || node.name === 'hottext') return inner(node);
      switch (node.name) {
        case 'blankPlace':
          return { type: 'blank', attrs: { id: attr(node, 'id'), size: 0 } };
        case 'prompt':
        case 'contentBody':
        case 'stimulusBody':
          return node.children;
        case 'rubricBlock':
          if (isForTakers(node)) return [h('div', {}, ...node.children)];
          this.note('rubricBlock', `Words for whoever scores were left out: “${wordsIn(node).replace(/\s+/g, ' ').trim().slice(0, 120)}”.`);
          return null;
        case 'printedVariable':
          return this.#printed(node);
        case 'feedbackInline':
        case 'feedbackBlock':
          this.note(node.name, 'Words that are shown after some answers, within the question, were left out.');
          return null;
        case 'templateInline':
        case 'templateBlock':
          throw new Unread(node.name, 'Words that change with drawn values have no place here.');
        default:
          this.note(node.name, 'This is not understood; the words in it stay.');
          return node.children;
      }
    };
    const read = fromBody(usable(children), { file: this.from.file, place });
    for (const problem of read.problems) this.note('itemBody', problem);
    return read.document;
  }

  #printed(node: QtiNode): DocumentNode {
    const name = attr(node, 'identifier');
    const rule = childrenNamed(childNamed(this.item, 'templateProcessing'), 'setTemplateValue').find((r) => attr(r, 'identifier') === name);
    if (rule === undefined || allNamed(rule, 'randomInteger', 'randomFloat', 'random').length === 0)
      throw new Unread('printedVariable', `“${name}” is not a number that is drawn, and only such can be shown.`);
    return { type: 'value', attrs: { name: parameterNames(this.item).get(name) ?? name } };
  }

  protected asking(interaction: QtiNode): Asking {
    const id = attr(interaction, 'responseIdentifier');
    const declaration = this.declarations.get(id);
    if (declaration === undefined) throw new Unread(interaction.name, `It names the response “${id}”, which is not declared.`);
    return { item: this.item, declaration, processing: this.processing, problems: this.problems, newId: this.from.newId };
  }

  /** A shared text that stands in the item itself, as version 2.1 has to have it. */
  protected ownStimulus(): QtiReadQuestion['stimulus'] {
    const block = this.stimulusBlock();
    if (block === undefined) return null;
    const head = nodesIn(block).find((n) => attr(n, 'class') === 'stimulus-title');
    const rest = block.children.filter((c) => c !== head);
    return { id: attr(block, 'id') || wordsIn(block), title: wordsIn(head).trim(), document: this.says(rest) };
  }
  private stimulusBlock(): QtiNode | undefined {
    return nodesIn(this.body).find((n) => n.name === 'div' && attr(n, 'class').split(/\s+/).includes('stimulus'));
  }
  protected bodyWithout(): readonly QtiChild[] {
    const block = this.stimulusBlock();
    return this.body.children.filter((c) => c !== block);
  }

  protected words(inner: (node: QtiNode) => DocumentNode | readonly QtiChild[] | null): DocumentNode {
    return this.says(this.bodyWithout(), inner);
  }
  /** The words with the prompt where the interaction stood. */
  protected prompted(): DocumentNode {
    return this.words((node) => {
      const prompt = childNamed(node, 'prompt');
      return prompt === undefined ? [] : [h('div', {}, ...prompt.children)];
    });
  }

  protected declaredMax(): number {
    const outcome = (id: string): QtiNode | undefined =>
      childrenNamed(this.item, 'outcomeDeclaration').find((d) => attr(d, 'identifier') === id);
    const max = Number(wordsIn(childNamed(outcome('MAXSCORE'), 'defaultValue', 'value')) || attr(outcome('SCORE'), 'normalMaximum') || '1');
    return Number.isFinite(max) && max > 0 ? max : 1;
  }

  /** Things to match and to order are plain words here. */
  protected texts(nodes: readonly QtiNode[], element: string): string[] {
    return nodes.map((node) => {
      const document = this.says(node.children);
      const text = plainText(document).replace(/\s+/g, ' ').trim();
      if (JSON.stringify(document).includes('"picture"'))
        throw new Unread(element, 'Pictures to match or to put in order have no place here.');
      return text;
    });
  }

  protected unitsOf(node: QtiNode | undefined): NumberRules['units'] {
    if (node?.name !== 'inlineChoiceInteraction') return [];
    const declaration = this.declarations.get(attr(node, 'responseIdentifier'));
    const isFactor = this.processing
      .all('product')
      .some((p) => allNamed(p, 'mapResponse').some((m) => attr(m, 'identifier') === declaration?.id) && allNamed(p, 'variable').length > 0);
    if (!isFactor) return [];
    return childrenNamed(node, 'inlineChoice').flatMap((choice) => {
      const found = childrenNamed(declaration?.mapping ?? undefined, 'mapEntry').find(
        (e) => attr(e, 'mapKey') === attr(choice, 'identifier'),
      );
      return found === undefined ? [] : [{ name: wordsIn(choice).trim(), factor: attr(found, 'mappedValue') }];
    });
  }

  /** The key as the declarations have it. */
  protected declaredRight(): ReadonlyMap<string, QtiValue> {
    return new Map(
      [...this.declarations.values()].flatMap((d): [string, QtiValue][] =>
        d.correct.length === 0 ? [] : [[d.id, d.correct.map((c) => (['float', 'integer'].includes(d.baseType) ? Number(c) : c))]],
      ),
    );
  }
  /** An answer that is wholly right; null where none is known without a person. */
  #rightOf(a: Asking, key: QuestionKey, ids: readonly string[]): ReadonlyMap<string, QtiValue> | null {
    if (key.kind === 'calculated') return null;
    const declared = this.declaredRight();
    if (declared.has(a.declaration.id)) return declared;
    if (!('choices' in key)) return null;
    const best = ids.filter((_, n) => (key.choices[n]?.share ?? 0) >= (key.kind === 'several' ? 1 : ALL));
    return best.length === 0 ? null : new Map([[a.declaration.id, best]]);
  }

  /** What is said afterwards, by what the processing shows for right, wrong and every answer. */
  protected feedback(a: Asking, key: QuestionKey, full: number): { key: QuestionKey; feedback: QuestionFeedback } {
    const said: { right: DocumentNode | null; wrong: DocumentNode | null; general: DocumentNode | null } = {
      right: null,
      wrong: null,
      general: null,
    };
    let made = key;
    const { id } = a.declaration;
    const ids = 'choices' in key ? allNamed(this.body, 'simpleChoice', 'hottext').map((c) => attr(c, 'identifier')) : [];
    const best = this.#rightOf(a, key, ids);
    const right = best !== null && full > 0 && a.processing.score(best) >= full - 1e-9 ? best : null;
    for (const modal of childrenNamed(this.item, 'modalFeedback')) {
      const document = this.says(modal.children);
      const shows = (responses: ReadonlyMap<string, QtiValue>): boolean => {
        a.processing.score(responses);
        const holds = (a.processing.outcome(attr(modal, 'outcomeIdentifier')) ?? []).includes(attr(modal, 'identifier'));
        return attr(modal, 'showHide') === 'hide' ? !holds : holds;
      };
      const [onRight, onWrong] = right !== null ? [shows(right), shows(new Map())] : guessed(attr(modal, 'identifier'));
      const when = onRight && onWrong ? 'general' : onRight ? 'right' : onWrong ? 'wrong' : null;
      const after = key.kind === 'single' || key.kind === 'truth' ? ids.filter((c) => shows(new Map([[id, [c]]]))) : [];
      const isOwn = after.length > 0 && (when === null || (when === 'right' && said.right !== null));
      if (isOwn && 'choices' in made) {
        const choices = made.choices.map((c, n) => (after.includes(ids[n] ?? '') ? { ...c, feedback: document } : c));
        made = { ...made, choices } as QuestionKey;
      } else if (when === null || said[when] !== null)
        this.note('modalFeedback', `The words “${plainText(document).slice(0, 60)}” are shown by a rule that has no place here.`);
      else said[when] = document;
    }
    return { key: made, feedback: said };
  }
}
