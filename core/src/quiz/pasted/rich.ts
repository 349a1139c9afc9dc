/** Words with their styles: a code for each letter beside it, so that both are cut at the same places. */
export interface Rich {
  readonly text: string;
  readonly marks: string;
}
const STYLES = ['b', 'i'] as const;
type Style = (typeof STYLES)[number];
const CODE: { readonly [style in Style]: number } = { b: 1, i: 2 };
const TAG = /<(\/?)(b|strong|i|em)>|\*\*/gi;
const styleOf = (name: string): Style => {
  const low = name.toLowerCase();
  return low === 'strong' ? 'b' : low === 'em' ? 'i' : (low as Style);
};

const LEVEL = /<(sub|sup)>([^<]{1,40})<\/\1>/gi;
const PLAIN = '0123456789+-=()n';
const LOW = '₀₁₂₃₄₅₆₇₈₉₊₋₌₍₎ₙ';
const HIGH = '⁰¹²³⁴⁵⁶⁷⁸⁹⁺⁻⁼⁽⁾ⁿ';
/** What is set low or high in letters that are so by themselves; what has none is written with a sign. */
const levelled = (line: string): string =>
  line.replace(LEVEL, (_, level: string, inside: string) => {
    const isLow = level.toLowerCase() === 'sub';
    const row = isLow ? LOW : HIGH;
    const letters = Array.from(inside.replace(/−/g, '-'), (letter) => row[PLAIN.indexOf(letter)]);
    return letters.every((one) => one !== undefined) ? letters.join('') : `${isLow ? '_' : '^'}(${inside})`;
  });

/**
 * A line with its styles read: `<b>`, `<i>`, and `**` in pairs for bold; what is set low or high becomes letters that are so.
 * Worked example: `<b>H<sub>2</sub>O</b>` is the text `H₂O`, all of it bold.
 */
export function readRich(typed: string): Rich {
  if (!typed.includes('<') && !typed.includes('**')) return { text: typed, marks: '0'.repeat(typed.length) };
  const line = levelled(typed);
  // One pair of stars that is never closed marks an answer, and no bold.
  const isBoldTyped = (line.match(/\*\*/g)?.length ?? 0) % 2 === 0 && !line.includes('***');
  let [text, marks, code, from] = ['', '', 0, 0];
  const take = (to: number): void => {
    text += line.slice(from, to);
    marks += code.toString(16).repeat(to - from);
  };
  for (const tag of line.matchAll(TAG)) {
    if (tag[2] === undefined && !isBoldTyped) continue;
    take(tag.index);
    from = tag.index + tag[0].length;
    if (tag[2] === undefined) code ^= CODE.b;
    else if (tag[1] === '/') code &= ~CODE[styleOf(tag[2])];
    else code |= CODE[styleOf(tag[2])];
  }
  take(line.length);
  return { text, marks };
}
export const cut = (rich: Rich, from: number, to = rich.text.length): Rich => ({
  text: rich.text.slice(from, to),
  marks: rich.marks.slice(from, to),
});
/** Without spaces at the ends, and with single ones within. */
export function tidy(rich: Rich): Rich {
  if (!/^\s|\s$|\s\s|[\t\n\r\v\f]/.test(rich.text)) return rich;
  let [text, marks] = ['', ''];
  for (const [n, letter] of [...Array.from({ length: rich.text.length }, (_, at) => rich.text[at] ?? '')].entries()) {
    const isSpace = /\s/.test(letter);
    if (isSpace && (text === '' || text.endsWith(' '))) continue;
    text += isSpace ? ' ' : letter;
    marks += rich.marks[n] ?? '0';
  }
  const end = text.trimEnd().length;
  return { text: text.slice(0, end), marks: marks.slice(0, end) };
}
export const joined = (parts: readonly Rich[], by: string): Rich => ({
  text: parts.map((p) => p.text).join(by),
  marks: parts.map((p) => p.marks).join('0'.repeat(by.length)),
});
/** Without any style, as nearly every line is. */
const isPlain = ({ marks }: Rich): boolean => !/[^0]/.test(marks);
/** Whether every letter is bold. */
export const isBold = (rich: Rich): boolean => {
  if (isPlain(rich)) return false;
  const { text, marks } = rich;
  const letters = [...text.matchAll(/[\p{L}\p{N}]/gu)];
  return letters.length > 0 && letters.every((m) => (parseInt(marks[m.index] ?? '0', 16) & CODE.b) !== 0);
};
const without = (rich: Rich, style: Style): Rich => ({
  ...rich,
  marks: rich.marks.replace(/./g, (code) => (parseInt(code, 16) & ~CODE[style]).toString(16)),
});
/** Bold that is said of all of it says nothing. */
export const unbold = (rich: Rich): Rich => (isBold(rich) ? without(rich, 'b') : rich);

/** Runs of letters of one style. */
export function runsOf({ text, marks }: Rich): readonly { readonly text: string; readonly styles: readonly Style[] }[] {
  const runs: { text: string; code: string }[] = [];
  for (let n = 0; n < text.length; n += 1) {
    const code = marks[n] ?? '0';
    const last = runs.at(-1);
    if (last?.code === code) last.text += text[n] ?? '';
    else runs.push({ text: text[n] ?? '', code });
  }
  return runs.map((run) => ({ text: run.text, styles: STYLES.filter((style) => (parseInt(run.code, 16) & CODE[style]) !== 0) }));
}
/** The line as it is written with its styles. */
export const written = (rich: Rich): string =>
  isPlain(rich)
    ? rich.text
    : runsOf(rich)
        .map(({ text, styles }) => styles.reduceRight((inside, style) => `<${style}>${inside}</${style}>`, text))
        .join('');
