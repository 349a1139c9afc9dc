/** Of our face at 12 px, on average. */
const LETTER_WIDTH = 6.4;

/** A title over two lines at most in a width, cut where it is longer. */
export function titleLines(title: string, width: number): readonly string[] {
  const most = Math.max(5, Math.floor((width - 6) / LETTER_WIDTH));
  const lines: string[] = [''];
  for (const word of title.split(' ')) {
    const last = lines.at(-1) ?? '';
    if (last === '') lines[lines.length - 1] = word;
    else if (last.length + word.length < most) lines[lines.length - 1] = `${last} ${word}`;
    else lines.push(word);
  }
  return lines.slice(0, 2).map((line, n) => {
    const isCut = line.length > most || (n === 1 && lines.length > 2);
    return isCut ? `${line.slice(0, most - 1)}…` : line;
  });
}
