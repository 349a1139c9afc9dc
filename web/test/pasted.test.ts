/** @jest-environment jsdom */
import { cleanPasted } from '../src/parts/blocks/pasted.ts';

const line = (words: string, level = 1, mark = '·'): string =>
  `<p class="MsoListParagraph" style="mso-list:l0 level${level} lfo1"><span style="mso-list:Ignore">${mark}<span>&nbsp;</span></span>${words}</p>`;

describe('what is pasted', () => {
  it('drops comments, styles, scripts and what only a word processor knows', () => {
    const clean = cleanPasted(
      '<html xmlns:o="x"><head><style>p{}</style><title>T</title></head><!--[if gte mso 9]><xml><o:p/></xml><![endif]--><body><p>Words<o:p></o:p></p><script>alert(1)</script></body></html>',
    );
    expect(clean).toContain('Words');
    expect(clean).not.toMatch(/style|script|alert|title|o:p|xml|\[if/i);
  });

  it('makes lists of lines that are lists only by their style, without the marks typed before them', () => {
    expect(cleanPasted(line('Thin') + line('Thick'))).toBe('<ul><li><p>Thin</p></li><li><p>Thick</p></li></ul>');
    expect(cleanPasted(line('First', 1, '1.') + line('Second', 1, '2.'))).toBe('<ol><li><p>First</p></li><li><p>Second</p></li></ol>');
    expect(cleanPasted(line('First', 1, 'a)'))).toMatch(/^<ol>/);
  });

  it('puts a list inside another by its level, and back out again', () => {
    expect(cleanPasted(line('Oils') + line('Thin', 2) + line('Thick', 2) + line('Greases'))).toBe(
      '<ul><li><p>Oils</p><ul><li><p>Thin</p></li><li><p>Thick</p></li></ul></li><li><p>Greases</p></li></ul>',
    );
  });

  it('begins a list that starts too deep without losing a word', () => {
    expect(cleanPasted(line('Deep', 3))).toContain('Deep');
  });

  it('does not join lists that other words part', () => {
    const clean = cleanPasted(`${line('One')}<p>between</p>${line('Two')}`);
    expect(clean.match(/<ul>/g)).toHaveLength(2);
    expect(clean.indexOf('between')).toBeLessThan(clean.indexOf('Two'));
  });

  it('brings headings to our levels', () => {
    expect(cleanPasted('<h1>Top</h1><h2>Below</h2><h5>Deep</h5><h6>Deepest</h6>')).toBe(
      '<h2>Top</h2><h2>Below</h2><h4>Deep</h4><h4>Deepest</h4>',
    );
  });

  it('keeps bold, links and tables, and takes no picture of another place', () => {
    const table = '<table><tbody><tr><td>1</td></tr></tbody></table>';
    const clean = cleanPasted(
      `<p><b>Bold</b> <a href="https://example.org">link</a></p>${table}<p>a <img src="https://elsewhere.example/x.png"></p>`,
    );
    expect(clean).toContain('<b>Bold</b>');
    expect(clean).toContain('href="https://example.org"');
    expect(clean).toContain('<table>');
    expect(clean).not.toContain('elsewhere');
  });

  it('keeps a picture that is a file of the course', () => {
    expect(cleanPasted('<p><img data-file="f" src="/api/x"></p>')).toContain('data-file="f"');
  });

  it('drops paragraphs with nothing but spaces', () => {
    expect(cleanPasted('<p>&nbsp;</p><p> </p><p>Words</p>')).toBe('<p>Words</p>');
  });
});
