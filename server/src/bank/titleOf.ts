/** What a question is called where it has no title: the first of its words. */
export function titleOf(title: string, plain: string): string {
  if (title !== '') return title;
  const line = plain.replace(/\s+/g, ' ').trim();
  return line === '' ? 'A question without words' : line.length <= 80 ? line : `${line.slice(0, 78)}…`;
}
